import { powerOf, type Setup } from '../board';
import { Diagnoser, scaled, type Scaled } from '../diagnosis';
import { rateOf, type RateTable, type SingleHypothesis } from '../fault';
import type { Measurement } from '../instrument';
import { candidateMeasurements, DEFAULT_COSTS, setupMinutes, type CostTable } from '../plan';
import {
  ANY_MODE,
  differs,
  measurementWords,
  MODES_OF,
  poolOf,
  seenOn,
  type Exercise,
} from './exercise';

/** The best order of readings that there can be for an exercise. */
export interface Optimum {
  /** Faults that could have been hidden and that some reading tells from one another. */
  readonly kinds: number;
  /** Bench minutes until what it is is known, on the average of all that could have been hidden. */
  readonly meanMinutes: number;
  /** For what was hidden: minutes, and the readings in their order. */
  readonly minutes: number;
  readonly words: readonly string[];
}

/** More kinds than this, and their sets are not gone through. */
const MOST_KINDS = 20;
/** Sets of kinds that are looked at before it is given up. */
const MOST_SETS = 60_000;
/**
 * Deviations between two predictions below which they read the same, and above which they are told
 * apart. A reading that lies between for two of the faults is left out: there it is no matter of sets.
 */
const [ALIKE, APART] = [0.3, 3];

/**
 * The best order by dynamic programming over the sets of faults that are still possible (R. Bellman,
 * Dynamic Programming, 1957), from the readings that tell plainly. Undefined where more than one
 * fault is hidden, where what is hidden is not always there, and where there are too many sets.
 */
export function optimumOf(
  { index, faults, level, within, comesAndGoes }: Exercise,
  rates: RateTable,
  costs: CostTable = DEFAULT_COSTS,
): Optimum | undefined {
  const [hidden] = faults;
  if (faults.length !== 1 || comesAndGoes || level > 2) return undefined;
  const modes = MODES_OF[level] ?? ANY_MODE;
  const every = candidateMeasurements(index).filter(({ kind }) => kind !== 'symptom');
  const pool = poolOf(index, rates, within).filter(({ name }) => modes.test(name));
  // A board of hundreds of parts is not asked.
  if (pool.length > 8 * MOST_KINDS) return undefined;
  // What no reading shows cannot have been hidden.
  const sound = seenOn(index.board, [], every);
  const seen = pool.filter(({ name }) => {
    const own = seenOn(index.board, [name], every);
    return every.some((_, i) => differs(sound[i], own[i]));
  });
  const world = worldOf(new Diagnoser(index, rates), seen, every, (h) =>
    rateOf(index, rates, h.fault),
  );
  const own = world.kindOf.get(hidden!);
  if (own === undefined || world.kinds > MOST_KINDS) return undefined;
  const best = bestOrder(world, costs);
  if (!best) return undefined;
  const { minutes, words } = best.path(own);
  return { kinds: world.kinds, meanMinutes: best.meanMinutes, minutes, words };
}

/** Faults by kind: those of one kind read the same everywhere. */
interface World {
  readonly kinds: number;
  readonly kindOf: ReadonlyMap<string, number>;
  /** How likely each kind is; they sum to 1. */
  readonly weight: readonly number[];
  readonly readings: readonly {
    readonly measurement: Measurement;
    readonly shows: readonly number[];
  }[];
}

function worldOf(
  diagnoser: Diagnoser,
  pool: readonly SingleHypothesis[],
  every: readonly Measurement[],
  rate: (h: SingleHypothesis) => number,
): World {
  const plain = every.flatMap((measurement) => {
    const predicted = pool.map((h) =>
      scaled(
        measurement.kind,
        diagnoser.predictor.at(h, h.severities[h.severities.length >> 1]!, measurement),
      ),
    );
    const shows = classesOf(predicted);
    return shows ? [{ measurement, shows }] : [];
  });
  const keys = pool.map((_, i) => plain.map(({ shows }) => shows[i]).join());
  const kinds = [...new Set(keys)];
  const kindOf = new Map(pool.map(({ name }, i) => [name, kinds.indexOf(keys[i]!)]));
  const total = pool.reduce((sum, h) => sum + rate(h), 0);
  return {
    kinds: kinds.length,
    kindOf,
    weight: kinds.map(
      (key) => pool.reduce((sum, h, i) => sum + (keys[i] === key ? rate(h) : 0), 0) / total,
    ),
    readings: plain
      .map(({ measurement, shows }) => ({
        measurement,
        shows: kinds.map((key) => shows[keys.indexOf(key)]!),
      }))
      .filter(({ shows }) => new Set(shows).size > 1),
  };
}

/** Which predictions read the same; undefined where two are neither the same nor apart. */
function classesOf(predictions: readonly Scaled[]): readonly number[] | undefined {
  const order = [...predictions.keys()].sort((a, b) => {
    const [p, q] = [predictions[a]!, predictions[b]!];
    return Number(p.overload) - Number(q.overload) || p.y - q.y || 0;
  });
  const found = new Array<number>(predictions.length).fill(0);
  let current = 0;
  for (const [at, i] of order.entries()) {
    const [before, here] = [predictions[order[at - 1] ?? i]!, predictions[i]!];
    const gap = gapOf(before, here);
    if (gap > ALIKE && gap < APART) return undefined;
    if (gap >= APART) current += 1;
    found[i] = current;
  }
  return found;
}

/** Deviations between two predictions. */
function gapOf(before: Scaled, here: Scaled): number {
  if (before.overload !== here.overload) return Infinity;
  if (here.overload) return 0;
  const apart = here.y - before.y;
  return apart === 0 ? 0 : apart / (before.sigma + here.sigma || 1);
}

interface BestOrder {
  readonly meanMinutes: number;
  readonly path: (kind: number) => { readonly minutes: number; readonly words: readonly string[] };
}

/** Undefined where there are too many sets. */
function bestOrder({ kinds, weight, readings }: World, costs: CostTable): BestOrder | undefined {
  const known = new Map<string, { readonly minutes: number; readonly take: number }>();
  const weightOf = (set: number): number =>
    weight.reduce((sum, w, k) => sum + (set & (1 << k) ? w : 0), 0);
  const split = ({ shows }: World['readings'][number], set: number): readonly number[] => {
    const parts = new Map<number, number>();
    for (let k = 0; k < kinds; k += 1)
      if (set & (1 << k)) parts.set(shows[k]!, (parts.get(shows[k]!) ?? 0) | (1 << k));
    return [...parts.values()];
  };
  const costOf = ({ setup, kind }: Measurement, from: Setup): number =>
    setupMinutes(from, setup, costs) + costs.reading[kind];
  /** Minutes to be expected from a set of kinds on, and the reading to begin with. */
  const from = (set: number, setup: Setup): { readonly minutes: number; readonly take: number } => {
    const key = `${set} ${powerOf(setup)} ${setup}`;
    const had = known.get(key);
    if (had) return had;
    let best = { minutes: Infinity, take: -1 };
    if ((set & (set - 1)) === 0) best = { minutes: 0, take: -1 };
    else
      for (const [take, reading] of readings.entries()) {
        if (known.size > MOST_SETS) break;
        const parts = split(reading, set);
        if (parts.length < 2) continue;
        let minutes = costOf(reading.measurement, setup);
        for (const part of parts) {
          if (minutes >= best.minutes) break;
          minutes +=
            (weightOf(part) / weightOf(set)) * from(part, reading.measurement.setup).minutes;
        }
        if (minutes < best.minutes) best = { minutes, take };
      }
    // Every two kinds differ in some reading, so there is always one that tells.
    known.set(key, best);
    return best;
  };
  const all = 2 ** kinds - 1;
  const meanMinutes = from(all, 'off').minutes;
  if (known.size > MOST_SETS || !Number.isFinite(meanMinutes)) return undefined;
  return {
    meanMinutes,
    path: (kind) => {
      const words: string[] = [];
      let [set, setup, minutes]: [number, Setup, number] = [all, 'off', 0];
      for (let { take } = from(set, setup); take >= 0; { take } = from(set, setup)) {
        const reading = readings[take]!;
        minutes += costOf(reading.measurement, setup);
        words.push(measurementWords(reading.measurement));
        set = split(reading, set).find((part) => part & (1 << kind))!;
        ({ setup } = reading.measurement);
      }
      return { minutes, words };
    },
  };
}
