export {
  conductance,
  everyNode,
  nodesOf,
  type ChipLogic,
  type Element,
  type LogicInput,
  type LogicOutput,
  type NodeName,
} from './element';
export {
  evaluateLaw,
  FLOAT_OHM,
  HIGH_SIEMENS,
  lawSlack,
  lawStraight,
  LEAK_SIEMENS,
  LIMITED_SLOPE,
  type DropLaw,
  type FreeLaw,
  type Law,
  type LimitCorner,
  type Straight,
  type TtlLaw,
} from './law';
export { programOf, STAGE_SPREAD } from './chip';
export { chipFromRow, type ChipRow, type ChipUnits } from './chip-row';
export { dim } from './coupled';
export type { DeviceKind, FaultMode } from './kind';
export { CONTACT_OHM, fuseOhm } from './contacts';
export { DEFAULT_TOLERANCE } from './passives';
export { ESR_SPREAD, typicalEsrOhm, UNSTATED_ESR_SPREAD } from './typical-esr';
export { elementsOf, isSource, modesOf, openPinMode } from './registry';
export { SEVERITY, severityGrid, typicalSeverity, type SeverityRange } from './severity';
