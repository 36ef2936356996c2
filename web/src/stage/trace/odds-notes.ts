import type { Touched } from '@hanzai/core/bench';
import type { OddsSource } from '../../case/engine-request';

/** A source that moves a part's odds by less is not told beside them. */
const TOLD = 1.5;
/** Sources that are told in their own words, by what was found. */
const IN_OWN_WORDS = 'what was seen on the board';

/**
 * What stands beside a part in the line-up: what moved its odds before any reading, and by how much
 * (`odds × 2.9: closed cases`), so that what was learned is never taken for what was measured.
 */
export function oddsNotes(
  touched: readonly Touched[],
  sources: readonly OddsSource[],
): ReadonlyMap<string, string> {
  const notes = new Map<string, string[]>();
  const add = (ref: string, factor: number, because: string): void => {
    if (Math.max(factor, 1 / factor) <= TOLD) return;
    const own = notes.get(ref) ?? [];
    notes.set(ref, own);
    own.push(`odds × ${factor.toFixed(factor < 1 ? 2 : 1)}: ${because}`);
  };
  const seen = new Set<string>();
  for (const { ref, factor, reason } of touched)
    if (!seen.has(ref) && factor > TOLD) {
      seen.add(ref);
      add(ref, factor, reason);
    }
  for (const { title, factors } of sources)
    if (title !== IN_OWN_WORDS)
      for (const [ref, factor] of Object.entries(factors)) add(ref, factor, title);
  return new Map([...notes].map(([ref, own]) => [ref, own.join('; ')]));
}
