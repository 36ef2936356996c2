/**
 * The computing core in one import, for people and programs outside this repository. Inside it,
 * import the folder you need.
 */
export { indexBoard, readBoardFile, type Board, type BoardIndex } from './board';
export { parseFault, hypothesisSpace, type Fault } from './fault';
export {
  BenchState,
  parseShorthand,
  readout,
  readReadingsFile,
  resolveMeasurement,
  type Reading,
  type Readout,
} from './instrument';
export { diagnose, Diagnoser, type Belief } from './diagnosis';
export { nextMeasurements, planNext, type Plan } from './plan';
