import { GROUND, indexBoard, nameKey, type BoardIndex, type Part } from '../board';
import { BenchState } from '../instrument';
import { AS_COPPER } from './copper';
import { MAINS_PEAK_VOLT, mainsNets } from './mains';
import { workingVolt } from './sound-board';

/**
 * A direct voltage up to which a touch does no harm in dry conditions, volt. Source: IEC 62368-1,
 * energy class ES1, from memory.
 */
export const TOUCH_LIMIT_VOLT = 60;
/**
 * Above this an ohms or ESR reading shows the charge, and the charge may end the meter, volt.
 * Common practice, no published source.
 */
export const METER_LIMIT_VOLT = 2;
/**
 * An energy from which a spark or a ring across the terminals burns, joule. Source: IEC 60950-1,
 * hazardous energy level, from memory.
 */
export const ENERGY_LIMIT_JOULE = 20;
/** Below this a charge is not worth a line, volt and joule. From memory of bench practice. */
const WORTH = { volt: 30, joule: 0.5 } as const;
/**
 * A capacitor rated for so much energy with no more than this share of its volts on it is fed by
 * something that the sheet leaves out. From memory of bench practice.
 */
const UNFED = { joule: 0.05, share: 0.05 } as const;
/** Nothing that leads the charge away, ohm. */
const NO_PATH_OHM = 2e7;
/**
 * A capacitor whose value the sheet does not know counts as the largest that such boards carry,
 * farad. From memory of bench practice.
 */
const UNKNOWN_MOST_FARAD = 0.01;
/**
 * What an old electrolytic may hold above what is printed on it, as a factor: its tolerance is up
 * to +50 %. Source: IEC 60384-4, tolerance codes, from memory.
 */
const ELECTROLYTIC_EXCESS = 1.5;

/**
 * Volts left on a capacitor: V0 exp(-t / RC). Units: volt, ohm, farad, second. Source: the
 * first-order circuit, closed form.
 */
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

/** A capacitor of a board that keeps a charge worth knowing of. */
export interface StoredCharge {
  readonly ref: string;
  readonly part: Extract<Part, { kind: 'capacitor' }>;
  /**
   * Most volts on it with the power on: from the solved circuit, the peak of the mains where it
   * lies there, else its rating.
   */
  readonly volt: number;
  readonly from: 'circuit' | 'mains' | 'rating';
  /**
   * With everything in parallel to it, old electrolytics taken at the upper end of their tolerance,
   * farad.
   */
  readonly farad: number;
  /** Those in parallel with it, itself left out. */
  readonly together: readonly string[];
  readonly joule: number;
  /**
   * Resistors alone that lead the charge away with every fuse blown, every switch open and the plug
   * out, ohm; undefined where none do.
   */
  readonly pathOhm: number | undefined;
  /**
   * Seconds from switching off to the touch limit by these; undefined where it keeps its charge.
   */
  readonly seconds: number | undefined;
}

/**
 * The capacitors of a board that can bite after it is switched off, worst first: by volts on them
 * when it runs, and what leads them away.
 */
export function storedCharges(index: BoardIndex): readonly StoredCharge[] {
  const mains = mainsNets(index);
  const bleeders = resistorsAlone(index);
  const joined = joinedNets(index);
  const capacitors = index.board.parts.filter((part) => part.kind === 'capacitor');
  const placeOf = (part: Part): string =>
    part.pins
      .map((net) => joined(nameKey(net)))
      .sort()
      .join(' ');
  return capacitors
    .flatMap((part): StoredCharge[] => {
      const { volt, from } = mostVolts(part, index, mains);
      const like = capacitors.filter((other) => placeOf(other) === placeOf(part));
      const farad = like.reduce((sum, other) => sum + mostFarad(other), 0);
      const joule = storedJoule(volt, farad);
      if (volt < WORTH.volt && joule < WORTH.joule) return [];
      const pathOhm = bleeders(part);
      const seconds =
        volt <= TOUCH_LIMIT_VOLT
          ? 0
          : pathOhm === undefined
            ? undefined
            : secondsTo(volt, TOUCH_LIMIT_VOLT, pathOhm, farad);
      const together = like.filter((other) => other !== part).map(({ ref }) => ref);
      return [{ ref: part.ref, part, volt, from, farad, together, joule, pathOhm, seconds }];
    })
    .sort((x, y) => y.joule - x.joule);
}

type Capacitor = Extract<Part, { kind: 'capacitor' }>;

/** The most that a capacitor holds of what is printed on it, farad. */
function mostFarad({ unknown, capacitanceFarad, dielectric }: Capacitor): number {
  if (unknown) return UNKNOWN_MOST_FARAD;
  return (
    capacitanceFarad *
    (dielectric === 'electrolytic' || dielectric === 'bipolar' ? ELECTROLYTIC_EXCESS : 1)
  );
}

function mostVolts(
  part: Capacitor,
  index: BoardIndex,
  mains: ReadonlySet<string>,
): Pick<StoredCharge, 'volt' | 'from'> {
  if (part.pins.some((net) => mains.has(nameKey(net))))
    return { volt: MAINS_PEAK_VOLT, from: 'mains' };
  const volt = workingVolt(index, part);
  const rated = part.ratedVolt ?? 0;
  // A large one for high volts is not there for nothing: where the sheet shows next to none on it,
  // what feeds it is not on the sheet.
  const isUnfed =
    rated > TOUCH_LIMIT_VOLT &&
    storedJoule(rated, part.capacitanceFarad) >= UNFED.joule &&
    (volt ?? 0) < UNFED.share * rated;
  return volt === undefined || isUnfed
    ? { volt: rated, from: 'rating' }
    : { volt, from: 'circuit' };
}

/**
 * Ohms across a capacitor by the board's resistors alone: what stays there whatever fuse, switch,
 * winding or chip has failed.
 */
function resistorsAlone(index: BoardIndex): (part: Capacitor) => number | undefined {
  const parts = index.board.parts.filter(({ kind }) => kind === 'resistor' || kind === 'capacitor');
  if (!parts.some(({ kind }) => kind === 'resistor')) return () => undefined;
  const left = indexBoard({ ...index.board, parts, setups: [], observables: [], edges: [] });
  const off = new BenchState(left, { setup: 'off', faults: [], absent: [] });
  return (part) => {
    const [p, q] = part.pins.map((net) => left.netByKey.get(nameKey(net))!) as [string, string];
    const answer = off.respond({
      setup: 'off',
      kind: 'resistance',
      at: { net: p },
      to: { net: q },
    });
    return 'ok' in answer || answer.unknown || !(answer.value < NO_PATH_OHM)
      ? undefined
      : answer.value;
  };
}

/** One name for all nets that contacts and chokes join. */
function joinedNets(index: BoardIndex): (net: string) => string {
  const parent = new Map<string, string>();
  const root = (net: string): string => {
    const up = parent.get(net);
    return up === undefined || up === net ? net : root(up);
  };
  for (const { kind, pins } of index.board.parts) {
    if (!AS_COPPER.includes(kind)) continue;
    const [a, b] = pins.map((net) => root(nameKey(net))) as [string, string];
    // Ground keeps its name.
    if (a !== b) parent.set(a === GROUND ? b : a, a === GROUND ? a : b);
  }
  return root;
}
