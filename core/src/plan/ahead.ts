import type { Diagnoser } from '../diagnosis';
import type { Reading } from '../instrument';
import { planNext, type PlanOptions } from './next';
import type { ProposedMeasurement } from './proposal';

/** A reading, and what follows on each way it may come out. M: how the reading is told. */
export interface AheadNode<M = ProposedMeasurement> {
  readonly measurement: M;
  readonly outcomes: readonly AheadOutcome<M>[];
}

export interface AheadOutcome<M = ProposedMeasurement> {
  readonly display: string;
  /** Chance of it, once the reading is taken. */
  readonly probability: number;
  readonly then:
    | { readonly kind: 'replace'; readonly ref: string; readonly probability: number }
    | { readonly kind: 'verify' }
    /** Nothing more is told by any reading that may be taken. */
    | { readonly kind: 'stop' }
    | { readonly kind: 'measure'; readonly node: AheadNode<M> };
}

/** Outcomes rarer than this are left out. */
const RARE = 0.04;
/** Outcomes that are followed, likeliest first. */
const FOLLOWED = 3;

/**
 * A few steps ahead: the reading, and for each way it may come out what would be next then, by a
 * first look around the suspects. depth: readings in a row, from 1. The value of an outcome is the
 * likeliest in it. Yields the share done. Cost: a belief and a quick plan for each outcome.
 */
export function* aheadSteps(
  diagnoser: Diagnoser,
  readings: readonly Reading[],
  first: ProposedMeasurement,
  depth: number,
  options: PlanOptions = {},
): Generator<number, AheadNode> {
  const absent = options.absent ?? [];
  const outcomes: AheadOutcome[] = [];
  const likely = first.prospects
    .filter(({ probability }) => probability >= RARE)
    .slice(0, FOLLOWED);
  for (const [i, { display, probability, value }] of likely.entries()) {
    const known: readonly Reading[] = [
      ...readings,
      { measurement: first.measurement, value, absent },
    ];
    const belief = diagnoser.believe(known);
    const plan = planNext(diagnoser, known, belief, { ...options, quick: true, most: 1 });
    const [next] = plan.measurements;
    const share = (of: number): number => (i + of) / likely.length;
    yield share(1 / (depth + 1));
    let then: AheadOutcome['then'];
    if (plan.state === 'verify') then = { kind: 'verify' };
    else if (plan.state === 'replace' && plan.replace[0])
      then = { kind: 'replace', ...plan.replace[0] };
    else if (!next) then = { kind: 'stop' };
    else if (depth <= 1) then = { kind: 'measure', node: { measurement: next, outcomes: [] } };
    else {
      const steps = aheadSteps(diagnoser, known, next, depth - 1, options);
      let step = steps.next();
      for (; !step.done; step = steps.next()) yield share(step.value);
      then = { kind: 'measure', node: step.value };
    }
    outcomes.push({ display, probability, then });
  }
  return { measurement: first, outcomes };
}
