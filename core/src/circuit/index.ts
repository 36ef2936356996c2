export { buildNetwork, nodeOf, type Network } from './network';
export {
  deriveNetwork,
  exchangeElements,
  type ConductanceChange,
  type Difference,
  type Exchange,
} from './beside/exchange';
export {
  across,
  operatingPoint,
  type NoOperatingPoint,
  type OperatingPoint,
  type SolveOptions,
} from './operating-point';
export { drivenLevel, OFF } from './levels';
export { freshChips, settle } from './settle';
export { isUnknown, seesTheSame, type FreshChips, type Settled } from './settled';
export { contentions, type Contention } from './contention';
export { heldNodes } from './held';
export { heldBeside, heldThere } from './beside/held-beside';
export { afterSmallStep, stepBetween } from './beside/small-step';
export { factorJacobian } from './jacobian';
export { MODEL_SPREAD, toleranceSpread } from './sensitivity';
export { SolvedStates } from './beside/solved-states';
export { Vicinity } from './beside/vicinity';
export {
  NO_DIFFERENCE,
  pointAfter,
  pointBeside,
  pointDriven,
  type NearPoint,
} from './beside/vicinity-search';
export {
  impedance,
  impedanceAfter,
  smallSignal,
  type Impedance,
  type SmallSignalNetwork,
} from './small-signal';
export { RankOne } from './rank-one';
export { diodeCurrent, JUNCTION_SIEMENS, THERMAL_VOLT } from './junction';
export { SparseLu, PatternBuilder, minimumDegreeOrder, type Pattern } from './sparse';
