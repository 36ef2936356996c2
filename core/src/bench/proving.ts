import { GROUND, type BoardIndex } from '../board';
import type { Predictor } from '../diagnosis';
import {
  measurementKey,
  readout,
  withinBand,
  type Measurement,
  type Reading,
  type Readout,
  type ReadingValue,
} from '../instrument';
import { isPlugged } from '../fault';
import { cleanRun, cleanStartsNeeded, type Start } from '../block';
import { plugEnds } from './mains';
import { rectifierInputs, supplyRails } from './rails';

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
  /** So many starts in a row that come through, because it was seen to fail. */
  | {
      readonly type: 'starts';
      readonly key: 'starts';
      readonly stage: 'function';
      readonly needed: number;
      readonly clean: number;
      readonly state: 'open' | 'pass' | 'fail';
    }
  /** A rail that somebody named, where no sheet says what it has to read. */
  | {
      readonly type: 'rail';
      readonly key: string;
      readonly stage: 'shorts' | 'loaded';
      readonly net: string;
      /** What it has to be, in words. */
      readonly must: string;
      readonly before?: ReadingValue;
      readonly after?: ReadingValue;
      readonly state: 'open' | 'pass' | 'fail';
    }
  | {
      readonly type: 'ask';
      readonly key: string;
      readonly stage: 'function';
      readonly question: string;
      readonly state: 'open' | 'pass' | 'fail';
    };

export interface ProofAnswer {
  readonly key: string;
  readonly passed: boolean;
}

/** Starts of the unit up to the last repair and since, in the order made. */
export interface ProofStarts {
  readonly before: readonly Start[];
  readonly since: readonly Start[];
}

const NO_STARTS: ProofStarts = { before: [], since: [] };

/**
 * The list that proves a repair: ohms of the primary and of every rail to ground, rails without
 * load, rails with load, what read wrong before, the symptoms themselves, and as many clean starts
 * as the failed ones before ask for. before: readings up to the repair. after: readings since.
 * symptoms: as taken in, each with its key. leftOut: parts that stay off the board on
 * purpose; the board is then proven as it is, and only readings taken with just these parts off
 * count.
 */
export function proofSteps(
  index: BoardIndex,
  predictor: Predictor,
  before: readonly Reading[],
  after: readonly Reading[],
  symptoms: readonly { readonly key: string; readonly text: string }[],
  answers: readonly ProofAnswer[],
  leftOut: readonly string[] = [],
  starts: ProofStarts = NO_STARTS,
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
    const state =
      now === undefined ? 'open' : passes(measurement.kind, now, expected) ? 'pass' : 'fail';
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
  for (const m of shortsChecks(index)) add('shorts', m);
  if (index.board.parts.some((part) => !isPlugged(index.board, part, 'unloaded'))) {
    for (const net of rails)
      add('unloaded', { setup: 'unloaded', kind: 'voltage', at: { net }, to: ground });
  }
  for (const net of rails) add('loaded', { setup: 'on', kind: 'voltage', at: { net }, to: ground });
  for (const reading of before) {
    const expected = readout(
      reading.measurement.kind,
      predictor.healthy(reading.measurement, reading.absent),
    );
    if (!withinBand(reading.value, expected) && (reading.absent ?? []).length === 0)
      add('before', reading.measurement);
  }
  const questions = symptoms.map(({ key, text }): ProofStep => {
    const answer = answers.findLast((entry) => entry.key === key);
    return {
      type: 'ask',
      key,
      stage: 'function',
      question: text,
      state: answer === undefined ? 'open' : answer.passed ? 'pass' : 'fail',
    };
  });
  return [...steps.values(), ...questions, ...startsStep(starts)];
}

/**
 * The ohms that must be good before any power: across each transformer's primary at the plug, ahead
 * of rectifiers, and every rail to ground.
 */
export function shortsChecks(index: BoardIndex): readonly Measurement[] {
  const ohms = (at: string, to: string): Measurement => ({
    setup: 'off',
    kind: 'resistance',
    at: { net: at },
    to: { net: to },
  });
  const primaries = index.board.parts
    .filter(({ kind }) => kind === 'transformer')
    .map((part) => ohms(...plugEnds(index, part)));
  return [
    ...primaries,
    ...[...rectifierInputs(index), ...supplyRails(index)].map((net) => ohms(net, GROUND)),
  ];
}

/**
 * What must be read before power comes on for the first time after a repair; undefined where
 * everything was read and is good. after: readings since the repair.
 */
export function firstPowerObjection(
  index: BoardIndex,
  predictor: Predictor,
  after: readonly Reading[],
  leftOut: readonly string[],
): string | undefined {
  const steps = proofSteps(index, predictor, [], after, [], [], leftOut).filter(
    (step) => step.type === 'measure' && step.stage === 'shorts',
  );
  if (steps.length === 0)
    return 'no rail of this board is known, so no ohms check says that it may have power';
  for (const step of steps) {
    if (step.type !== 'measure' || step.state === 'pass') continue;
    const { at, to } = step.measurement;
    const points = `${at.net} to ${to.net === GROUND ? 'ground' : to.net}`;
    return step.state === 'open'
      ? `before the first power, read the ohms from ${points}, power off`
      : `${points} does not read what the good board shows (${step.expected.display}): find out why before power comes on`;
  }
  return undefined;
}

/** A part better than expected passes; only worse fails. */
function passes(kind: Measurement['kind'], value: ReadingValue, expected: Readout): boolean {
  if (withinBand(value, expected)) return true;
  return (
    kind === 'esr' &&
    typeof value === 'number' &&
    typeof expected.low === 'number' &&
    value < expected.low
  );
}

export function startsStep({ before, since }: ProofStarts): readonly ProofStep[] {
  const failed = before.filter(({ clean }) => !clean).length;
  if (failed === 0) return [];
  const needed = cleanStartsNeeded(failed, before.length);
  const clean = cleanRun(since);
  const state = clean >= needed ? 'pass' : since.some((start) => !start.clean) ? 'fail' : 'open';
  return [{ type: 'starts', key: 'starts', stage: 'function', needed, clean, state }];
}

/**
 * Power must stay off until every ohms check has passed. Where none is known, nothing says that it
 * is safe, and it stays off too.
 */
export function powerAllowed(steps: readonly ProofStep[]): boolean {
  const shorts = steps.filter(({ stage }) => stage === 'shorts');
  return shorts.length > 0 && shorts.every(({ state }) => state === 'pass');
}

/**
 * The steps as they stand: while power is locked no powered one has passed, whatever was read
 * before the ohms. power: whether it may be on.
 */
export function standing(steps: readonly ProofStep[], power: boolean): readonly ProofStep[] {
  if (power) return steps;
  return steps.map((step) =>
    step.stage === 'shorts' || step.state !== 'pass' ? step : { ...step, state: 'open' },
  );
}

export function isProven(steps: readonly ProofStep[]): boolean {
  return steps.length > 0 && steps.every((step) => step.state === 'pass');
}
