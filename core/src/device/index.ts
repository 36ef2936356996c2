export { conductance, nodesOf, rewire, type Element, type NodeName } from './element';
export type { DeviceKind, FaultMode } from './kind';
export { CONTACT_OHM } from './contacts';
export { DEFAULT_TOLERANCE, ESR_SPREAD, TYPICAL_ESR_OHM } from './passives';
export { elementsOf, isSource, modesOf } from './registry';
export { SEVERITY, severityGrid, typicalSeverity, type SeverityRange } from './severity';
