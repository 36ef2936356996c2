export { absentParts, ledgerObjection, missingParts, reconcile, type LedgerLine, type LedgerState } from './ledger';
export { fuseGate, fuseLoadSide } from './fuse-gate';
export { supplyRails } from './rails';
export { isProven, powerAllowed, proofSteps, type ProofAnswer, type ProofStage, type ProofStep } from './proving';
export { benchMinutes, LONGEST_GAP_MINUTES } from './time';
