export {
  FIRST_POWER,
  firstPowerObjection,
  isProven,
  powerAllowed,
  PROOF_STAGES,
  proofSteps,
  runsStep,
  shortsChecks,
  standing,
  type ProofAnswer,
  type ProofDone,
  type ProofOf,
  type ProofStage,
  type ProofStarts,
  type ProofStep,
} from './plan';
export {
  firstPowerWithoutSheet,
  proofWithoutSheet,
  type CaseWithoutSheet,
  type NamedRail,
} from './without-sheet';
export {
  firstDraws,
  firstPowerSetup,
  fittingShorts,
  type FittingShort,
  type SupplyDraw,
} from './first-power';
export { jointChecks } from './joints';
export {
  boundText,
  proofStatement,
  RUN_STATES,
  runTable,
  statementWords,
  type ProofStatement,
  type Run,
  type RunRow,
  type RunState,
} from './passes';
