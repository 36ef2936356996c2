import { isProven, type ProofStep } from '@hanzai/core/prove';
import type { BoardIndex } from '@hanzai/core/board';
import type { Journal } from './journal';
import { isRepair, solveHere, type Solved } from './solved';
import { nextStep, padsOf, type PadState, type SoFar, type Stage } from './stages';
import { placeText, siteTitle } from './wording';

/** Where a case stands. */
export interface Progress {
  readonly pads: Readonly<Record<Stage, PadState>>;
  /** The proof's steps; empty while the case has nothing to prove yet, unless it was asked for. */
  readonly proof: readonly ProofStep[];
  readonly proven: boolean;
  /** The proof is still being worked out: what it asks for is not known yet. */
  readonly isProofPending: boolean;
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
 * Where a case stands. solved: what circuits say of it, here and now where nobody sent it.
 * showProof: work the proof out even where nothing is repaired yet; without it a docket of many
 * cases need not solve the circuit of each.
 */
export function caseProgress(
  index: BoardIndex | undefined,
  journal: Journal,
  solved: Solved = solveHere(index, journal),
  showProof = false,
): Progress {
  const repaired = journal.ledger.some(isRepair);
  const begun = repaired || journal.answers.length > 0;
  const known = begun || showProof ? solved.proof() : [];
  const proof = known ?? [];
  const untouched = journal.condemned
    .map(({ body }) => body.ref)
    .filter((ref) => !journal.ledger.some((line) => line.ref === ref && isRepair(line)));
  // Without a sheet somebody has to have named what feeds the unit, or nothing electrical is
  // proven.
  const isKnown = index !== undefined || journal.rails.length > 0;
  const proven = begun && isKnown && journal.missing.length === 0 && isProven(proof);
  const soFar = { index, journal, proof, untouched, proven, repaired };
  const obstacles = obstaclesOf(soFar, begun);
  return {
    pads: padsOf(soFar),
    proof,
    proven,
    isProofPending: known === undefined,
    obstacles: known ? obstacles : [...obstacles, 'the proof is still being worked out: a moment'],
    ...nextStep(soFar),
  };
}

function obstaclesOf(
  { index, journal, proof, untouched, proven }: SoFar,
  begun: boolean,
): readonly string[] {
  const { missing, steps, undecided, decision } = journal;
  const obstacles: string[] = [];
  const off = steps.filter(({ what, back, count }) => what !== 'empty-hole' && back < count);
  if (off.length > 0)
    obstacles.push(
      `not back together: ${off.reduce((sum, { back, count }) => sum + count - back, 0)} pieces are still off`,
    );
  if (journal.inside.length > 0)
    obstacles.push(`still in the unit: ${journal.inside.map(({ body }) => body.what).join(', ')}`);
  if (undecided.length > 0)
    obstacles.push(
      `${undecided.map(({ body }) => body.title).join('; ')} failed, and nothing was decided`,
    );
  const simulated = [...journal.readings, ...journal.loose].filter((one) => one.isSimulated);
  if (simulated.length > 0)
    obstacles.push(
      `${simulated.length} readings are of a simulated board: take them back, or they stand in the report`,
    );
  // A unit that is given up goes back unproven, and the report says so.
  if (decision?.body.course === 'give-up') return obstacles;
  if (missing.length > 0) obstacles.push(`${missing.join(', ')} came off and nothing went on`);
  const sites = untouched.filter((ref) => siteTitle(index, ref));
  const parts = untouched.filter((ref) => !siteTitle(index, ref));
  if (parts.length > 0) obstacles.push(`${parts.join(', ')} condemned and not replaced`);
  if (sites.length > 0)
    obstacles.push(
      `${sites.map((ref) => placeText(index, ref)).join(', ')} condemned and not mended`,
    );
  if (!begun) obstacles.push('nothing is proven');
  else if (!index && journal.rails.length === 0)
    obstacles.push('no sheet and no rail named: name the rails in Prove, and read them');
  const open = proof.filter((step) => step.state !== 'pass').length;
  if (begun && !proven && open > 0) obstacles.push(`${open} proof steps not passed`);
  return obstacles;
}
