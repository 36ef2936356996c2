import type { BoardIndex } from '@hanzai/core/board';
import {
  readout,
  resolveMeasurement,
  withinBand,
  type Readout,
  type ReadingValue,
} from '@hanzai/core/instrument';
import type { ExpectRequest } from '../workers/engine-messages';
import { predictorOf } from './good-board';
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

/** Answers what a sound board shows at a point; undefined where there is no such point. */
export type Expect = (
  setup: string,
  kind: string,
  at: string,
  to: string,
) => Promise<Expectation | undefined>;

/** Puts an expected reading into words. */
export function inWords(expected: Readout): Expectation {
  return { display: expected.display, band: bandText(expected) };
}

/** Puts an expected reading into words and says whether a reading lies in its band. */
export function judged(expected: Readout, value: ReadingValue): JudgedExpectation {
  return { ...inWords(expected), within: withinBand(value, expected) };
}

/** What a sound board shows at a point, with some parts off it. One circuit is solved at first. */
export function expectationAt(
  index: BoardIndex,
  { setup, kind, at, to, absent, meter }: ExpectRequest,
): Expectation | undefined {
  const resolved = resolveMeasurement(index, setup, kind, at, to);
  if (!resolved.ok) return undefined;
  const measurement = meter ? { ...resolved.measurement, meter } : resolved.measurement;
  return inWords(readout(measurement.kind, predictorOf(index).healthy(measurement, absent)));
}
