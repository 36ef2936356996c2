export {
  COMMON_COVERAGE,
  FirstAid,
  HazardKind,
  KillCheck,
  ProofWants,
  RunMedium,
  UnitModel,
  unitModelIssues,
  type BlockEvidence,
} from './unit-model';
export { fatalFindings, type FatalFinding } from './fatal';
export { believeBlocks, type BlockBelief } from './belief';
export { nextTrials, possibleTrials, type ProposedTrial, type Trial } from './next-trial';
export { rankAids, type RankedAid } from './first-aid';
export { expectedAnomalies, explainedBy, type Masked } from './anomalies';
export { decodeTaps, type Rhythm } from './lamp-rhythm';
export {
  bitsPerTurn,
  capacityBytes,
  DiskGeometry,
  forecast,
  type MediumForecast,
  type Mismatch,
} from './medium';
export {
  filesWithin,
  MOST_IMAGE_BYTES,
  readDiskImage,
  readDiskListing,
  type DiskContents,
  type DiskRead,
  type FilesWithin,
} from './disk-files';
export {
  cleanRun,
  cleanStartsAtRate,
  cleanStartsNeeded,
  exactTest,
  failureRate,
  rateLeftOpen,
  testConditions,
  type ConditionTest,
  type Start,
} from './starts';
export { recognise, type Recognised } from './recognise';
export { blocksAfterReadings, blocksOfParts, partFactors } from './joined';
export {
  CaseContext,
  codeEvidence,
  contextEvidence,
  modelOfContext,
  proposedPatterns,
  recogniseUnit,
  stageMove,
  type ContextIssue,
  type StageMove,
} from './context';
export {
  nextSwap,
  swapPlans,
  swapTally,
  type SwapPlan,
  type SwapSchool,
  type SwapState,
  type SwapSuspect,
  type SwapTest,
} from './swap-plan';
