export { normal, readOff, seeded, variedBoard, type Random } from './varied-board';
export {
  fixedChoice,
  fixedOrder,
  indistinguishable,
  plannerChoice,
  readingsToIsolate,
} from './isolation';
