export {
  AmplifierModel,
  Board,
  Dielectric,
  DiodeModel,
  Edge,
  NamedSetup,
  Observable,
  RingTold,
  Part,
  RegulatorModel,
  TransistorModel,
  type PartKind,
} from './schema';
export { ChipModel, ChipPin, compileChip, FamilyModel } from './chip-model';
export { NO_LIBRARY, type DeviceLibrary } from './library';
export {
  countParts,
  findPin,
  findPoint,
  GROUND,
  indexBoard,
  isBusyNet,
  isInsidePackage,
  nameKey,
  pinName,
  pinPoint,
  pinsOn,
  replaceablePart,
  replaceableRef,
  type BoardIndex,
  type PinPlace,
  type Point,
} from './nets';
export { mendingsOf, withPartLine, type Mending } from './mend';
export { nextTouches, pairKey, type Touch } from './next-touches';
export {
  mergeNets,
  parseRing,
  ringContradictions,
  ringInto,
  withRing,
  type Ring,
  type RingResult,
} from './ring-through';
export { isUnsaid } from './part-words';
export { sectionLines } from './insert-section';
export { boardChanges } from './compare-boards';
export { isAlmost, sheetRemarks, sheetSummary, type SheetRemark } from './sheet-checks';
export { isDesignator, scratchBoard } from './scratch-board';
export { FORMULA, plainCell } from './csv-cells';
export {
  describeIssue,
  MAX_ISSUES,
  type FileIssue,
  type PartReport,
  type ReadResult,
} from './issue';
export { BOARD_FORMATS, formatOf, isPinList, MAX_FILE_BYTES, readBoardFile } from './formats/index';
export { checkBoard, readBoardJson, writeBoardJson } from './formats/board-json';
export { readDeck } from './formats/deck-reader';
export {
  changePartLines,
  partLine,
  partLines,
  readSheet,
  readSheetLines,
  renameInSheet,
  usesInSheet,
  writeSheet,
  type NameUse,
  type PartLine,
  type PartLineChange,
  type SheetReading,
} from './formats/sheet';
export { writeDeck } from './formats/deck-writer';
export { partValue, readPartsList, writePartsList } from './formats/parts-list';
export { readTestNetlist, writeTestNetlist } from './formats/test-netlist';
export { parseDeckNumber, printDeckNumber } from './formats/deck-number';
export {
  comparePinOuts,
  ConnectorPin,
  PinOut,
  PinUse,
  type PinClash,
  type PinOutComparison,
  type WireAdvice,
} from './pin-out';
export { COMMON_SETUPS, namedSetup, powerOf, Setup, setupNames, type PowerState } from './setup';
export { parseFuse, slowness, type FuseRating, type FuseSpeed } from './fuse-rating';
export { alignPicture, applyAffine, invertAffine, worstTie, type Affine, type Tie } from './align';
export {
  boardFrame,
  footprintOf,
  pinPlaces,
  usualPackage,
  type Footprint,
  type Turn,
} from './packages';
export { markingSuggestions, type Suggestion } from './markings';
export { diodeModel, transistorModel } from './common-models';
