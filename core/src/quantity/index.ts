export { parseQuantity, type ParsedQuantity, type Unit } from './parse';
export { formatCompact, formatOnRange, formatQuantity, prefixFor, unitSymbol } from './format';
export { normalBelow, normalDensity } from './normal';
