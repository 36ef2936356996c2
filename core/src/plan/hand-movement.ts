import { GROUND, type BoardIndex, type Part } from '../board';
import type { Measurement } from '../instrument';

/**
 * How fast a probe is moved and its point found again, mm a second, and how long it takes to turn a
 * board over, seconds. From memory of bench practice.
 */
const PACE_MM_PER_SECOND = 50;
const TURN_SECONDS = 10;

interface Spot {
  readonly x: number;
  readonly y: number;
  readonly side: 'top' | 'bottom';
  readonly through: boolean;
}

/** Where a point of a measurement can be touched; none where the sheet has no places for it. */
function spotsOf(index: BoardIndex, { net, pin }: Measurement['at']): readonly Spot[] {
  const pins: readonly { readonly part: Part; readonly index: number }[] = pin
    ? [pin]
    : (index.pinsOfNet.get(net) ?? []);
  return pins.flatMap(({ part, index: i }): Spot[] => {
    const at = part.pinPositionsMm?.[i] ?? part.positionMm;
    const through = THROUGH_HOLE.test(part.package ?? '');
    return at ? [{ x: at[0], y: at[1], side: part.side ?? 'top', through }] : [];
  });
}

/** Packages whose legs go through the board: both of its sides have them. */
const THROUGH_HOLE = /^(dip|sip|to-|radial|axial)/i;

/**
 * From which sides of the board a measurement can be taken whole; both where the sheet has no places
 * for a point of it. A point is on a side where one of its pins is.
 */
export function sidesOf(index: BoardIndex, { at, to }: Measurement): readonly Spot['side'][] {
  const points = [at, to].filter(({ net, pin }) => net !== GROUND || pin !== undefined);
  return SIDES.filter((side) =>
    points.every((point) => {
      const spots = spotsOf(index, point);
      return spots.length === 0 || spots.some((spot) => spot.through || spot.side === side);
    }),
  );
}
const SIDES = ['top', 'bottom'] as const;

/** Seconds from where a probe was to the nearest spot of a point. */
function seconds(from: readonly Spot[], to: readonly Spot[]): number {
  if (from.length === 0 || to.length === 0) return 0;
  return Math.min(
    ...from.flatMap((a) =>
      to.map(
        (b) =>
          Math.hypot(a.x - b.x, a.y - b.y) / PACE_MM_PER_SECOND +
          (a.side === b.side ? 0 : TURN_SECONDS),
      ),
    ),
  );
}

/**
 * Minutes that hands take from one measurement to the next, by the places on the board: the slower of
 * the two probes, each free to go to either point. A clip on ground stays where it is. 0 where places
 * are not known, and before the first reading.
 */
export function handMinutes(
  index: BoardIndex,
  from: Measurement | undefined,
  to: Measurement,
): number {
  if (!from) return 0;
  const points = ({ at, to: other }: Measurement) =>
    [at, other].filter(({ net, pin }) => net !== GROUND || pin !== undefined);
  const [a, b] = [points(from), points(to)].map((own) => own.map((point) => spotsOf(index, point)));
  const [a1 = [], a2 = a1] = a!;
  const [b1 = [], b2 = b1] = b!;
  const straight = Math.max(seconds(a1, b1), seconds(a2, b2));
  const crossed = Math.max(seconds(a1, b2), seconds(a2, b1));
  return Math.min(straight, crossed) / 60;
}
