export { isPolarised, judgeReplacement, orientation, parseOffered, type FitnessRemark, type OfferedPart } from './fitness';
