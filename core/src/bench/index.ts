export { absentParts, ledgerObjection, missingParts, reconcile, type LedgerLine, type LedgerState } from './ledger';
export { fuseGate, fuseLoadSide } from './fuse-gate';
export { supplyRails } from './rails';
export { isProven, powerAllowed, proofSteps, type ProofAnswer, type ProofStage, type ProofStep } from './proving';
export { benchMinutes, LONGEST_GAP_MINUTES } from './time';
export { bleeder, ENERGY_LIMIT_JOULE, secondsTo, storedCharges, storedJoule, TOUCH_LIMIT_VOLT, voltAfter, type Bleeder, type StoredCharge } from './discharge';
export { DEFER, hazardsOf, lockedBy, type Acknowledged, type Gate, type Hazard } from './hazards';
export {
  calledChecks,
  DownEdge,
  FINDING_RULES,
  FindingKind,
  lookFactors,
  reachShape,
  touchedParts,
  type CalledCheck,
  type FindingRule,
  type PlacedFinding,
  type Touched,
} from './look';
export {
  accessMinutes, backObjection, freedBy, minutesToGo, OpenUpStep, reassemblyList, screwBalance, shortestWayToTest, stepMinutes,
  type LoggedStep, type ReassemblyLine, type ScrewCount,
} from './open-up'; // prettier-ignore
export { urgencyOf, type CaseState, type Urgency } from './urgency';
