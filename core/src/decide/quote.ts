/** A stage of the unit that was not reached yet, with the chance that a fault of its own waits there. */
export interface StageAhead {
  readonly name: string;
  readonly title: string;
  readonly faulty: number;
}

/**
 * Chance that a stage which nobody could look at yet has a fault of its own. A unit that was used
 * until it failed seldom has a second one; after years of storage a chain is normal. From memory of
 * bench practice.
 */
export const FAULT_AHEAD = { used: 0.05, stored: 0.18 } as const;

/** Words on a card that speak of years on a shelf. */
const STORED = /\b(stor(ed|age)|shelf|attic|cellar|barn|years?)\b/i;
export const wasStored = (causeOfDeath: string): boolean => STORED.test(causeOfDeath);

/**
 * What a job comes to, stage by stage. Prices in one currency.
 */
export interface Quote {
  /** So far: minutes at the bench. */
  readonly spent: number;
  /** Until this fault is gone, on average. */
  readonly thisFault: number;
  /** Stages ahead: chance of a fault, and what one more round costs on average. */
  readonly ahead: readonly (StageAhead & { readonly price: number })[];
  /** All of it on average; and what nineteen of twenty such jobs stay below. */
  readonly likely: number;
  readonly nearlyAll: number;
  /** The agreed limit; and the chance that the job stays within it. Undefined where none was agreed. */
  readonly limit: number | undefined;
  readonly within: number | undefined;
  /** Where to stop and ask: before the round that may go past the limit. */
  readonly stopAt: number | undefined;
  /** Price of stopping now: putting it together and handing it back. */
  readonly closing: number;
}

export interface QuoteInput {
  readonly spentMinutes: number;
  readonly minutePrice: number;
  readonly thisFault: number;
  readonly ahead: readonly StageAhead[];
  readonly roundPrice: number;
  readonly closingMinutes: number;
  readonly limit?: number | undefined;
}

/**
 * Chances of 0, 1, 2 … faults among independent stages. Source: the Poisson binomial distribution,
 * by its recursion.
 */
export function countsOf(chances: readonly number[]): readonly number[] {
  let counts = [1];
  for (const p of chances) {
    const next = new Array<number>(counts.length + 1).fill(0);
    counts.forEach((share, k) => {
      next[k]! += share * (1 - p);
      next[k + 1]! += share * p;
    });
    counts = next;
  }
  return counts;
}

/** The quote of a job in stages, with the stop-loss against the agreed limit. */
export function quoteOf(input: QuoteInput): Quote {
  const { minutePrice, roundPrice, limit, ahead, thisFault } = input;
  const spent = input.spentMinutes * minutePrice;
  const closing = input.closingMinutes * minutePrice;
  const counts = countsOf(ahead.map(({ faulty }) => faulty));
  const priceOf = (rounds: number): number => spent + thisFault + rounds * roundPrice + closing;
  let sum = 0;
  const most = counts.findIndex((share) => (sum += share) >= 0.95 - 1e-12);
  const within =
    limit === undefined
      ? undefined
      : counts.reduce((total, share, k) => (priceOf(k) <= limit ? total + share : total), 0);
  return {
    spent,
    thisFault,
    ahead: ahead.map((stage) => ({ ...stage, price: stage.faulty * roundPrice })),
    likely: counts.reduce((total, share, k) => total + share * priceOf(k), 0),
    nearlyAll: priceOf(most < 0 ? counts.length - 1 : most),
    limit,
    within,
    stopAt: limit === undefined ? undefined : Math.max(0, limit - closing),
    closing,
  };
}

/** The middle of what closed cases of a kind took, minutes; undefined under three of them. */
export function usualMinutes(closed: readonly number[]): number | undefined {
  if (closed.length < 3) return undefined;
  const sorted = [...closed].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
