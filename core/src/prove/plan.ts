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
import { plugEnds } from '../bench';
import { rectifierInputs, supplyRails } from '../device';
import { firstDraws, type SupplyDraw } from './first-power';
import { jointChecks } from './joints';
import type { Run } from './passes';

/** Stages of a proof, in the order they are safe to do. */
export const PROOF_STAGES = [
  'shorts',
  'joints',
  'power',
  'unloaded',
  'loaded',
  'before',
  'function',
  'runs',
] as const;
export type ProofStage = (typeof PROOF_STAGES)[number];

/** What is done before power comes on: it may pass while power is locked. */
const WITHOUT_POWER: readonly ProofStage[] = ['shorts', 'joints'];

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
      readonly stage: 'joints' | 'function';
      readonly question: string;
      readonly state: 'open' | 'pass' | 'fail';
    }
  /** Power on for the first time after the repair, with a limit; supplies: empty where none is known. */
  | {
      readonly type: 'power';
      readonly key: typeof FIRST_POWER;
      readonly stage: 'power';
      readonly supplies: readonly SupplyDraw[];
      readonly state: 'open' | 'pass' | 'fail';
    }
  /** A run of the unit as it is handed back, without an error since the last one that had one. */
  | {
      readonly type: 'runs';
      readonly key: 'runs';
      readonly stage: 'runs';
      /** True where it was opened: the run has to be made with it closed. */
      readonly closed: boolean;
      /** Passes in a row after the last error; more where errors were seen. */
      readonly needed: number;
      readonly passes: number;
      readonly errors: number;
      readonly state: 'open' | 'pass' | 'fail';
    };

/** The key under which it is answered how the first power went. */
export const FIRST_POWER = 'first power';

/** What was done to the unit since it came, as far as its proof goes by it. */
export interface ProofDone {
  /** Parts that went on and are on the board. */
  readonly fitted: readonly string[];
  /** Settings that were touched, each with the reading it was left at; empty where nobody wrote it. */
  readonly settings: readonly { readonly ref: string; readonly left: string }[];
  /** Whether it was opened. */
  readonly opened: boolean;
  /** Runs since the last repair, oldest first. */
  readonly runs: readonly Run[];
}

/** What a proof is made of. */
export interface ProofOf {
  /** Readings up to the repair, and since. */
  readonly before: readonly Reading[];
  readonly after: readonly Reading[];
  /** As taken in, each with its key. */
  readonly symptoms: readonly { readonly key: string; readonly text: string }[];
  readonly answers: readonly ProofAnswer[];
  /**
   * Parts that stay off the board on purpose; the board is then proven as it is, and only readings
   * taken with just these parts off count.
   */
  readonly leftOut?: readonly string[];
  readonly starts?: ProofStarts;
  /** Undefined where only what the board has to show is asked. */
  readonly done?: ProofDone | undefined;
}

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
 * The list that proves a repair: ohms of the primary and of every rail to ground, every new joint,
 * the first power with its limit, rails without load, rails with load, what read wrong before, the
 * symptoms themselves, settings as they were left, as many clean starts as the failed ones before
 * ask for, and a run of the unit closed up.
 */
export function proofSteps(
  index: BoardIndex,
  predictor: Predictor,
  { before, after, symptoms, answers, leftOut = [], starts = NO_STARTS, done }: ProofOf,
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
  for (const m of jointChecks(index, done?.fitted ?? [])) add('joints', m);
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
  const questions = symptoms.map(({ key, text }) => ask(answers, key, 'function', text));
  const measured = [...steps.values()];
  return PROOF_STAGES.flatMap((stage) => [
    ...measured.filter((step) => step.stage === stage),
    ...(stage === 'joints' && done ? settingSteps(done, answers) : []),
    ...(stage === 'power' && done ? [powerStep(answers, firstDraws(index, leftOut))] : []),
    ...(stage === 'function' ? [...questions, ...startsStep(starts)] : []),
    ...(stage === 'runs' && done ? [runsStep(done)] : []),
  ]);
}

function ask(
  answers: readonly ProofAnswer[],
  key: string,
  stage: 'joints' | 'function',
  question: string,
): ProofStep {
  return { type: 'ask', key, stage, question, state: answered(answers, key) };
}

function answered(answers: readonly ProofAnswer[], key: string): 'open' | 'pass' | 'fail' {
  const answer = answers.findLast((entry) => entry.key === key);
  return answer === undefined ? 'open' : answer.passed ? 'pass' : 'fail';
}

/** How the first power went. */
export function powerStep(
  answers: readonly ProofAnswer[],
  supplies: readonly SupplyDraw[],
): ProofStep {
  const state = answered(answers, FIRST_POWER);
  return { type: 'power', key: FIRST_POWER, stage: 'power', supplies, state };
}

/** Settings as they were left: looked at before power comes on. */
export function settingSteps(
  { settings }: ProofDone,
  answers: readonly ProofAnswer[],
): readonly ProofStep[] {
  return settings.map(({ ref, left }) => {
    const at = left === '' ? '' : `, at ${left}`;
    const words = `${ref} stands where it was left${at}, its mark beside it`;
    return ask(answers, `setting ${ref} ${left}`, 'joints', words);
  });
}

/** The run at the end: closed up where the unit was opened, and so often as earlier errors ask for. */
export function runsStep({ opened, runs }: ProofDone): ProofStep {
  const sum = (list: readonly Run[], of: 'passes' | 'errors'): number =>
    list.reduce((all, run) => all + run[of], 0);
  const failed = runs.slice(0, runs.findLastIndex(({ errors }) => errors > 0) + 1);
  const errors = sum(failed, 'errors');
  const needed = errors === 0 ? 1 : cleanStartsNeeded(errors, errors + sum(failed, 'passes'));
  const passes = sum(
    runs.slice(failed.length).filter(({ states }) => !opened || states.includes('closed')),
    'passes',
  );
  const state = passes >= needed ? 'pass' : errors > 0 ? 'fail' : 'open';
  return {
    type: 'runs',
    key: 'runs',
    stage: 'runs',
    closed: opened,
    needed,
    passes,
    errors,
    state,
  };
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
  const steps = proofSteps(index, predictor, {
    before: [],
    after,
    symptoms: [],
    answers: [],
    leftOut,
  }).filter((step) => step.type === 'measure' && step.stage === 'shorts');
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
    WITHOUT_POWER.includes(step.stage) || step.state !== 'pass' ? step : { ...step, state: 'open' },
  );
}

export function isProven(steps: readonly ProofStep[]): boolean {
  return steps.length > 0 && steps.every((step) => step.state === 'pass');
}
