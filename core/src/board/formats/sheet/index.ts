export { readSheet, readSheetLines, type SheetReading } from './read-sheet';
export { partLine, writeSheet } from './write-sheet';
export { renameInSheet, usesInSheet, type NameUse } from './rename';
export { changePartLines, partLines, type PartLine, type PartLineChange } from './part-lines';
export { ringLine } from './sheet-lines';
