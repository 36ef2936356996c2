export { parseQuantity, type ParsedQuantity, type Unit } from './parse';
export {
  formatCompact,
  formatOnRange,
  formatQuantity,
  minutesInWords,
  tellsInWords,
} from './format';
export { formatTolerance, parseTolerance } from './tolerance';
export { isPreferred, nearestPreferred, preferredValues, type ESeries } from './e-series';
export { normalBelow, normalDensity } from './normal';
export { combinedUncertainty, rectangular } from './uncertainty';
