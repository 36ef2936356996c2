import type { MeterProfile } from './meter';

/**
 * What an instrument answers before rounding: the value, and what part tolerance does to it.
 * `value` is infinite for OL.
 */
export interface Response {
  /** What answers; the standard meter where it is left out. */
  readonly meter?: MeterProfile;
  readonly value: number;
  /** One standard deviation from part tolerance, same unit. */
  readonly spread: number;
  /** Full scale of the range in use, same unit. */
  readonly fullScale: number;
  /** Of a voltage: the share of the open voltage that the meter's input leaves. */
  readonly share?: number;
  /** True where a logic probe sees both levels. */
  readonly pulsing?: boolean;
  /** True where the level depends on what nobody knows, such as a register that was never set. */
  readonly unknown?: boolean;
  /**
   * Where it is unknown which of a few values an ohmmeter shows: the least and the most of them,
   * ohm; infinite for OL.
   */
  readonly span?: readonly [number, number];
  readonly z?: { readonly re: number; readonly im: number };
}

/**
 * A reading that moved by less than this share of its standard deviation keeps that deviation, and
 * needs no closer look.
 */
export const UNMOVED_SHARE = 0.1;
