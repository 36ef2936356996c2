export { EVENT, SCPI_ERRORS, ScpiError, type ScpiErrorNumber } from './error';
export { readMessage, type ScpiData, type ScpiUnit } from './message';
export { ScpiArguments, type NumberLimits } from './arguments';
export { ScpiInstrument, type ScpiCommand, type ScpiDevice } from './instrument';
export { type ScpiStatus } from './status';
