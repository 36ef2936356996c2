export { CAUTIONS, type Caution, type CautionedStep } from './cautions';
export {
  cameOffOf,
  satOf,
  absentParts,
  ledgerObjection,
  missingParts,
  reconcile,
  type LedgerLine,
  type LedgerState,
} from './ledger';
export { ledgerObjectionWithoutSheet, mayHaveWay, type LooseReading } from './without-sheet';
export { fuseChecks, fuseGate, fuseLoadSide, type FuseObjection } from './fuse-gate';
export { isOnMains, MAINS_PEAK_VOLT, mainsNets, plugEnds } from './mains';
export { placeOf } from './place-of';
export {
  objectionOf,
  remarksWithoutSheet,
  replacementObjection,
  replacementRemarks,
} from './replacement';
export { sequencesOf, type Sequence } from './sequences';
export { benchMinutes, benchMinutesBy, LONGEST_GAP_MINUTES } from './time';
export { bleeder, type Bleeder } from './bleeder';
export {
  ENERGY_LIMIT_JOULE,
  METER_LIMIT_VOLT,
  secondsTo,
  storedCharges,
  storedJoule,
  TOUCH_LIMIT_VOLT,
  voltAfter,
  type StoredCharge,
} from './discharge';
export {
  DEFER,
  hazardsOf,
  leftWords,
  lockedBy,
  type Acknowledged,
  type Gate,
  type Hazard,
  type Lock,
  type Residual,
} from './hazards';
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
  accessMinutes,
  backObjection,
  freedBy,
  minutesToGo,
  OpenUpStep,
  reassemblyList,
  screwBalance,
  shortestWayToTest,
  stepMinutes,
  type LoggedStep,
  type ReassemblyLine,
  type ScrewCount,
} from './open-up';
export { urgencyOf, type CaseState, type Urgency } from './urgency';
export {
  chipUnits,
  drivenBy,
  levelTaken,
  truthTable,
  unitWith,
  type ChipUnit,
  type Driven,
  type TruthRow,
} from './chip-units';
export {
  followed,
  walkBack,
  type NetLevels,
  type WalkedDriver,
  type WalkedNet,
  type WalkEnd,
} from './walk-back';
export { lineHolders, type Holder } from './line-holders';
