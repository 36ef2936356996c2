/**
 * One change made between two tests, with what it was believed to be worth before: the probability
 * that its part was the fault. Undefined where nobody had said.
 */
export interface Change {
  readonly ref: string;
  readonly believed?: number | undefined;
}

export interface Credit {
  readonly ref: string;
  /**
   * Share of the cure that this change has earned, and so the weight with which it may teach the
   * failure patterns.
   */
  readonly share: number;
}

/** A change that nobody suspected may still have done it. From memory of bench practice. */
const UNSUSPECTED = 0.02;

/**
 * Shares the credit for a cure among the changes made since the last test that failed: one change
 * has all of it, several have what they were believed to be worth.
 * Where nothing was believed, each has the same. Source: Bayes' rule for one fault that one of the
 * changes cured.
 */
export function shareCredit(changes: readonly Change[]): readonly Credit[] {
  if (changes.every(({ believed }) => believed === undefined))
    return changes.map(({ ref }) => ({ ref, share: 1 / changes.length }));
  const weights = changes.map(({ believed }) => Math.max(UNSUSPECTED, believed ?? UNSUSPECTED));
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  return changes.map(({ ref }, i) => ({ ref, share: weights[i]! / total }));
}
