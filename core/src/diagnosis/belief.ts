import type { Hypothesis } from '../fault';
import type { Readout } from '../instrument';

export interface Suspect {
  readonly hypothesis: Hypothesis;
  readonly probability: number;
}

export interface PartBelief {
  readonly ref: string;
  readonly probability: number;
  /**
   * Weight of evidence of each reading for this part against everything else, decibans, in the
   * order of the readings; given all the other readings.
   */
  readonly weights: readonly number[];
}

/** One place where the sheet may be wrong. */
export interface SheetDoubt {
  readonly name: string;
  /** In words: "R12 may be 47k, not 4k7". */
  readonly title: string;
  /** What settles it. */
  readonly check: string;
  readonly probability: number;
}

/** What the readings say. Probabilities of suspects, healthy and unmodelled sum to 1. */
export interface Belief {
  readonly suspects: readonly Suspect[];
  readonly byPart: readonly PartBelief[];
  /** That nothing is wrong with any part; the sheet may be. */
  readonly healthy: number;
  readonly unmodelled: number;
  /** Where the sheet may be wrong, likeliest first; empty where the readings do not ask for it. */
  readonly sheet: readonly SheetDoubt[];
  /** Positions of readings that not even the likeliest explanation explains, worst first. */
  readonly unexplained: readonly number[];
  /** What each reading should have been on a healthy board. */
  readonly expected: readonly Readout[];
}

/**
 * Log-odds in decibans; held within ±300 so that a certainty stays a number. Source: I. J. Good,
 * Probability and the Weighing of Evidence, 1950.
 */
export function decibans(probability: number): number {
  const odds = Math.max(probability, 1e-30) / Math.max(1 - probability, 1e-30);
  return 10 * Math.log10(odds);
}
