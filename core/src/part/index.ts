export { judgeFit } from './fitness';
export {
  isPolarised,
  marking,
  markingOf,
  orientation,
  type Marking,
  type MarkSign,
} from './marking';
export { PART_ROLES, UNKNOWN_PLACE, type LogicNeighbour, type PartRole, type Place } from './place';
export { lifeHours } from './life';
export { readSpec } from './read-spec';
export { readSize } from './words';
export {
  SAFETY_CLASSES,
  type CapacitorSpec,
  type PartSpec,
  type SafetyClass,
  type Size,
  type SpecKind,
} from './spec';
export { saidMore, specOfParts } from './spec-of-part';
export { FAMILY_LEVELS } from './family-levels';
export { valueKept } from './fit/ceramic';
export { verdictOf, type FitnessRemark, type FitVerdict, type RemarkCode } from './remark';
