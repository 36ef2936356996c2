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
  evaluateCharacteristic,
  FLOAT_OHM,
  HIGH_SIEMENS,
  characteristicSlack,
  characteristicStraight,
  LEAK_SIEMENS,
  LIMITED_SLOPE,
  type DropCharacteristic,
  type FreeCharacteristic,
  type Characteristic,
  type LimitCorner,
  type Straight,
  type TtlCharacteristic,
} from './characteristic';
export { programOf, STAGE_SPREAD } from './chip';
export { chipFromRow, type ChipRow, type ChipUnits } from './chip-row';
export { dim } from './coupled';
export type { DeviceKind, FaultMode } from './kind';
export { CONTACT_OHM, fuseOhm } from './contacts';
export { rectifierInputs, supplyPath, supplyRails } from './rails';
export { DEFAULT_TOLERANCE } from './passives';
export { ESR_SPREAD, typicalEsrOhm, UNSTATED_ESR_SPREAD } from './typical-esr';
export { elementsOf, isSource, modesOf, openPinMode } from './registry';
export { SEVERITY, severityGrid, typicalSeverity, type SeverityRange } from './severity';
