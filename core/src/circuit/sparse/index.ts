export { SparseLu, type Singular } from './lu';
export { minimumDegreeOrder } from './order';
export { PatternBuilder, samePattern, slotOf, type Pattern } from './pattern';
