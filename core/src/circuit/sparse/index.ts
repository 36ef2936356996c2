export { SparseLu, type Singular } from './lu';
export { minimumDegreeOrder } from './order';
export { PatternBuilder, samePattern, type Pattern } from './pattern';
