import type { FamilyModel } from '@hanzai/core/board';

/** Without the noise that binary fractions leave behind: 1.05, not 1.0499999999999998. */
const tidy = (value: number): number => Number(value.toPrecision(12));

const bipolar = (
  name: string,
  baseOhm: number,
  high: [dropVolt: number, ohm: number],
  low: [volt: number, ohm: number],
  threshold = 1.3,
  schmitt: [rise: number, fall: number] = [1.7, 0.9],
): FamilyModel => ({
  name,
  supplyLeastVolt: 3.6,
  supplyMostVolt: 5.5,
  thresholdVolt: threshold,
  schmittRise: schmitt[0],
  schmittFall: schmitt[1],
  input: { type: 'ttl', baseOhm, dropVolt: 0.75, floatVolt: Math.max(1.4, tidy(threshold + 0.1)) },
  high: { dropVolt: high[0], ohm: high[1], oneWay: true },
  low: { volt: low[0], ohm: low[1], limitAmpere: 0.1 },
});

// prettier-ignore
const mos = (name: string, supply: [least: number, most: number], ohm: [high: number, low: number], threshold: { thresholdVolt: number } | { thresholdShare: number }): FamilyModel => {
  const centre = 'thresholdVolt' in threshold ? threshold.thresholdVolt : threshold.thresholdShare;
  return {
    name,
    supplyLeastVolt: supply[0],
    supplyMostVolt: supply[1],
    ...threshold,
    schmittRise: tidy(centre * 1.2),
    schmittFall: tidy(centre * 0.75),
    input: { type: 'mos' },
    high: { dropVolt: 0, ohm: ohm[0], oneWay: false, limitAmpere: 0.06 },
    low: { volt: 0, ohm: ohm[1], limitAmpere: 0.06 },
  };
};

/**
 * How the logic families behave at their pins, by the letters in a part's name ('' is the standard
 * family). Typical values at 5 V and room temperature,
 * from memory of common data sheets; the guaranteed levels that they must lie within are checked in
 * core/test/reference/logic-families.test.ts.
 */
export const FAMILIES: Readonly<Record<string, FamilyModel>> = {
  '': bipolar('TTL', 4e3, [1.3, 130], [0.08, 8]),
  LS: bipolar('LS', 20e3, [1.3, 120], [0.13, 22], 1.1, [1.6, 0.8]),
  S: bipolar('S', 2.8e3, [1.2, 50], [0.15, 10]),
  ALS: bipolar('ALS', 40e3, [1.3, 70], [0.13, 20], 1.4, [1.6, 0.9]),
  AS: bipolar('AS', 10e3, [1.2, 30], [0.15, 8], 1.5),
  F: bipolar('F', 10e3, [1.2, 45], [0.15, 10], 1.5),
  L: bipolar('L', 40e3, [1.3, 500], [0.1, 50]),
  H: bipolar('H', 2.8e3, [1.3, 58], [0.1, 8]),
  HC: mos('HC', [2, 6], [45, 40], { thresholdShare: 0.5 }),
  HCT: mos('HCT', [4, 5.5], [45, 40], { thresholdVolt: 1.4 }),
  '4000': { ...mos('4000', [3, 15], [500, 450], { thresholdShare: 0.5 }), ohmAtSupplyVolt: 5 },
  /**
   * The 4049 and 4050: a strong low for two TTL loads, and inputs that may stand above the supply.
   */
  '4000 buffer': {
    ...mos('4000 buffer', [3, 15], [400, 70], { thresholdShare: 0.5 }),
    ohmAtSupplyVolt: 5,
    supplyClamp: false,
  },
  NMOS: {
    ...mos('NMOS', [4, 5.5], [400, 150], { thresholdVolt: 1.4 }),
    high: { dropVolt: 0.9, ohm: 400, oneWay: true },
  },
  /** Comparators: a bipolar open collector; the inputs draw nothing that matters. */
  COMPARATOR: {
    ...mos('comparator', [2, 36], [100, 100], { thresholdVolt: 1.4 }),
    low: { volt: 0.1, ohm: 25, limitAmpere: 0.016 },
  },
  /** Driver arrays: a resistor and two junctions at each input, a Darlington at each output. */
  DARLINGTON: {
    ...mos('darlington', [1e-3, 50], [100, 2], { thresholdVolt: 1.8 }),
    input: { type: 'base', ohm: 2.7e3, dropVolt: 1.3 },
    low: { volt: 0.75, ohm: 0.8, limitAmpere: 0.6 },
  },
  /** Bipolar timers: the reset pin looks at 0.7 V; an output stage for 200 mA. */
  TIMER: {
    ...mos('timer', [4.5, 16], [10, 8], { thresholdVolt: 0.7 }),
    high: { dropVolt: 1.4, ohm: 5, oneWay: true, limitAmpere: 0.25 },
    low: { volt: 0.1, ohm: 6, limitAmpere: 0.25 },
  },
  /** Half-bridge drivers with a bipolar output stage. */
  BRIDGE: {
    ...bipolar('bridge', 20e3, [1.1, 1.2], [0.9, 1.2], 1.4),
    high: { dropVolt: 1.1, ohm: 1.2, oneWay: true, limitAmpere: 1.2 },
    low: { volt: 0.9, ohm: 1.2, limitAmpere: 1.2 },
    supplyMostVolt: 7,
  },
};

/**
 * Output stages of bus and line buffers, by family: 0.5 V at 24 mA and 2 V across 100 ohms for the
 * low-power ones. Typical values, from memory of common data sheets; the guaranteed levels that
 * they must keep are checked in core/test/reference/logic-families.test.ts.
 */
const BUFFERS: Readonly<Record<string, Pick<FamilyModel, 'high' | 'low'>>> = {
  '': stage([1.3, 60], [0.08, 7]),
  LS: stage([1.2, 38], [0.13, 11]),
  S: stage([1.2, 22], [0.15, 6]),
  ALS: stage([1.2, 38], [0.13, 11]),
  AS: stage([1.1, 20], [0.15, 5]),
  F: stage([1.1, 22], [0.15, 5]),
  H: stage([1.3, 40], [0.1, 6]),
  L: stage([1.3, 300], [0.1, 30]),
  HC: {
    high: { dropVolt: 0, ohm: 30, oneWay: false, limitAmpere: 0.08 },
    low: { volt: 0, ohm: 28, limitAmpere: 0.08 },
  },
  HCT: {
    high: { dropVolt: 0, ohm: 30, oneWay: false, limitAmpere: 0.08 },
    low: { volt: 0, ohm: 28, limitAmpere: 0.08 },
  },
};

function stage(
  high: [dropVolt: number, ohm: number],
  low: [volt: number, ohm: number],
): Pick<FamilyModel, 'high' | 'low'> {
  return {
    high: { dropVolt: high[0], ohm: high[1], oneWay: true },
    low: { volt: low[0], ohm: low[1], limitAmpere: 0.15 },
  };
}

/** Peripheral drivers: 0.25 V at 100 mA, 0.5 V at 300 mA. Source: as above. */
const PERIPHERAL: FamilyModel['low'] = { volt: 0.12, ohm: 1.25, limitAmpere: 0.6 };

/**
 * A family with the output stages that a row of the library asks for. letters: its key in FAMILIES.
 */
export function familyFor(
  letters: string,
  drive: 'buffer' | 'peripheral' | undefined,
): FamilyModel {
  const family = FAMILIES[letters]!;
  if (drive === 'peripheral') return { ...family, low: PERIPHERAL };
  return drive === 'buffer' ? { ...family, ...BUFFERS[letters] } : family;
}
