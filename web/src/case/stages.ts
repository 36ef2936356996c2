import type { ProofStep } from '@hanzai/core/prove';
import type { BoardIndex } from '@hanzai/core/board';
import type { Journal } from './journal';
import { placeText, siteTitle } from './wording';

/**
 * How a stage's pad is drawn: hollow = to do, half = begun, filled = done, crossed = not needed.
 */
export type PadState = 'hollow' | 'half' | 'filled' | 'crossed';

/** What the stages look at when they say how far they are and what is next. */
export interface SoFar {
  readonly index: BoardIndex | undefined;
  readonly journal: Journal;
  readonly proof: readonly ProofStep[];
  /** Condemned, and nothing done about it. */
  readonly untouched: readonly string[];
  readonly proven: boolean;
  readonly repaired: boolean;
}

/** Something to do next. Of several the one with the lowest rank is said. */
interface Call {
  readonly rank: number;
  readonly action: string;
}

/** One stage of the work on a case; its screen is in `stage/islands.ts`. */
interface StageDefinition {
  readonly title: string;
  /**
   * Bench minutes that are usually left when the next action is in this stage. From memory of shop
   * practice.
   */
  readonly minutesLeft: number;
  readonly pad: (soFar: SoFar) => PadState;
  /** What is to do in it, where it calls for anything. */
  readonly next?: (soFar: SoFar) => Call | undefined;
}

/** A pad by whether anything was begun. What a finished case never needed is crossed. */
function padOf({ proven, journal }: SoFar, begun: boolean, done = begun): PadState {
  if (done) return 'filled';
  if (begun) return 'half';
  return proven || journal.closed ? 'crossed' : 'hollow';
}

const hasEvent = ({ journal }: SoFar, ...kinds: string[]): boolean =>
  journal.blockEvents.some(({ body }) => kinds.includes(body.kind));

/** The stages of a case, in the order of work. */
const DEFINED = {
  'take-in': {
    title: 'Take in',
    minutesLeft: 240,
    pad: ({ journal }) =>
      journal.symptoms.length > 0 || journal.starts.length > 0 ? 'filled' : 'hollow',
    next: ({ journal, index }) => {
      if (journal.symptoms.length === 0 && journal.starts.length === 0)
        return { rank: 10, action: 'write down what the unit does' };
      return index ? undefined : { rank: 40, action: 'choose or import its board sheet' };
    },
  },
  swaps: {
    title: 'Swaps',
    minutesLeft: 220,
    pad: (soFar) => padOf(soFar, hasEvent(soFar, 'trial', 'check')),
    next: ({ journal: { undecided } }) =>
      undecided[0] && {
        rank: 20,
        action: `decide: ${undecided[0].body.title} failed, the job may end here`,
      },
  },
  'make-safe': {
    title: 'Make safe',
    minutesLeft: 210,
    pad: (soFar) => padOf(soFar, soFar.journal.acknowledged.length > 0),
  },
  'open-up': {
    title: 'Open up',
    minutesLeft: 200,
    pad: (soFar) => {
      const { steps } = soFar.journal;
      const allBack = steps.every(
        ({ back, count, what }) => what === 'empty-hole' || back >= count,
      );
      return padOf(soFar, steps.length > 0, steps.length > 0 && allBack);
    },
  },
  look: {
    title: 'Look',
    minutesLeft: 180,
    pad: (soFar) => padOf(soFar, soFar.journal.seen.length > 0),
  },
  'first-aid': {
    title: 'First aid',
    minutesLeft: 170,
    pad: (soFar) => padOf(soFar, hasEvent(soFar, 'aid')),
  },
  trace: {
    title: 'Trace',
    minutesLeft: 150,
    pad: ({ journal, proven }) => {
      if (journal.condemned.length > 0 || proven) return 'filled';
      return journal.readings.length > 0 ? 'half' : 'hollow';
    },
    next: ({ journal, repaired, proof }) => {
      if (repaired)
        return proof.some((step) => step.state === 'fail')
          ? { rank: 80, action: 'trace on: a proof step failed' }
          : undefined;
      const action = journal.readings.length === 0 ? 'take the first reading' : 'measure on';
      return { rank: 90, action };
    },
  },
  decide: {
    title: 'Decide',
    minutesLeft: 100,
    pad: (soFar) =>
      padOf(soFar, soFar.journal.decision !== undefined || soFar.journal.consents.length > 0),
  },
  repair: {
    title: 'Repair',
    minutesLeft: 90,
    pad: ({ journal, untouched, proven }) => {
      if (journal.ledger.length > 0)
        return journal.missing.length === 0 && untouched.length === 0 ? 'filled' : 'half';
      if (proven) return 'crossed';
      return journal.condemned.length > 0 ? 'half' : 'hollow';
    },
    next: ({ journal: { missing }, untouched, index }) => {
      if (missing.length > 0) return { rank: 50, action: `fit ${missing.join(', ')}` };
      const work = untouched.map(
        (ref) => `${siteTitle(index, ref) ? 'mend' : 'replace'} ${placeText(index, ref)}`,
      );
      return work.length > 0 ? { rank: 60, action: work.join(', ') } : undefined;
    },
  },
  adjust: {
    title: 'Adjust',
    minutesLeft: 60,
    pad: (soFar) => {
      const { asFound, turned } = soFar.journal;
      if (soFar.proven && turned.length > 0) return 'filled';
      return padOf(soFar, asFound.length > 0 || turned.length > 0, false);
    },
    next: ({ journal: { turned }, proven, repaired }) => {
      const last = turned.at(-1)?.body;
      return last && last.reads !== 3 && !proven && !repaired
        ? { rank: 84, action: `adjust on: ${last.ref}` }
        : undefined;
    },
  },
  prove: {
    title: 'Prove',
    minutesLeft: 45,
    pad: ({ proven, repaired, proof }) => {
      if (proven) return 'filled';
      return repaired && proof.some((step) => step.state !== 'open') ? 'half' : 'hollow';
    },
    next: ({ repaired }) => (repaired ? { rank: 85, action: 'prove the repair' } : undefined),
  },
  'hand-back': {
    title: 'Hand back',
    minutesLeft: 15,
    pad: ({ journal }) => (journal.closed ? 'filled' : 'hollow'),
    next: ({ journal, proven }) => {
      if (journal.closed) return { rank: 0, action: 'handed back' };
      if (journal.decision?.body.course === 'give-up')
        return { rank: 30, action: 'given up: report and hand back' };
      return proven ? { rank: 70, action: 'report and hand back' } : undefined;
    },
  },
} satisfies Readonly<Record<string, StageDefinition>>;

export type Stage = keyof typeof DEFINED;
const DEFINITIONS: Readonly<Record<Stage, StageDefinition>> = DEFINED;

/** In the order of work. */
export const STAGES = Object.keys(DEFINED) as readonly Stage[];

/** Those that an exercise goes through. */
export const PRACTISED: readonly Stage[] = ['make-safe', 'trace', 'repair'];

export const isStage = (name: string): name is Stage => Object.hasOwn(DEFINED, name);

export const stageTitle = (stage: Stage): string => DEFINITIONS[stage].title;

export const padsOf = (soFar: SoFar): Readonly<Record<Stage, PadState>> =>
  Object.fromEntries(STAGES.map((stage) => [stage, DEFINITIONS[stage].pad(soFar)])) as Record<
    Stage,
    PadState
  >;

/** What to do next, in words, the stage that it is in, and the minutes usually left from there. */
export function nextStep(soFar: SoFar): {
  readonly nextAction: string;
  readonly nextStage: Stage;
  readonly minutesToGo: number;
} {
  const calls = STAGES.flatMap((stage) => {
    const call = DEFINITIONS[stage].next?.(soFar);
    return call ? [{ stage, ...call }] : [];
  });
  const [first] = calls.sort((a, b) => a.rank - b.rank);
  const nextStage = first?.stage ?? 'trace';
  return {
    nextAction: first?.action ?? 'measure on',
    nextStage,
    minutesToGo: soFar.journal.closed ? 0 : DEFINITIONS[nextStage].minutesLeft,
  };
}
