import type { Measurement } from '@hanzai/core/instrument';
import type { AheadNode, Plan, ProposedMeasurement } from '@hanzai/core/plan';
import { inWords } from '../case/expectation';
import type { AheadStep, NextStep, Proposal } from './engine-messages';

/** Readings that are told at most. */
export const PROPOSALS = 8;
const ACTIONS = 5;

/** A plan in words. opening: minutes of opening up before a reading. */
export function nextStep(plan: Plan, opening: (m: Measurement) => number): NextStep {
  // Of the readings only the best stands beside the work: the others are listed as proposals.
  const best = plan.actions.find(({ kind }) => kind === 'measure');
  const actions = plan.actions
    .filter((action) => action.kind !== 'measure' || action === best)
    .slice(0, ACTIONS)
    .map(({ kind, title, cures, minutes, expectedMinutes }) => ({
      kind,
      title,
      cures,
      minutes,
      expectedMinutes,
    }));
  return {
    state: plan.state,
    replace: plan.replace,
    actions,
    touches: plan.touches.map(({ touch: { title, refs, caution }, ...m }) => ({
      ...proposal(m, 0),
      title,
      refs,
      caution,
    })),
    exhausted: plan.exhausted,
    schools: plan.schools,
    ...(plan.noPower ? { noPower: plan.noPower } : {}),
    takes: plan.takes,
    proposals: plan.measurements
      .slice(0, PROPOSALS)
      .map((m) => proposal(m, opening(m.measurement))),
  };
}

/** Names a proposed reading in messages. */
export const proposalKey = ({ setup, kind, at, to }: ProposedMeasurement): string =>
  `${setup} ${kind} ${at} ${to}`;

/** A few steps ahead in words. */
export function stepInWords({ measurement, outcomes }: AheadNode): AheadStep {
  const { kind, setup, at, to, minutes } = measurement;
  return {
    measurement: { kind, setup, at, to, minutes },
    outcomes: outcomes.map(({ then, ...outcome }) => ({
      ...outcome,
      then: then.kind === 'measure' ? { kind: 'measure', node: stepInWords(then.node) } : then,
    })),
  };
}

function proposal(m: ProposedMeasurement, minutesOfAccess: number): Proposal {
  const { setup, kind, at, to, gainBits, minutes, prospects } = m;
  return {
    key: proposalKey(m),
    setup,
    kind,
    at,
    to,
    gainBits,
    minutes,
    accessMinutes: minutesOfAccess,
    prospects,
    expected: inWords(m.expected),
  };
}
