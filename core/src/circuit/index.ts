export { buildNetwork, nodeOf, type Network } from './network';
export { patchNetwork } from './patch';
export { across, operatingPoint, type NoOperatingPoint, type OperatingPoint, type SolveOptions } from './operating-point';
export { factorJacobian } from './jacobian';
export { MODEL_SPREAD, toleranceSpread } from './sensitivity';
export { impedance, impedanceAfter, smallSignal, type Impedance, type SmallSignalNetwork } from './small-signal';
export { RankOne } from './rank-one';
export { JUNCTION_SIEMENS, THERMAL_VOLT } from './junction';
export { SparseLu, PatternBuilder, minimumDegreeOrder, type Pattern } from './sparse';
