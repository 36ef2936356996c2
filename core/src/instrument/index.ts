export {
  accuracyLimit,
  defaultSetup,
  meterOf,
  MeterProfile,
  ohmRange,
  ReadingKind,
  showOnMeter,
  STANDARD_METER,
  unitOf,
  voltRange,
} from './meter';
export {
  answerKey,
  measurementKey,
  pointText,
  resolveMeasurement,
  type Measurement,
  type MeasurementResult,
  observableMeasurements,
} from './measurement';
export { checkMeter, type MeterCheck } from './check-meter';
export { BenchState } from './bench-state';
export { INCREMENTAL, WHOLE_BOARD, type FaultSolver } from './fault-solver';
export { readSnapshot } from './read-snapshot';
export { stateOn, type VoltSnapshot } from './snapshot';
export { UNMOVED_SHARE, type Response } from './response';
export {
  combinedSpread,
  COVERAGE,
  logicChances,
  logicLevel,
  readout,
  withinBand,
  type Readout,
  type ReadingValue,
} from './readout';
export { doubtOf } from './doubt';
export { parseShorthand, tidyShorthand, type ShorthandResult } from './shorthand';
export {
  parseReadingValue,
  readReadingsFile,
  writeReadingsFile,
  type Reading,
} from './readings-file';
export {
  readStepsFile,
  stepThrough,
  type LevelChange,
  type SteppingResult,
  type StepVolts,
} from './stepping';
