export { decibans, type Belief, type PartBelief, type Suspect } from './belief';
export { Diagnoser, diagnose, replaceableParts } from './diagnoser';
export { Predictor, type Asked } from './prediction';
export {
  BLUNDER,
  PULSING_AT,
  blank,
  logLikelihood,
  scaled,
  scaledValue,
  unscaledValue,
  type Scaled,
} from './likelihood';
export { comparePeers, compareSister, type PeerVerdict } from './peers';
export { esrSurvey, type EsrSurvey, type EsrVerdict } from './masking';
export { symptomTable, type SymptomRow } from './symptom-table';
export { edgeVariants } from './edges';
export { minimalDiagnoses, minimalHittingSets } from './logic-sets';
export { taughtBy, type Taught } from './taught';
export { EsrLevels } from './esr-levels';
export { gridLikelihood, gridSize, logMeanExp } from './severity-grid';
export { partsAlike } from './alike';
export { argueSteps, type Argument, type ArgumentStep, type Side } from './argument';
export { whatIf, type WhatIf, type WhatIfReading } from './what-if';
export { sheetWorth, type SheetWorth } from './sheet-worth';
