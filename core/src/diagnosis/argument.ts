import type { Reading } from '../instrument';
import type { Belief } from './belief';
import type { Diagnoser } from './diagnoser';

/** A side of an argument: a part by its designator, or that nothing is wrong. */
export type Side = { readonly ref: string } | 'healthy';

/** What one reading did to the odds of one side against another. */
export interface ArgumentStep {
  /** Decibans by which it moved them, in the order in which the readings were taken. */
  readonly moved: number;
  /** Log-odds after it, decibans. */
  readonly after: number;
  /** Log-odds of all readings but this one, decibans. */
  readonly without: number;
}

export interface Argument {
  /** Log-odds before any reading, decibans; positive for the one side. */
  readonly before: number;
  readonly steps: readonly ArgumentStep[];
  readonly after: number;
  /**
   * The reading without which the other side would lead, at its position; undefined where no single
   * one turns the order round.
   */
  readonly turnsOn: number | undefined;
  /** Leading parts after each reading, in the order taken: the first of all before any. */
  readonly history: readonly Belief[];
}

/** Log-odds are held within these, decibans: a certainty stays a number. */
const MOST = 300;

/**
 * Why one side is believed more than another: the odds before any reading, and what each reading did
 * to them in the order taken. What the steps moved adds up to the odds in the end. Where nothing but
 * this is asked the beliefs on the way are worked out too, each as a line-up; yields the share done.
 * Source of the unit: I. J. Good, Probability and the Weighing of Evidence, 1950.
 */
export function* argueSteps(
  diagnoser: Diagnoser,
  readings: readonly Reading[],
  one: Side,
  other: Side,
): Generator<number, Argument> {
  const work = 2 * readings.length + 1;
  const odds = (belief: Belief): number => {
    const [a, b] = [shareOf(belief, one), shareOf(belief, other)];
    return Math.max(
      -MOST,
      Math.min(MOST, 10 * Math.log10(Math.max(a, 1e-30) / Math.max(b, 1e-30))),
    );
  };
  const history: Belief[] = [];
  for (let count = 0; count <= readings.length; count += 1) {
    history.push(diagnoser.believe(readings.slice(0, count)));
    yield (count + 1) / work;
  }
  const along = history.map(odds);
  const after = along.at(-1)!;
  const steps: ArgumentStep[] = [];
  for (let i = 0; i < readings.length; i += 1) {
    const rest = readings.filter((_, k) => k !== i);
    steps.push({
      moved: along[i + 1]! - along[i]!,
      after: along[i + 1]!,
      without: odds(diagnoser.believe(rest)),
    });
    yield (readings.length + 2 + i) / work;
  }
  const turning = steps
    .map(({ without }, i) => ({ i, without }))
    .filter(({ without }) => after !== 0 && Math.sign(without) !== Math.sign(after))
    .sort((a, b) => Math.abs(b.without) - Math.abs(a.without))[0];
  return { before: along[0]!, steps, after, turnsOn: turning?.i, history };
}

function shareOf(belief: Belief, side: Side): number {
  return side === 'healthy'
    ? belief.healthy
    : (belief.byPart.find(({ ref }) => ref === side.ref)?.probability ?? 0);
}
