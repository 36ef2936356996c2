import { GROUND, nameKey, pinPoint, pinsOn, replaceablePart, type BoardIndex } from '../board';
import type { Measurement } from '../instrument';

/** Chips with more legs than this are checked at the legs of their supply and by what they do. */
const MOST_LEGS = 20;

/**
 * Continuity of every new joint: from each leg of what went on to the next leg of another part on its
 * net. A leg whose net has no other part is left out: nothing can be reached from it.
 * @param fitted designators of parts that went on and are on the board
 */
export function jointChecks(index: BoardIndex, fitted: readonly string[]): readonly Measurement[] {
  const refs = [...new Set(fitted.map(nameKey))];
  return refs.flatMap((ref) => {
    const parts = replaceablePart(index, ref)?.parts ?? [];
    const own = new Set<string>(parts.map((part) => part.ref));
    const legs = parts.reduce((sum, part) => sum + part.pins.length, 0);
    if (legs > MOST_LEGS) return [];
    return parts.flatMap((part) =>
      part.pins.flatMap((written, pin): Measurement[] => {
        const net = index.netByKey.get(nameKey(written));
        if (net === undefined) return [];
        const other = pinsOn(index, net).find(
          (place) => !own.has(place.part.ref) && isReal(place.part.kind),
        );
        if (!other) return [];
        return [
          {
            setup: 'off',
            kind: 'continuity',
            at: pinPoint(index, part, pin),
            to: net === GROUND ? { net } : pinPoint(index, other.part, other.index),
          },
        ];
      }),
    );
  });
}

/** Sources of the sheet are no parts that a probe can be put on. */
const isReal = (kind: string): boolean => !/Source$/.test(kind);
