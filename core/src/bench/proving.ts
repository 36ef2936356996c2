import { GROUND, type BoardIndex } from '../board';
import type { Predictor } from '../diagnosis';
import { measurementKey, readout, withinBand, type Measurement, type Reading, type Readout, type ReadingValue } from '../instrument';
import { isPlugged } from '../fault';
import { supplyRails } from './rails';

/** Stages of a proof, in the order they are safe to do. */
export type ProofStage = 'shorts' | 'unloaded' | 'loaded' | 'before' | 'function';

export type ProofStep =
  | {
      readonly type: 'measure';
      readonly key: string;
      readonly stage: ProofStage;
      readonly measurement: Measurement;
      readonly expected: Readout;
      /** What was read before the repair, where it was read. */
      readonly before?: ReadingValue;
      readonly after?: ReadingValue;
      readonly state: 'open' | 'pass' | 'fail';
    }
  | { readonly type: 'ask'; readonly key: string; readonly stage: 'function'; readonly question: string; readonly state: 'open' | 'pass' | 'fail' };

export interface ProofAnswer {
  readonly key: string;
  readonly passed: boolean;
}

/** The list that proves a repair: ohms rail to ground, rails without load, rails with load, what read wrong before, and the symptoms themselves.
 *  before: readings up to the repair. after: readings since. symptoms: as taken in, each with its key. leftOut: parts that stay off the board on
 *  purpose; the board is then proven as it is, and only readings taken with just these parts off count. */
export function proofSteps(
  index: BoardIndex,
  predictor: Predictor,
  before: readonly Reading[],
  after: readonly Reading[],
  symptoms: readonly { readonly key: string; readonly text: string }[],
  answers: readonly ProofAnswer[],
  leftOut: readonly string[] = [],
): readonly ProofStep[] {
  const steps = new Map<string, ProofStep>();
  const asItIs = after.filter(({ absent = [] }) => absent.join() === leftOut.join());
  const latest = (readings: readonly Reading[], key: string): ReadingValue | undefined =>
    readings.findLast((r) => measurementKey(r.measurement) === key)?.value;
  const add = (stage: ProofStage, measurement: Measurement): void => {
    const key = measurementKey(measurement);
    if (steps.has(key)) return;
    const expected = readout(measurement.kind, predictor.healthy(measurement, leftOut));
    const now = latest(asItIs, key);
    const was = latest(before, key);
    const state = now === undefined ? 'open' : withinBand(now, expected) ? 'pass' : 'fail';
    steps.set(key, {
      type: 'measure',
      key,
      stage,
      measurement,
      expected,
      state,
      ...(was === undefined ? {} : { before: was }),
      ...(now === undefined ? {} : { after: now }),
    });
  };
  const rails = supplyRails(index);
  const ground = { net: GROUND };
  for (const net of rails) add('shorts', { setup: 'off', kind: 'resistance', at: { net }, to: ground });
  if (index.board.parts.some((part) => !isPlugged(index.board, part, 'unloaded'))) {
    for (const net of rails) add('unloaded', { setup: 'unloaded', kind: 'voltage', at: { net }, to: ground });
  }
  for (const net of rails) add('loaded', { setup: 'on', kind: 'voltage', at: { net }, to: ground });
  for (const reading of before) {
    const expected = readout(reading.measurement.kind, predictor.healthy(reading.measurement, reading.absent));
    if (!withinBand(reading.value, expected) && (reading.absent ?? []).length === 0) add('before', reading.measurement);
  }
  const questions = symptoms.map(({ key, text }): ProofStep => {
    const answer = answers.findLast((entry) => entry.key === key);
    return { type: 'ask', key, stage: 'function', question: text, state: answer === undefined ? 'open' : answer.passed ? 'pass' : 'fail' };
  });
  return [...steps.values(), ...questions];
}

/** Power must stay off until every ohms check to ground has passed. */
export function powerAllowed(steps: readonly ProofStep[]): boolean {
  return steps.every((step) => step.stage !== 'shorts' || step.state === 'pass');
}

export function isProven(steps: readonly ProofStep[]): boolean {
  return steps.length > 0 && steps.every((step) => step.state === 'pass');
}
