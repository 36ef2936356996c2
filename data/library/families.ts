import type { FamilyModel } from '@hanzai/core/board';

const bipolar = (name: string, baseOhm: number, high: [dropVolt: number, ohm: number], low: [volt: number, ohm: number], threshold = 1.3): FamilyModel => ({
  name,
  supplyLeastVolt: 3.6,
  supplyMostVolt: 5.5,
  thresholdVolt: threshold,
  schmittRise: threshold + 0.35,
  schmittFall: threshold - 0.45,
  input: { type: 'ttl', baseOhm, dropVolt: 0.75, floatVolt: threshold + 0.1 },
  high: { dropVolt: high[0], ohm: high[1], oneWay: true },
  low: { volt: low[0], ohm: low[1], limitAmpere: 0.1 },
});

const mos = (name: string, supply: [least: number, most: number], ohm: [high: number, low: number], threshold: { thresholdVolt: number } | { thresholdShare: number }): FamilyModel => {
  const centre = 'thresholdVolt' in threshold ? threshold.thresholdVolt : threshold.thresholdShare;
  return {
    name,
    supplyLeastVolt: supply[0],
    supplyMostVolt: supply[1],
    ...threshold,
    schmittRise: centre * 1.2,
    schmittFall: centre * 0.75,
    input: { type: 'mos' },
    high: { dropVolt: 0, ohm: ohm[0], oneWay: false, limitAmpere: 0.06 },
    low: { volt: 0, ohm: ohm[1], limitAmpere: 0.06 },
  };
}; // prettier-ignore

/** How the logic families behave at their pins, by the letters in a part's name ('' is the standard family). Typical values at 5 V and room temperature,
 *  from memory of common data sheets; the guaranteed levels that they must lie within are checked in core/test/reference/logic-families.test.ts. */
export const FAMILIES: Readonly<Record<string, FamilyModel>> = {
  '': bipolar('TTL', 4e3, [1.3, 130], [0.08, 8]),
  LS: bipolar('LS', 20e3, [1.3, 120], [0.13, 22]),
  S: bipolar('S', 2.8e3, [1.2, 50], [0.15, 10]),
  ALS: bipolar('ALS', 40e3, [1.3, 70], [0.13, 20], 1.4),
  AS: bipolar('AS', 10e3, [1.2, 30], [0.15, 8], 1.4),
  F: bipolar('F', 10e3, [1.2, 45], [0.15, 10], 1.4),
  L: bipolar('L', 40e3, [1.3, 500], [0.1, 50]),
  H: bipolar('H', 2.8e3, [1.3, 58], [0.1, 8]),
  HC: mos('HC', [2, 6], [45, 40], { thresholdShare: 0.5 }),
  HCT: mos('HCT', [4, 5.5], [45, 40], { thresholdVolt: 1.4 }),
  '4000': mos('4000', [3, 15], [500, 450], { thresholdShare: 0.5 }),
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
  /** Half-bridge drivers with a bipolar output stage. */
  BRIDGE: {
    ...bipolar('bridge', 20e3, [1.1, 1.2], [0.9, 1.2], 1.4),
    high: { dropVolt: 1.1, ohm: 1.2, oneWay: true, limitAmpere: 1.2 },
    low: { volt: 0.9, ohm: 1.2, limitAmpere: 1.2 },
    supplyMostVolt: 7,
  },
};
