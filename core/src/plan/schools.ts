import type { Belief } from '../diagnosis';
import {
  expectedRepairMinutes,
  GIVE_UP_MINUTES,
  NEGLIGIBLE,
  replacingInOrder,
  type ReadingPromise,
} from './actions';
import type { CostTable } from './cost';

/**
 * Chance that a part which comes off takes a pad or a track with it. From memory of bench practice,
 * for an iron in a practised hand.
 */
const HARM_PER_PART = 0.02;

/** What one way of going on is expected to cost, to a proven repair. */
export interface School {
  readonly minutes: number;
  /** Parts replaced on average, the guilty one included. */
  readonly parts: number;
  /** Chance that a pad or track is harmed on the way. */
  readonly harm: number;
}

/** Two ways to go on: the next reading first, or the likely parts one after the other. */
export interface Schools {
  readonly measureFirst: School;
  readonly replaceFirst: School;
}

/**
 * The price of both ways. promises: readings that could be taken, the best of them is. undefined where
 * there is nothing to measure or nothing to replace. Common practice, no published source, but for
 * the order of replacing (see `repairOrder`).
 */
export function schoolsOf(
  { byPart }: Pick<Belief, 'byPart'>,
  promises: readonly ReadingPromise[],
  costs: CostTable,
): Schools | undefined {
  const now = new Map(byPart.map(({ ref, probability }) => [ref, probability]));
  if (promises.length === 0 || ![...now.values()].some((share) => share >= NEGLIGIBLE))
    return undefined;
  const measured = promises
    .map(({ minutes, outcomes }) => {
      const after = outcomes.map(({ probability, shares }) => ({
        probability,
        ...replacing(shares, costs),
      }));
      const mean = (of: 'minutes' | 'parts'): number =>
        after.reduce((sum, one) => sum + one.probability * one[of], 0);
      return { minutes: minutes + mean('minutes'), parts: mean('parts') };
    })
    .reduce((best, one) => (one.minutes < best.minutes ? one : best));
  const replaced = replacing(now, costs);
  return { measureFirst: withHarm(measured), replaceFirst: withHarm(replaced) };
}

const withHarm = ({ minutes, parts }: { minutes: number; parts: number }): School => ({
  minutes,
  parts,
  harm: 1 - (1 - HARM_PER_PART) ** parts,
});

/** Replacing the suspects one after the other until it works: minutes and parts on average. */
function replacing(
  shares: ReadonlyMap<string, number>,
  costs: CostTable,
): { readonly minutes: number; readonly parts: number } {
  const steps = replacingInOrder(shares, costs);
  let left = 1;
  let parts = 0;
  for (const { probability } of steps) {
    parts += Math.max(0, left);
    left -= probability;
  }
  return { minutes: expectedRepairMinutes(steps, GIVE_UP_MINUTES), parts };
}
