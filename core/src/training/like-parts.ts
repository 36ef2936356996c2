import { nameKey, type Part } from '../board';
import type { Move } from './move';

/** Whether a part is set by hand, and its setting is lost with it. */
export const isTrimmer = ({ role = '' }: Part): boolean => /\b(trimmer|preset)\b/i.test(role);

/** Whether two parts of one piece each are of a kind: either can stand in the place of the other. */
export function isAlike(a: readonly Part[], b: readonly Part[]): boolean {
  const [one, other] = [a[0]!, b[0]!];
  const worth = (part: Part): unknown => ({
    ...part,
    ref: '',
    pins: part.pins.length,
    ...NO_PLACE,
  });
  return (
    a.length === 1 && b.length === 1 && JSON.stringify(worth(one)) === JSON.stringify(worth(other))
  );
}

/** What says where a part is and not what it is. */
const NO_PLACE = {
  role: undefined,
  note: undefined,
  section: undefined,
  fitYear: undefined,
  side: undefined,
  positionMm: undefined,
  pinPositionsMm: undefined,
};

/**
 * A fault's name after two parts changed places; undefined where it stays: a joint or a bridge is
 * of the board.
 */
export function swappedName(name: string, a: string, b: string): string | undefined {
  const colon = name.lastIndexOf(':');
  const [place, mode] = [name.slice(0, colon), name.slice(colon)];
  if (place.includes('~') || mode === ':dry') return undefined;
  const [ref = '', ...pin] = place.split('.');
  const to = nameKey(ref) === nameKey(a) ? b : nameKey(ref) === nameKey(b) ? a : undefined;
  return to && [to, ...pin].join('.') + mode;
}

/** Where a fault is after these moves: what changed places took its faults with it. */
export const faultAfter = (fault: string, moves: readonly Move[]): string =>
  moves.reduce(
    (name, move) => (move.kind === 'swap' ? (swappedName(name, ...move.refs) ?? name) : name),
    fault,
  );
