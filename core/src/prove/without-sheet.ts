import { nameKey } from '../board';
import type { LooseReading } from '../bench';
import type { ReadingKind } from '../instrument';
import {
  powerStep,
  runsStep,
  settingSteps,
  startsStep,
  type ProofAnswer,
  type ProofDone,
  type ProofStarts,
  type ProofStep,
} from './plan';

/** A rail that somebody named where no sheet does, with the volts that it has to have. */
export interface NamedRail {
  readonly net: string;
  readonly volt: number;
}

export interface CaseWithoutSheet {
  readonly rails: readonly NamedRail[];
  readonly readings: readonly LooseReading[];
  readonly symptoms: readonly { readonly key: string; readonly text: string }[];
  readonly answers: readonly ProofAnswer[];
  readonly starts: ProofStarts;
  readonly done?: ProofDone | undefined;
}

/** How far a rail may be from what was said of it. Common practice, no published source. */
const RAIL_TOLERANCE = 0.05;

const isGround = (net: string): boolean => net === '' || net === '0' || /^(gnd|ground)$/i.test(net);

/** The newest reading of a kind from a point to ground. */
function newest(
  readings: readonly LooseReading[],
  kind: ReadingKind,
  net: string,
): LooseReading | undefined {
  return readings.findLast(
    (one) => one.kind === kind && nameKey(one.at) === nameKey(net) && isGround(one.to),
  );
}

/**
 * What proves a repair without a sheet: the ohms of every rail that somebody named, judged by whoever
 * read them; its volts against what was said of it; the symptoms; as many clean starts as the
 * failed ones before ask for. An answer holds for the reading that it was given to.
 */
export function proofWithoutSheet(of: CaseWithoutSheet): readonly ProofStep[] {
  const { rails, readings, symptoms, answers, starts, done } = of;
  const now = readings.filter(({ current }) => current);
  const before = readings.filter(({ current }) => !current);
  const stateOf = (key: string): 'open' | 'pass' | 'fail' => {
    const answer = answers.findLast((one) => one.key === key);
    return answer === undefined ? 'open' : answer.passed ? 'pass' : 'fail';
  };
  const ohms = rails.map(({ net }): ProofStep => {
    const read = newest(now, 'resistance', net);
    const was = newest(before, 'resistance', net)?.value;
    const key = `ohms ${net} ${read?.key ?? 'not read'}`;
    return {
      type: 'rail',
      key,
      stage: 'shorts',
      net,
      must: 'no short: as other units of the kind, or as before',
      ...(was === undefined ? {} : { before: was }),
      ...(read === undefined ? {} : { after: read.value }),
      state: read === undefined ? 'open' : stateOf(key),
    };
  });
  const volts = rails.map(({ net, volt }): ProofStep => {
    const read = newest(now, 'voltage', net)?.value;
    const was = newest(before, 'voltage', net)?.value;
    const near =
      typeof read === 'number' && Math.abs(read - volt) <= RAIL_TOLERANCE * Math.abs(volt);
    return {
      type: 'rail',
      key: `volts ${net}`,
      stage: 'loaded',
      net,
      must: `${volt} V, 5 % either way`,
      ...(was === undefined ? {} : { before: was }),
      ...(read === undefined ? {} : { after: read }),
      state: read === undefined ? 'open' : near ? 'pass' : 'fail',
    };
  });
  const questions = symptoms.map(({ key, text }): ProofStep => ({
    type: 'ask',
    key,
    stage: 'function',
    question: text,
    state: stateOf(key),
  }));
  return [
    ...ohms,
    ...(done ? [...settingSteps(done, answers), powerStep(answers, [])] : []),
    ...volts,
    ...questions,
    ...startsStep(starts),
    ...(done ? [runsStep(done)] : []),
  ];
}

/** What must be read before power comes on after a repair, where no sheet says it. */
export function firstPowerWithoutSheet(of: CaseWithoutSheet): string | undefined {
  const steps = proofWithoutSheet(of).filter(({ stage }) => stage === 'shorts');
  if (steps.length === 0)
    return 'no rail is known: name one in Prove, and read its ohms to ground, power off';
  for (const step of steps) {
    if (step.type !== 'rail' || step.state === 'pass') continue;
    if (step.after === undefined)
      return `before the first power, read the ohms from ${step.net} to ground, power off`;
    return step.state === 'open'
      ? `say in Prove whether the ohms from ${step.net} to ground are no short`
      : `the ohms from ${step.net} to ground are not good: find out why before power comes on`;
  }
  return undefined;
}
