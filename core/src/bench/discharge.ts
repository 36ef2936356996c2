import { GROUND, nameKey, type BoardIndex, type Part } from '../board';
import { BenchState } from '../instrument';

/** A direct voltage up to which a touch does no harm in dry conditions, volt. Source: IEC 62368-1, energy class ES1, from memory. */
export const TOUCH_LIMIT_VOLT = 60;
/** An energy from which a spark or a ring across the terminals burns, joule. Source: IEC 60950-1, hazardous energy level, from memory. */
export const ENERGY_LIMIT_JOULE = 20;
/** Below this a charge is not worth a line, volt and joule. From memory of bench practice. */
const WORTH = { volt: 30, joule: 0.5 } as const;
/** Nothing that leads the charge away, ohm. */
const NO_PATH_OHM = 2e7;

/** Volts left on a capacitor: V0 exp(-t / RC). Units: volt, ohm, farad, second. Source: the first-order circuit, closed form. */
export function voltAfter(startVolt: number, ohm: number, farad: number, seconds: number): number {
  return startVolt * Math.exp(-seconds / (ohm * farad));
}

/** Seconds until a capacitor is down to `volt`; zero where it is already. */
export function secondsTo(startVolt: number, volt: number, ohm: number, farad: number): number {
  return Math.abs(startVolt) <= volt ? 0 : ohm * farad * Math.log(Math.abs(startVolt) / volt);
}

/** Energy on a capacitor, joule: half C V squared. */
export function storedJoule(volt: number, farad: number): number {
  return 0.5 * farad * volt ** 2;
}

/** A resistor to hold across a capacitor. */
export interface Bleeder {
  /** Next value of the E12 series below what the time allows, ohm. */
  readonly ohm: number;
  /** Power in the first moment, and over the first time constant on average, watt. */
  readonly peakWatt: number;
  readonly meanWatt: number;
  /** Rating to take: the next common one at or above the average. watt. */
  readonly ratedWatt: number;
  readonly ratedVolt: number;
  /** Until the safe voltage is reached with it. */
  readonly seconds: number;
}

/** Source: IEC 60063, E12. */
const E12 = [1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2] as const;
/** Common ratings of wire-ended resistors, watt. Common practice, no published source. */
const RATINGS = [0.25, 0.5, 1, 2, 5, 10, 25, 50, 100] as const;

/** No larger resistor than this is taken, ohm: above it leaks and the meter itself count. From memory of bench practice. */
const MOST_BLEEDER_OHM = 1e5;

/** The resistor that brings a capacitor down to `safeVolt` within `seconds`. Undefined where it is safe already. Throws nothing: quantities are checked by the caller. */
export function bleeder(startVolt: number, farad: number, safeVolt: number, seconds: number): Bleeder | undefined {
  const volt = Math.abs(startVolt);
  if (volt <= safeVolt) return undefined;
  const ohm = seriesBelow(Math.min(MOST_BLEEDER_OHM, seconds / (farad * Math.log(volt / safeVolt))));
  const peakWatt = volt ** 2 / ohm;
  // Of the energy, 1 - e^-2 goes within one time constant.
  const meanWatt = (storedJoule(volt, farad) * (1 - Math.exp(-2))) / (ohm * farad);
  const ratedWatt = RATINGS.find((rating) => rating >= meanWatt) ?? RATINGS.at(-1)!;
  return { ohm, peakWatt, meanWatt, ratedWatt, ratedVolt: volt, seconds: secondsTo(volt, safeVolt, ohm, farad) };
}

function seriesBelow(ohm: number): number {
  const decade = 10 ** Math.floor(Math.log10(ohm) + 1e-12);
  const step = [...E12].reverse().find((value) => value * decade <= ohm * (1 + 1e-9)) ?? 1;
  return Number((step * decade).toPrecision(3));
}

/** A capacitor of a board that keeps a charge worth knowing of. */
export interface StoredCharge {
  readonly ref: string;
  readonly part: Extract<Part, { kind: 'capacitor' }>;
  /** Volts on it with the power on, from the solved circuit; its rating where the circuit does not tell. */
  readonly volt: number;
  readonly fromCircuit: boolean;
  readonly joule: number;
  /** What leads the charge away by itself with the power off, ohm; undefined where nothing does. */
  readonly pathOhm: number | undefined;
  /** Seconds from switching off to the touch limit by itself; undefined where it keeps its charge. */
  readonly seconds: number | undefined;
}

/** The capacitors of a board that can bite after it is switched off, worst first: by volts on them when it runs, and what leads them away. */
export function storedCharges(index: BoardIndex): readonly StoredCharge[] {
  const on = new BenchState(index, { setup: 'on', faults: [], absent: [] }).netVolts();
  const off = new BenchState(index, { setup: 'off', faults: [], absent: [] });
  const volts = 'ok' in on ? undefined : on;
  const voltOf = (net: string): number | null => (nameKey(net) === GROUND ? 0 : ((volts as Record<string, number | null> | undefined)?.[net] ?? null));
  return index.board.parts
    .flatMap((part): StoredCharge[] => {
      if (part.kind !== 'capacitor') return [];
      const [p, q] = part.pins.map((pin) => index.netByKey.get(nameKey(pin))!) as [string, string];
      const [a, b] = [voltOf(p), voltOf(q)];
      const known = a !== null && b !== null;
      const volt = known ? Math.abs(a - b) : (part.ratedVolt ?? 0);
      const joule = storedJoule(volt, part.capacitanceFarad);
      if (volt < WORTH.volt && joule < WORTH.joule) return [];
      const answer = off.respond({ setup: 'off', kind: 'resistance', at: { net: p }, to: { net: q } });
      const path = 'ok' in answer || !(answer.value < NO_PATH_OHM) ? undefined : answer.value;
      const seconds = volt <= TOUCH_LIMIT_VOLT ? 0 : path === undefined ? undefined : secondsTo(volt, TOUCH_LIMIT_VOLT, path, part.capacitanceFarad);
      return [{ ref: part.ref, part, volt, fromCircuit: known, joule, pathOhm: path, seconds }];
    })
    .sort((x, y) => y.joule - x.joule);
}
