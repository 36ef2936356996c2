import { NO_LIBRARY, nameKey, parseFuse, type DeviceLibrary } from '../board';
import type { Start } from '../block';
import type { ReadingKind, ReadingValue } from '../instrument';
import { readSpec } from '../part';
import { cameOffOf, reconcile, turnedRound, type LedgerLine } from './ledger';
import { startsStep, type ProofAnswer, type ProofStep } from './proving';
import { objectionOf, remarksWithoutSheet } from './replacement';

/** A rail that somebody named where no sheet does, with the volts that it has to have. */
export interface NamedRail {
  readonly net: string;
  readonly volt: number;
}

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

export interface CaseWithoutSheet {
  readonly rails: readonly NamedRail[];
  readonly readings: readonly LooseReading[];
  readonly symptoms: readonly { readonly key: string; readonly text: string }[];
  readonly answers: readonly ProofAnswer[];
  readonly starts: { readonly before: readonly Start[]; readonly since: readonly Start[] };
}

/** How far a rail may be from what was said of it. Common practice, no published source. */
const RAIL_TOLERANCE = 0.05;

const isGround = (net: string): boolean => net === '' || net === '0' || /^(gnd|ground)$/i.test(net);

/** The newest reading of a kind from a point to ground. */
function newest(
  readings: readonly LooseReading[],
  kind: ReadingKind,
  net: string,
): LooseReading | undefined {
  return readings.findLast(
    (one) => one.kind === kind && nameKey(one.at) === nameKey(net) && isGround(one.to),
  );
}

/**
 * What proves a repair without a sheet: the ohms of every rail that somebody named, judged by whoever
 * read them; its volts against what was said of it; the symptoms; as many clean starts as the
 * failed ones before ask for. An answer holds for the reading that it was given to.
 */
export function proofWithoutSheet(of: CaseWithoutSheet): readonly ProofStep[] {
  const { rails, readings, symptoms, answers, starts } = of;
  const now = readings.filter(({ current }) => current);
  const before = readings.filter(({ current }) => !current);
  const stateOf = (key: string): 'open' | 'pass' | 'fail' => {
    const answer = answers.findLast((one) => one.key === key);
    return answer === undefined ? 'open' : answer.passed ? 'pass' : 'fail';
  };
  const ohms = rails.map(({ net }): ProofStep => {
    const read = newest(now, 'resistance', net);
    const was = newest(before, 'resistance', net)?.value;
    const key = `ohms ${net} ${read?.key ?? 'not read'}`;
    return {
      type: 'rail',
      key,
      stage: 'shorts',
      net,
      must: 'no short: as other units of the kind, or as before',
      ...(was === undefined ? {} : { before: was }),
      ...(read === undefined ? {} : { after: read.value }),
      state: read === undefined ? 'open' : stateOf(key),
    };
  });
  const volts = rails.map(({ net, volt }): ProofStep => {
    const read = newest(now, 'voltage', net)?.value;
    const was = newest(before, 'voltage', net)?.value;
    const near =
      typeof read === 'number' && Math.abs(read - volt) <= RAIL_TOLERANCE * Math.abs(volt);
    return {
      type: 'rail',
      key: `volts ${net}`,
      stage: 'loaded',
      net,
      must: `${volt} V, 5 % either way`,
      ...(was === undefined ? {} : { before: was }),
      ...(read === undefined ? {} : { after: read }),
      state: read === undefined ? 'open' : near ? 'pass' : 'fail',
    };
  });
  const questions = symptoms.map(({ key, text }): ProofStep => ({
    type: 'ask',
    key,
    stage: 'function',
    question: text,
    state: stateOf(key),
  }));
  return [...ohms, ...volts, ...questions, ...startsStep(starts)];
}

/** What must be read before power comes on after a repair, where no sheet says it. */
export function firstPowerWithoutSheet(of: CaseWithoutSheet): string | undefined {
  const steps = proofWithoutSheet(of).filter(({ stage }) => stage === 'shorts');
  if (steps.length === 0)
    return 'no rail is known: name one in Prove, and read its ohms to ground, power off';
  for (const step of steps) {
    if (step.type !== 'rail' || step.state === 'pass') continue;
    if (step.after === undefined)
      return `before the first power, read the ohms from ${step.net} to ground, power off`;
    return step.state === 'open'
      ? `say in Prove whether the ohms from ${step.net} to ground are no short`
      : `the ohms from ${step.net} to ground are not good: find out why before power comes on`;
  }
  return undefined;
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
