export { nodeOf, type Network } from './network';
export { buildNetwork } from './network-builder';
export {
  deriveNetwork,
  exchangeElements,
  type ConductanceChange,
  type Difference,
  type NetlistChange,
} from './incremental/netlist-change';
export {
  across,
  operatingPoint,
  type NoOperatingPoint,
  type OperatingPoint,
  type SolveOptions,
} from './operating-point';
export { drivenLevel, OFF } from './levels';
export { freshChips, solveMixedSignal } from './mixed-signal';
export {
  isUnknown,
  seesTheSame,
  type FreshChips,
  type MixedSignalSolution,
} from './mixed-signal-solution';
export { contentions, type Contention } from './contention';
export { drivenNodes } from './driven-nodes';
export { drivenAfter, drivenThere } from './incremental/driven-after';
export { afterSmallStep, stepBetween } from './incremental/small-step';
export { factorJacobian } from './jacobian';
export { MODEL_SPREAD, toleranceSpread } from './sensitivity';
export { SolvedStates } from './incremental/solved-states';
export { BaseLinearisation } from './incremental/base-linearisation';
export {
  NO_DIFFERENCE,
  pointAfter,
  solveIncrementally,
  pointDriven,
  type NearPoint,
} from './incremental/incremental-search';
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
