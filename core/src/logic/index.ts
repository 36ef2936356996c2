export { HIGH, LEVEL_NAME, LOW, PULSE, UNKNOWN, type Level } from './level';
export { compileExpression, FunctionTextError } from './expression';
export {
  compileProgram,
  copyMemory,
  emptyMemory,
  runProgram,
  type DrivenOutput,
  type Memory,
  type Program,
} from './program';
