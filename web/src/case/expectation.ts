import type { BoardIndex } from '@hanzai/core/board';
import type { Predictor } from '@hanzai/core/diagnosis';
import {
  readout,
  resolveMeasurement,
  withinBand,
  type Readout,
  type ReadingValue,
} from '@hanzai/core/instrument';
import { bandText } from './wording';

/** What a sound board shows, in words. */
export interface Expectation {
  readonly display: string;
  /** `8.42 V to 8.93 V`; empty where it is not a number. */
  readonly band: string;
}

/** An expectation with whether a reading lies in it. */
export interface JudgedExpectation extends Expectation {
  readonly within: boolean;
}

export type Expect = (
  setup: string,
  kind: string,
  at: string,
  to: string,
) => Expectation | undefined;

/** Puts an expected reading into words. */
export function inWords(expected: Readout): Expectation {
  return { display: expected.display, band: bandText(expected) };
}

/** Puts an expected reading into words and says whether a reading lies in its band. */
export function judged(expected: Readout, value: ReadingValue): JudgedExpectation {
  return { ...inWords(expected), within: withinBand(value, expected) };
}

/**
 * Answers what a sound board shows at a point. absent: the parts that are off it. One circuit is
 * solved, at the first question.
 */
export function expectations(
  index: BoardIndex | undefined,
  predictor: Predictor | undefined,
  absent: readonly string[],
): Expect {
  return (setup, kind, at, to) => {
    const resolved = index && resolveMeasurement(index, setup, kind, at, to);
    if (!predictor || !resolved?.ok) return undefined;
    return inWords(
      readout(resolved.measurement.kind, predictor.healthy(resolved.measurement, absent)),
    );
  };
}
