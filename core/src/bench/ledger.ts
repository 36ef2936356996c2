import {
  NO_LIBRARY,
  nameKey,
  replaceablePart,
  type BoardIndex,
  type DeviceLibrary,
} from '../board';
import { siteKind } from '../fault';
import { isPolarised, readSpec, specOfParts } from '../part';
import { replacementObjection } from './replacement';

/** One line of the ledger of what came off a board and what went on. Lines are only ever added. */
export interface LedgerLine {
  readonly ref: string;
  /**
   * removed: off the board. fitted: on the board; of a bridge or a cut: mended. leftOut: stays off
   * on purpose, with the reason in `note`.
   */
  readonly action: 'removed' | 'fitted' | 'leftOut';
  /** What went on (or came off), as written: `470u 35V`. */
  readonly value: string;
  readonly polarityChecked: boolean;
  /** How it sat, or sits now: `minus left`. Undefined or empty where nobody wrote it down. */
  readonly sat?: string | undefined;
  readonly note: string;
}

export interface LedgerState {
  readonly ref: string;
  readonly removed: number;
  readonly fitted: number;
  readonly leftOut: boolean;
  /** Off the board and neither replaced nor left out on purpose. */
  readonly missing: boolean;
}

/** The ledger added up: designators in the order they first appear. */
export function reconcile(lines: readonly LedgerLine[]): readonly LedgerState[] {
  const states = new Map<
    string,
    { ref: string; removed: number; fitted: number; leftOut: boolean; missing: boolean }
  >();
  for (const line of lines) {
    const state = states.get(nameKey(line.ref)) ?? {
      ref: line.ref,
      removed: 0,
      fitted: 0,
      leftOut: false,
      missing: false,
    };
    states.set(nameKey(line.ref), state);
    if (line.action === 'removed') state.removed += 1;
    if (line.action === 'fitted') state.fitted += 1;
    state.leftOut = line.action === 'leftOut' || (state.leftOut && line.action !== 'fitted');
    state.missing = state.removed > state.fitted && !state.leftOut;
  }
  return [...states.values()];
}

/** Designators that are off the board at the moment: removed (or left out) and not fitted since. */
export function absentParts(lines: readonly LedgerLine[]): readonly string[] {
  return reconcile(lines)
    .filter((state) => state.removed > state.fitted)
    .map((state) => state.ref);
}

/** Designators that are off the board and neither replaced nor left out on purpose. */
export function missingParts(lines: readonly LedgerLine[]): readonly string[] {
  return reconcile(lines)
    .filter((state) => state.missing)
    .map((state) => state.ref);
}

/** How a part sat when it last came off; empty where that was not written down. */
export function satOf(lines: readonly LedgerLine[], ref: string): string {
  const key = nameKey(ref);
  return lines.findLast((one) => one.action === 'removed' && nameKey(one.ref) === key)?.sat ?? '';
}

const inOneWay = (words: string): string =>
  words
    .toLowerCase()
    .replace(/[\s,]+/g, ' ')
    .trim();

/**
 * Why a part may not go on another way round than it came off: nobody said why. The one before may
 * have been the wrong way round; then the note says so.
 */
export function turnedRound(lines: readonly LedgerLine[], next: LedgerLine): string | undefined {
  const [before, after] = [satOf(lines, next.ref), next.sat ?? ''].map(inOneWay);
  if (!before || !after || before === after || next.note.trim() !== '') return undefined;
  return `${next.ref} sat ${before} and goes on ${after}: turn it, or say in the note why that is right`;
}

/** What was written down when a part last came off; empty where it did not. */
export function cameOffOf(lines: readonly LedgerLine[], ref: string): string {
  return (
    lines.findLast((line) => line.action === 'removed' && nameKey(line.ref) === nameKey(ref))
      ?.value ?? ''
  );
}

/** Why a line may not be written, or undefined where it may. library: of chips and regulators. */
export function ledgerObjection(
  index: BoardIndex,
  lines: readonly LedgerLine[],
  next: LedgerLine,
  library: DeviceLibrary = NO_LIBRARY,
): string | undefined {
  const found = replaceablePart(index, next.ref);
  if (!found) return siteObjection(index, next);
  const { ref: known, parts } = found;
  const state = reconcile(lines).find((entry) => nameKey(entry.ref) === nameKey(next.ref));
  const off = state !== undefined && state.removed > state.fitted;
  if (next.action === 'removed' && off) return `${known} is already off the board`;
  if (next.action === 'fitted' && !off)
    return `${known} has not been taken off: enter what came off first`;
  if (next.action === 'leftOut' && !off) return `${known} is on the board: take it off first`;
  if (next.action === 'leftOut' && next.note.trim() === '') return `say why ${known} stays off`;
  if (next.action !== 'fitted') return undefined;
  if (next.value.trim() === '') return `say what went on for ${known}`;
  const turned = turnedRound(lines, next);
  if (turned !== undefined) return turned;
  const offered = readSpec(next.value, library, specOfParts(parts).kind);
  if (parts.some((part) => isPolarised(part, offered)) && !next.polarityChecked)
    return `check which way round ${known} sits, and say so`;
  return replacementObjection(
    index,
    known,
    next.value,
    next.note,
    library,
    cameOffOf(lines, known),
  );
}

/** A bridge or a cut is no part: it can only be mended. */
function siteObjection(index: BoardIndex, { ref, action, value }: LedgerLine): string | undefined {
  if (!siteKind(index, ref)) return `the board has no part ${ref}`;
  if (action !== 'fitted') return `${ref} is no part: it is mended where it is`;
  return value.trim() === '' ? `say how ${ref} was mended` : undefined;
}
