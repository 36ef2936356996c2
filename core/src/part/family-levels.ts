/**
 * Guaranteed levels and currents of a logic family at 5 V, of ordinary gates; volts, amperes,
 * nanoseconds (typical). Source: published TTL and CMOS data books, from memory; checked against
 * the tables of core/test/reference.
 */
export interface FamilyLevels {
  /** Least volts of a 1 and most of a 0 at an output, at the currents below. */
  readonly highOut: number;
  readonly lowOut: number;
  /** Volts from which an input surely sees a 1, and up to which it surely sees a 0. */
  readonly highIn: number;
  readonly lowIn: number;
  /** What an output sinks at 0, and what an input draws at 0. */
  readonly sinkAmpere: number;
  readonly inputAmpere: number;
  readonly delayNs: number;
  readonly supply: readonly [least: number, most: number];
}

const TTL_IN = { highIn: 2, lowIn: 0.8 };
const TTL_SUPPLY = [4.75, 5.25] as const;
const MOS_INPUT = 1e-6;

export const FAMILY_LEVELS: Readonly<Record<string, FamilyLevels>> = {
  '': {
    highOut: 2.4,
    lowOut: 0.4,
    ...TTL_IN,
    sinkAmpere: 16e-3,
    inputAmpere: 1.6e-3,
    delayNs: 10,
    supply: TTL_SUPPLY,
  },
  LS: {
    highOut: 2.7,
    lowOut: 0.5,
    ...TTL_IN,
    sinkAmpere: 8e-3,
    inputAmpere: 0.4e-3,
    delayNs: 9,
    supply: TTL_SUPPLY,
  },
  S: {
    highOut: 2.7,
    lowOut: 0.5,
    ...TTL_IN,
    sinkAmpere: 20e-3,
    inputAmpere: 2e-3,
    delayNs: 3,
    supply: TTL_SUPPLY,
  },
  ALS: {
    highOut: 2.5,
    lowOut: 0.5,
    ...TTL_IN,
    sinkAmpere: 8e-3,
    inputAmpere: 0.1e-3,
    delayNs: 4,
    supply: [4.5, 5.5],
  },
  AS: {
    highOut: 2.5,
    lowOut: 0.5,
    ...TTL_IN,
    sinkAmpere: 20e-3,
    inputAmpere: 0.5e-3,
    delayNs: 2,
    supply: [4.5, 5.5],
  },
  F: {
    highOut: 2.5,
    lowOut: 0.5,
    ...TTL_IN,
    sinkAmpere: 20e-3,
    inputAmpere: 0.6e-3,
    delayNs: 3.5,
    supply: [4.5, 5.5],
  },
  L: {
    highOut: 2.4,
    lowOut: 0.4,
    highIn: 2,
    lowIn: 0.7,
    sinkAmpere: 3.6e-3,
    inputAmpere: 0.18e-3,
    delayNs: 33,
    supply: TTL_SUPPLY,
  },
  H: {
    highOut: 2.4,
    lowOut: 0.4,
    ...TTL_IN,
    sinkAmpere: 20e-3,
    inputAmpere: 2e-3,
    delayNs: 6,
    supply: TTL_SUPPLY,
  },
  HC: {
    highOut: 3.84,
    lowOut: 0.33,
    highIn: 3.5,
    lowIn: 1.5,
    sinkAmpere: 4e-3,
    inputAmpere: MOS_INPUT,
    delayNs: 9,
    supply: [2, 6],
  },
  HCT: {
    highOut: 3.84,
    lowOut: 0.33,
    ...TTL_IN,
    sinkAmpere: 4e-3,
    inputAmpere: MOS_INPUT,
    delayNs: 10,
    supply: [4.5, 5.5],
  },
};

/** How a family is written on a part. */
export const familyWords = (letters: string): string => (letters === '' ? 'standard TTL' : letters);
