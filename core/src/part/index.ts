export { judgeReplacement, type Place } from './fitness';
export { isPolarised, marking, orientation, type Marking } from './marking';
export { parseOffered, SAFETY_CLASSES, type OfferedPart, type SafetyClass } from './offered';
export { verdictOf, type FitnessRemark, type FitVerdict, type RemarkCode } from './remark';
