export { parseQuantity, type ParsedQuantity, type Unit } from './parse';
export {
  formatCompact,
  formatOnRange,
  formatQuantity,
  minutesInWords,
  tellsInWords,
} from './format';
export { formatTolerance, parseTolerance } from './tolerance';
export { normalBelow, normalDensity } from './normal';
export { combinedUncertainty, rectangular } from './uncertainty';
