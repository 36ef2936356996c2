import { isProven, proofSteps, reconcile, type ProofStep } from '@hanzai/core/bench';
import type { BoardIndex } from '@hanzai/core/board';
import { Predictor } from '@hanzai/core/diagnosis';
import type { Journal } from './journal';

/** The stages of a case that can be worked in this version, in the order of work. */
export const STAGES = ['take-in', 'trace', 'repair', 'prove', 'hand-back'] as const;
export type Stage = (typeof STAGES)[number];

export const STAGE_NAMES: Readonly<Record<Stage, string>> = {
  'take-in': 'Take in',
  trace: 'Trace',
  repair: 'Repair',
  prove: 'Prove',
  'hand-back': 'Hand back',
};

/** How a stage's pad is drawn: hollow = to do, half = begun, filled = done, crossed = not needed. */
export type PadState = 'hollow' | 'half' | 'filled' | 'crossed';

export interface Progress {
  readonly pads: Readonly<Record<Stage, PadState>>;
  readonly proof: readonly ProofStep[];
  readonly missing: readonly string[];
  /** What to do next, in words. */
  readonly nextAction: string;
  /** The stage that next action is in. */
  readonly nextStage: Stage;
  /** Why the case cannot be closed yet; empty where it can. */
  readonly obstacles: readonly string[];
}

/** The proof of a case as it stands: what was read before the last part was fitted against what has been read since. */
export function caseProof(index: BoardIndex, journal: Journal, predictor: Predictor): readonly ProofStep[] {
  const symptoms = journal.symptoms.map(({ id, body }) => ({ key: id, text: body.text }));
  const repaired = journal.ledger.some(({ action }) => action === 'fitted');
  const before = repaired ? journal.readings.filter((r) => !r.current) : [];
  return proofSteps(index, predictor, before, journal.readings.filter((r) => r.current && (r.absent ?? []).length === 0), symptoms, journal.answers); // prettier-ignore
}

/** Where a case stands. predictor: kept by the caller where it has one. */
export function caseProgress(index: BoardIndex | undefined, journal: Journal, predictor?: Predictor): Progress {
  // The proof needs the circuit solved; a case that nobody has repaired or answered for has none to show yet.
  const worthProving = journal.answers.length > 0 || journal.ledger.some(({ action }) => action === 'fitted');
  const proof = index && worthProving ? caseProof(index, journal, predictor ?? new Predictor(index)) : [];
  const missing = reconcile(journal.ledger).filter((state) => state.missing).map((state) => state.ref); // prettier-ignore
  const repaired = journal.ledger.some(({ action }) => action === 'fitted');
  const untouched = journal.condemned
    .filter(({ body }) => !journal.ledger.some((line) => line.ref === body.ref && line.action === 'fitted'))
    .map(({ body }) => body.ref);
  const proven = isProven(proof);
  const begunProof = proof.some((step) => step.state !== 'open') && repaired;
  const obstacles = [
    ...(index ? [] : ['no board sheet: nothing can be proven']),
    ...(missing.length > 0 ? [`${missing.join(', ')} came off and nothing went on`] : []),
    ...(untouched.length > 0 ? [`${untouched.join(', ')} condemned and not replaced`] : []),
    ...(index && !proven ? [worthProving ? `${proof.filter((step) => step.state !== 'pass').length} proof steps not passed` : 'nothing is proven'] : []),
  ];
  const pads: Record<Stage, PadState> = {
    'take-in': journal.symptoms.length > 0 ? 'filled' : 'hollow',
    trace: journal.condemned.length > 0 || proven ? 'filled' : journal.readings.length > 0 ? 'half' : 'hollow',
    repair:
      journal.ledger.length === 0
        ? proven
          ? 'crossed'
          : journal.condemned.length > 0
            ? 'half'
            : 'hollow'
        : missing.length === 0 && untouched.length === 0
          ? 'filled'
          : 'half',
    prove: proven ? 'filled' : begunProof ? 'half' : 'hollow',
    'hand-back': journal.closed ? 'filled' : 'hollow',
  };
  return { pads, proof, missing, obstacles, ...nextStep(index, journal, { missing, untouched, proven, proof, repaired }) };
}

interface Situation {
  readonly missing: readonly string[];
  readonly untouched: readonly string[];
  readonly proven: boolean;
  readonly proof: readonly ProofStep[];
  readonly repaired: boolean;
}

function nextStep(index: BoardIndex | undefined, journal: Journal, s: Situation): { nextAction: string; nextStage: Stage } {
  if (journal.closed) return { nextAction: 'handed back', nextStage: 'hand-back' };
  if (journal.symptoms.length === 0) return { nextAction: 'write down what the unit does', nextStage: 'take-in' };
  if (!index) return { nextAction: 'choose or import its board sheet', nextStage: 'take-in' };
  if (s.missing.length > 0) return { nextAction: `fit ${s.missing.join(', ')}`, nextStage: 'repair' };
  if (s.untouched.length > 0) return { nextAction: `replace ${s.untouched.join(', ')}`, nextStage: 'repair' };
  if (s.proven) return { nextAction: 'report and hand back', nextStage: 'hand-back' };
  if (s.repaired) {
    const failed = s.proof.some((step) => step.state === 'fail');
    return failed ? { nextAction: 'trace on: a proof step failed', nextStage: 'trace' } : { nextAction: 'prove the repair', nextStage: 'prove' };
  }
  return { nextAction: journal.readings.length === 0 ? 'take the first reading' : 'measure on', nextStage: 'trace' };
}
