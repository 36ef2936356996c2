import { nameKey, replaceableRef } from '@hanzai/core/board';
import type { Journal } from './journal';

/**
 * What a guided check multiplies the odds of its part by. A check covers more than one reading, but
 * not everything that can be wrong with a part. From memory of bench practice.
 */
const FACTOR = { good: 0.1, doubtful: 1, bad: 30 } as const;

/** By part, what its newest check says of it since the last repair; none where it says nothing. */
export function guidedFactorsOf({
  guided,
  standing,
  ledger,
}: Journal): Readonly<Record<string, number>> {
  const place = new Map(standing.map(({ id }, i) => [id, i]));
  const found = new Map<string, number>();
  for (const entry of guided) {
    const { ref, verdict } = entry.body;
    if (ref === '') continue;
    const own = replaceableRef(ref);
    // What was said of a part that came off since is said of another one.
    const isOld = ledger.some(
      (line) =>
        nameKey(line.ref) === nameKey(own) && place.get(line.entry.id)! > place.get(entry.id)!,
    );
    if (isOld) found.delete(own);
    else found.set(own, FACTOR[verdict]);
  }
  return Object.fromEntries([...found].filter(([, factor]) => factor !== 1));
}
