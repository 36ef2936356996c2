import { isProven, proofSteps, type LedgerLine, type ProofStep } from '@hanzai/core/bench';
import type { Start } from '@hanzai/core/block';
import type { BoardIndex } from '@hanzai/core/board';
import type { Predictor } from '@hanzai/core/diagnosis';
import { predictorOf } from './good-board';
import type { Journal } from './journal';
import { placeText, siteTitle } from './wording';

/** The stages of a case that can be worked in this version, in the order of work. */
export const STAGES = [
  'take-in',
  'swaps',
  'make-safe',
  'open-up',
  'look',
  'first-aid',
  'trace',
  'repair',
  'prove',
  'hand-back',
] as const;
export type Stage = (typeof STAGES)[number];

export const STAGE_NAMES: Readonly<Record<Stage, string>> = {
  'take-in': 'Take in',
  swaps: 'Swaps',
  'make-safe': 'Make safe',
  'open-up': 'Open up',
  look: 'Look',
  'first-aid': 'First aid',
  trace: 'Trace',
  repair: 'Repair',
  prove: 'Prove',
  'hand-back': 'Hand back',
};

/**
 * How a stage's pad is drawn: hollow = to do, half = begun, filled = done, crossed = not needed.
 */
export type PadState = 'hollow' | 'half' | 'filled' | 'crossed';

export interface Progress {
  readonly pads: Readonly<Record<Stage, PadState>>;
  /** The proof's steps; empty while the case has nothing to prove yet, unless it was asked for. */
  readonly proof: readonly ProofStep[];
  readonly proven: boolean;
  /** What to do next, in words. */
  readonly nextAction: string;
  /** The stage that next action is in. */
  readonly nextStage: Stage;
  /**
   * Minutes of work that are likely still in it, as far as its stage tells. From memory of shop
   * practice.
   */
  readonly minutesToGo: number;
  /** Why the case cannot be closed yet; empty where it can. */
  readonly obstacles: readonly string[];
}

/**
 * Bench minutes that are usually left from the stage in which the next action is. From memory of
 * shop practice.
 */
// prettier-ignore
const MINUTES_LEFT: Readonly<Record<Stage, number>> = {
  'take-in': 240, swaps: 220, 'make-safe': 210, 'open-up': 200, look: 180, 'first-aid': 170, trace: 150, repair: 90, prove: 45, 'hand-back': 15,
};

/** A repair is a part fitted, or one left out on purpose. */
const isRepair = ({ action }: LedgerLine): boolean => action !== 'removed';

/**
 * The proof of a case as it stands: what was read before the repair against what has been read
 * since.
 */
function caseProof(
  index: BoardIndex,
  journal: Journal,
  predictor: Predictor,
): readonly ProofStep[] {
  const symptoms = journal.symptoms.map(({ id, body }) => ({ key: id, text: body.text }));
  const repaired = journal.ledger.some(isRepair);
  const before = repaired ? journal.readings.filter((r) => !r.current) : [];
  const after = journal.readings.filter((r) => r.current);
  const starts = (list: Journal['starts']): readonly Start[] =>
    list.map(({ body }) => ({ clean: body.failedAt === null, conditions: body.conditions }));
  return proofSteps(index, predictor, before, after, symptoms, journal.answers, journal.absent, {
    before: starts(journal.startsBefore),
    since: starts(journal.startsSince),
  });
}

/** What is worked out of a journal before pads and words are. */
interface Situation {
  readonly proof: readonly ProofStep[];
  /** Condemned, and nothing done about it. */
  readonly untouched: readonly string[];
  readonly proven: boolean;
  readonly repaired: boolean;
}

/**
 * Where a case stands. predictor: kept by the caller where it has one. showProof: work the proof
 * out even where nothing is repaired yet; without it a docket of many cases need not solve the
 * circuit of each.
 */
export function caseProgress(
  index: BoardIndex | undefined,
  journal: Journal,
  predictor?: Predictor,
  showProof = false,
): Progress {
  const repaired = journal.ledger.some(isRepair);
  const begun = repaired || journal.answers.length > 0;
  const proof =
    index && (begun || showProof) ? caseProof(index, journal, predictor ?? predictorOf(index)) : [];
  const { missing } = journal;
  const untouched = journal.condemned
    .map(({ body }) => body.ref)
    .filter((ref) => !journal.ledger.some((line) => line.ref === ref && isRepair(line)));
  const proven = begun && missing.length === 0 && isProven(proof);
  const situation = { proof, untouched, proven, repaired };
  const next = nextStep(index, journal, situation);
  return {
    pads: padsOf(journal, situation),
    minutesToGo: journal.closed ? 0 : MINUTES_LEFT[next.nextStage],
    proof,
    proven,
    obstacles: obstaclesOf(index, journal, situation, begun),
    ...next,
  };
}

function padsOf(
  journal: Journal,
  { proof, untouched, proven, repaired }: Situation,
): Progress['pads'] {
  const anyTouched = journal.ledger.length > 0;
  const repair = (): PadState => {
    if (anyTouched)
      return journal.missing.length === 0 && untouched.length === 0 ? 'filled' : 'half';
    if (proven) return 'crossed';
    return journal.condemned.length > 0 ? 'half' : 'hollow';
  };
  return {
    'take-in': journal.symptoms.length > 0 || journal.starts.length > 0 ? 'filled' : 'hollow',
    ...firstHalf(journal, proven || journal.closed),
    trace:
      journal.condemned.length > 0 || proven
        ? 'filled'
        : journal.readings.length > 0
          ? 'half'
          : 'hollow',
    repair: repair(),
    prove: proven
      ? 'filled'
      : repaired && proof.some((step) => step.state !== 'open')
        ? 'half'
        : 'hollow',
    'hand-back': journal.closed ? 'filled' : 'hollow',
  };
}

/** Pads of the stages before tracing. What a finished case never needed is crossed. */
function firstHalf(
  journal: Journal,
  over: boolean,
): Pick<Progress['pads'], 'swaps' | 'make-safe' | 'open-up' | 'look' | 'first-aid'> {
  const pad = (begun: boolean, done = begun): PadState =>
    done ? 'filled' : begun ? 'half' : over ? 'crossed' : 'hollow';
  const allBack = journal.steps.every(
    ({ back, count, what }) => what === 'empty-hole' || back >= count,
  );
  return {
    swaps: pad(
      journal.blockEvents.some(({ body }) => body.kind === 'trial' || body.kind === 'check'),
    ),
    'make-safe': pad(journal.acknowledged.length > 0),
    'open-up': pad(journal.steps.length > 0, journal.steps.length > 0 && allBack),
    look: pad(journal.seen.length > 0),
    'first-aid': pad(journal.blockEvents.some(({ body }) => body.kind === 'aid')),
  };
}

function obstaclesOf(
  index: BoardIndex | undefined,
  { missing, steps, undecided, decision }: Journal,
  { proof, untouched, proven }: Situation,
  begun: boolean,
): readonly string[] {
  const obstacles: string[] = [];
  const off = steps.filter(({ what, back, count }) => what !== 'empty-hole' && back < count);
  if (off.length > 0)
    obstacles.push(
      `not back together: ${off.reduce((sum, { back, count }) => sum + count - back, 0)} pieces are still off`,
    );
  if (undecided.length > 0)
    obstacles.push(
      `${undecided.map(({ body }) => body.title).join('; ')} failed, and nothing was decided`,
    );
  // A unit that is given up goes back unproven, and the report says so.
  if (decision?.body.course === 'give-up') return obstacles;
  if (missing.length > 0) obstacles.push(`${missing.join(', ')} came off and nothing went on`);
  const [sites, parts] = [
    untouched.filter((ref) => siteTitle(index, ref)),
    untouched.filter((ref) => !siteTitle(index, ref)),
  ];
  if (parts.length > 0) obstacles.push(`${parts.join(', ')} condemned and not replaced`);
  if (sites.length > 0)
    obstacles.push(
      `${sites.map((ref) => placeText(index, ref)).join(', ')} condemned and not mended`,
    );
  if (!index) obstacles.push('no board sheet: nothing can be proven');
  else if (!begun) obstacles.push('nothing is proven');
  const open = proof.filter((step) => step.state !== 'pass').length;
  if (begun && !proven && open > 0) obstacles.push(`${open} proof steps not passed`);
  return obstacles;
}

function nextStep(
  index: BoardIndex | undefined,
  journal: Journal,
  s: Situation,
): { nextAction: string; nextStage: Stage } {
  if (journal.closed) return { nextAction: 'handed back', nextStage: 'hand-back' };
  if (journal.symptoms.length === 0 && journal.starts.length === 0)
    return { nextAction: 'write down what the unit does', nextStage: 'take-in' };
  if (journal.undecided.length > 0)
    return {
      nextAction: `decide: ${journal.undecided[0]!.body.title} failed, the job may end here`,
      nextStage: 'swaps',
    };
  if (journal.decision?.body.course === 'give-up')
    return { nextAction: 'given up: report and hand back', nextStage: 'hand-back' };
  if (!index) return { nextAction: 'choose or import its board sheet', nextStage: 'take-in' };
  if (journal.missing.length > 0)
    return { nextAction: `fit ${journal.missing.join(', ')}`, nextStage: 'repair' };
  if (s.untouched.length > 0)
    return {
      nextAction: s.untouched
        .map((ref) => `${siteTitle(index, ref) ? 'mend' : 'replace'} ${placeText(index, ref)}`)
        .join(', '),
      nextStage: 'repair',
    };
  if (s.proven) return { nextAction: 'report and hand back', nextStage: 'hand-back' };
  if (s.repaired) {
    const failed = s.proof.some((step) => step.state === 'fail');
    return failed
      ? { nextAction: 'trace on: a proof step failed', nextStage: 'trace' }
      : { nextAction: 'prove the repair', nextStage: 'prove' };
  }
  return {
    nextAction: journal.readings.length === 0 ? 'take the first reading' : 'measure on',
    nextStage: 'trace',
  };
}
