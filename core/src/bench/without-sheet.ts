import { NO_LIBRARY, nameKey, parseFuse, type DeviceLibrary } from '../board';
import type { ReadingKind, ReadingValue } from '../instrument';
import { readSpec } from '../part';
import { cameOffOf, reconcile, turnedRound, type LedgerLine } from './ledger';
import { objectionOf, remarksWithoutSheet } from './replacement';

/** A reading at a point that no sheet places. */
export interface LooseReading {
  readonly key: string;
  readonly setup: string;
  readonly kind: ReadingKind;
  readonly at: string;
  readonly to: string;
  readonly value: ReadingValue;
  /** True where it was taken after the last repair. */
  readonly current: boolean;
}

/** Letters of parts that have a right way round. */
const HAS_WAY = /^(C|D|ZD|LED|Q|TR|U|IC|J|K|T)\d/i;

/** Why a line of the ledger may not be written where no sheet says what the part is. */
export function ledgerObjectionWithoutSheet(
  lines: readonly LedgerLine[],
  next: LedgerLine,
  readings: readonly LooseReading[],
  library: DeviceLibrary = NO_LIBRARY,
): string | undefined {
  const { ref, action, value, note, polarityChecked } = next;
  const state = reconcile(lines).find((entry) => nameKey(entry.ref) === nameKey(ref));
  const off = state !== undefined && state.removed > state.fitted;
  if (action === 'removed') return off ? `${ref} is already off the board` : undefined;
  if (!off)
    return action === 'fitted'
      ? `${ref} has not been taken off: enter what came off first`
      : `${ref} is on the board: take it off first`;
  if (action === 'leftOut') return note.trim() === '' ? `say why ${ref} stays off` : undefined;
  if (value.trim() === '') return `say what went on for ${ref}`;
  const turned = turnedRound(lines, next);
  if (turned !== undefined) return turned;
  if (/^F\d/i.test(ref)) return fuseObjection(lines, next, readings);
  if (mayHaveWay(ref, value) && !polarityChecked)
    return `check which way round ${ref} sits, and say so`;
  return objectionOf(ref, remarksWithoutSheet(cameOffOf(lines, ref), value, library), note);
}

/** A fuse goes on as it came off, and not before the ohms of what it feeds were read. */
function fuseObjection(
  lines: readonly LedgerLine[],
  { ref, value }: LedgerLine,
  readings: readonly LooseReading[],
): string | undefined {
  const came = lines.findLast(
    (line) => line.action === 'removed' && nameKey(line.ref) === nameKey(ref),
  );
  const [was, is] = [parseFuse(came?.value ?? ''), parseFuse(value)];
  if (is.isWire || is.ampere === undefined)
    return `“${value}” is no fuse; expected its rating, for example T1A`;
  if (was.ampere === undefined)
    return `what came off as ${ref} is not written down: take that line back and enter its rating, for example T1A`;
  if (
    was.ampere !== is.ampere ||
    was.speed !== is.speed ||
    (was.volt !== undefined && (is.volt ?? 0) < was.volt)
  )
    return `${ref} was ${came!.value}: a fuse goes on as it came off, never larger, slower or for less volts`;
  return readings.some(({ kind, current }) => kind === 'resistance' && current)
    ? undefined
    : 'before a fuse goes on, read the ohms of what it feeds to ground, power off, and file them: it blew for a reason';
}

/** Whether something offered has a right way round, for a form that asks. */
export function mayHaveWay(ref: string, value: string): boolean {
  const offered = readSpec(value, undefined, 'capacitor');
  const kind = offered.kind === 'capacitor' ? offered.dielectric : undefined;
  return HAS_WAY.test(ref) && !['ceramic', 'film', 'bipolar'].includes(kind ?? '');
}
