/**
 * Errors of an instrument that speaks SCPI, with the numbers and words of the standard. Source:
 * SCPI-1999, volume 2, chapter 21.8.
 */
export const SCPI_ERRORS = {
  '-101': 'Invalid character',
  '-102': 'Syntax error',
  '-103': 'Invalid separator',
  '-104': 'Data type error',
  '-108': 'Parameter not allowed',
  '-109': 'Missing parameter',
  '-111': 'Header separator error',
  '-112': 'Program mnemonic too long',
  '-113': 'Undefined header',
  '-114': 'Header suffix out of range',
  '-121': 'Invalid character in number',
  '-123': 'Exponent too large',
  '-124': 'Too many digits',
  '-128': 'Numeric data not allowed',
  '-131': 'Invalid suffix',
  '-138': 'Suffix not allowed',
  '-141': 'Invalid character data',
  '-144': 'Character data too long',
  '-148': 'Character data not allowed',
  '-151': 'Invalid string data',
  '-158': 'String data not allowed',
  '-161': 'Invalid block data',
  '-168': 'Block data not allowed',
  '-171': 'Invalid expression',
  '-178': 'Expression data not allowed',
  '-200': 'Execution error',
  '-211': 'Trigger ignored',
  '-213': 'Init ignored',
  '-221': 'Settings conflict',
  '-222': 'Data out of range',
  '-224': 'Illegal parameter value',
  '-230': 'Data corrupt or stale',
  '-350': 'Queue overflow',
  '-363': 'Input buffer overrun',
} as const;

export type ScpiErrorNumber = keyof typeof SCPI_ERRORS;

/** A program message, or one command of it, that the instrument could not carry out. */
export class ScpiError extends Error {
  /** detail: what it was about, in the instrument's own words. */
  constructor(
    readonly number: ScpiErrorNumber,
    readonly detail?: string,
  ) {
    super(`${number},"${SCPI_ERRORS[number]}${detail === undefined ? '' : `;${detail}`}"`);
  }
}

/** Bits of the standard event status register. Source: IEEE 488.2, 11.5.1. */
export const EVENT = {
  operationComplete: 1,
  query: 4,
  device: 8,
  execution: 16,
  command: 32,
  powerOn: 128,
} as const;

/** Which bit of the standard event status register an error sets. Source: SCPI-1999, 21.8. */
export function eventOf(error: ScpiErrorNumber): number {
  const number = -Number(error);
  if (number < 200) return EVENT.command;
  if (number < 300) return EVENT.execution;
  return number < 400 ? EVENT.device : EVENT.query;
}
