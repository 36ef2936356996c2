import { z } from 'zod';
import { indexBoard, nameKey, replaceableRef, type Board, type BoardIndex } from '../board';
import { hypothesisSpace, rateOf, type RateTable, type SingleHypothesis } from '../fault';
import { pointText, unitOf, type Measurement, type ReadingValue } from '../instrument';
import { formatQuantity } from '../quantity';
import { candidateMeasurements } from '../plan';
import { seeded, variedBoard, type Random } from '../practice';
import { BenchBoard } from '../simulated';
import type { ComeAndGo } from './come-and-go';
import { refsOf } from './refs';
import { complaintOf, visitedParts } from './story';

/** What is hidden at each level, the easiest first. */
export const LEVELS = [
  { level: 1, words: 'one part open, shorted or with a dry joint', faults: 1 },
  { level: 2, words: 'any one fault', faults: 1 },
  { level: 3, words: 'two faults', faults: 2 },
  { level: 4, words: 'a fault that takes its fuse with it', faults: 1 },
  { level: 5, words: 'three faults, and an owner who says little', faults: 3 },
  { level: 6, words: 'a fault that comes and goes', faults: 1 },
  { level: 7, words: 'a fault, and what somebody else did before you', faults: 1 },
  { level: 8, words: 'three faults, no sheet, and an owner who says little', faults: 3 },
] as const;
export const Level = z.union([
  z.literal(1),
  z.literal(2),
  z.literal(3),
  z.literal(4),
  z.literal(5),
  z.literal(6),
  z.literal(7),
  z.literal(8),
]) satisfies z.ZodType<(typeof LEVELS)[number]['level']>;
export type Level = z.infer<typeof Level>;

/** Whether a level is worked on without the board's sheet. */
export const isWithoutSheet = (level: Level): boolean => level === 8;

export const isLevel = (level: number): level is Level => LEVELS.some((one) => one.level === level);

/** A board with something hidden on it. The same board, seed and level give the same exercise. */
export interface Exercise {
  readonly seed: number;
  readonly level: Level;
  /** As it is drawn: what the trainee has. */
  readonly index: BoardIndex;
  /** With the values that its parts really have. */
  readonly board: Board;
  /** Names of what is hidden. */
  readonly faults: readonly string[];
  /** What its owner says. */
  readonly complaint: string;
  /** The one of its faults that is not always there, and what brings it. */
  readonly comesAndGoes?: ComeAndGo;
  /** What somebody had under his iron before; what is seen of it tells nothing about guilt. */
  readonly visited?: readonly string[];
  /** The net or section around which it was hidden; empty for the whole board. */
  readonly within: string;
  /** What the leads of its ohmmeter add, ohm, until they are zeroed. */
  readonly leadOhm: number;
  /** What was really read, by measurement, where it is a case that was closed. */
  readonly recorded?: ReadonlyMap<string, ReadingValue>;
}

/** A board on which nothing of a level can be hidden that a meter would find. */
export class NoExercise extends Error {}

/** Draws until something is found that can be seen; then there is nothing to be found. */
const MOST_DRAWS = 200;
/** Modes that a beginner finds with a beep. */
const PLAIN_MODES = /:(open|short|dry)(?:$|=)/;
/** Modes of which warmth or a touch makes and unmakes the contact. */
const LOOSE_MODES = /:(open|dry)(?:$|=)/;
/** What an iron in a hurry leaves. */
const BOTCHED_MODES = /:(dry|bridge)(?:$|=)/;
/** Share of what comes and goes that comes with warmth. From memory of bench practice. */
const BY_WARMTH = 0.6;
/** Most that leads add to ohms, and what is the least of it. From memory of bench practice. */
const LEAD_OHM = [0.1, 0.8] as const;

/**
 * Hides something on a board, as often as the rate table has it. Every fault of it can be seen by
 * some reading, so the exercise can be solved. seed: a whole number above zero. within: a net or a
 * section of the board that what is hidden lies on; empty for anywhere.
 *
 * @throws NoExercise where the board has nothing for this level
 */
export function drawExercise(
  board: Board,
  rates: RateTable,
  seed: number,
  level: Level,
  within = '',
): Exercise {
  // The first numbers of small seeds lie near together; levels of one seed are not alike.
  const random = seeded(seed * 31 + level);
  for (let i = 0; i < 8; i += 1) random();
  const index = indexBoard(board);
  const real = variedBoard(board, random);
  const readings = candidateMeasurements(index).filter(({ kind }) => kind !== 'symptom');
  const sound = seenOn(real, [], readings);
  const pool = poolOf(index, rates, within);
  const faults: string[] = [];
  const isSeen = (name: string): boolean => {
    const seen = seenOn(real, [name], readings);
    return readings.some((_, i) => differs(sound[i], seen[i]));
  };
  /** Draws until there are so many faults that are of these modes. */
  const hide = (wanted: number, modes: RegExp): void => {
    const own = pool.filter(({ name }) => modes.test(name));
    if (own.length === 0) throw nothingFor(board, level, within);
    for (let draw = 0; draw < MOST_DRAWS && faults.length < wanted; draw += 1) {
      const one = pick(own, ({ fault }) => rateOf(index, rates, fault), random);
      if (!one || touches(faults, one)) continue;
      const blown = level === 4 ? blownBy(real, one.name) : [];
      if (level === 4 && blown.length === 0) continue;
      if (isSeen(one.name)) faults.push(one.name, ...blown);
    }
    if (faults.length < wanted) throw nothingFor(board, level, within);
  };
  hide(LEVELS[level - 1]!.faults, MODES_OF[level] ?? ANY_MODE);
  const asked = [...faults];
  if (level === 7) hide(2, BOTCHED_MODES);
  const comesAndGoes = level === 6 ? comingAndGoing(faults[0]!, random) : undefined;
  const visited = level === 7 ? visitedParts(index, asked, faults[1]!, random) : undefined;
  return {
    seed,
    level,
    index,
    board: real,
    faults,
    complaint: complaintOf({ index, board: real, faults, level, comesAndGoes, visited }),
    ...(comesAndGoes ? { comesAndGoes } : {}),
    ...(visited ? { visited } : {}),
    within,
    // A beginner's leads are good ones.
    leadOhm: level === 1 ? 0 : leadOhmOf(seed),
  };
}

function nothingFor({ title }: Board, level: Level, within: string): NoExercise {
  return new NoExercise(
    `${title}: nothing${within && ` around ${within}`} for level ${level} (${LEVELS[level - 1]!.words}) that a meter would see`,
  );
}

/**
 * What may be hidden: any single fault of a part or a place, around a net or in a section where one
 * is named.
 *
 * @throws NoExercise where the board has neither
 */
export function poolOf(
  index: BoardIndex,
  rates: RateTable,
  within: string,
): readonly SingleHypothesis[] {
  const all = hypothesisSpace(index, rates).hypotheses.filter(
    ({ fault, refs }) => refs.length > 0 && fault.type !== 'cut',
  );
  if (within === '') return all;
  const key = nameKey(within);
  const net = index.netByKey.get(key);
  const own = new Set(
    index.board.parts
      .filter(({ section, pins }) =>
        section !== undefined && nameKey(section) === key
          ? true
          : pins.some((name) => net !== undefined && nameKey(name) === key),
      )
      .map(({ ref }) => nameKey(replaceableRef(ref))),
  );
  if (own.size === 0)
    throw new NoExercise(`${index.board.title}: no net and no section is called ${within}`);
  return all.filter(({ fault, refs }) =>
    fault.type === 'bridge'
      ? fault.nets.some((name) => nameKey(name) === key)
      : refs.every((ref) => own.has(nameKey(ref))),
  );
}

export const ANY_MODE = /./;
/** The modes that a level hides, where not any. */
export const MODES_OF: Readonly<Partial<Record<Level, RegExp>>> = {
  1: PLAIN_MODES,
  6: LOOSE_MODES,
};

function comingAndGoing(fault: string, random: Random): ComeAndGo {
  return { fault, ref: refsOf([fault])[0]!, by: random() < BY_WARMTH ? 'warmth' : 'touch' };
}

/** What the leads of an exercise add to ohms: its own, and none of what is hidden depends on it. */
export function leadOhmOf(seed: number): number {
  const random = seeded(seed * 13 + 5);
  for (let i = 0; i < 8; i += 1) random();
  const [least, most] = LEAD_OHM;
  return Number((least + random() * (most - least)).toFixed(2));
}

const touches = (faults: readonly string[], { name }: SingleHypothesis): boolean => {
  const [own] = refsOf([name]);
  return refsOf(faults).some((ref) => nameKey(ref) === nameKey(own!));
};

function pick<T>(of: readonly T[], weight: (one: T) => number, random: Random): T | undefined {
  let left = random() * of.reduce((sum, one) => sum + weight(one), 0);
  return of.find((one) => (left -= weight(one)) <= 0);
}

/** What each reading shows with these faults; the board is powered for those that need it. */
export function seenOn(
  board: Board,
  faults: readonly string[],
  readings: readonly Measurement[],
): readonly (number | undefined)[] {
  const benches = new Map<string, BenchBoard>();
  return readings.map((m) => {
    let bench = benches.get(m.setup);
    if (!bench) {
      bench = new BenchBoard(board, faults, m.setup);
      if (m.setup !== 'off') bench.power(true);
      benches.set(m.setup, bench);
    }
    const answer = respond(bench, m);
    return answer?.pulsing ? Number.NaN : answer?.value;
  });
}

/** What a bench answers to a measurement of the board as drawn. */
export const respond = (bench: BenchBoard, m: Measurement): ReturnType<BenchBoard['respond']> =>
  bench.respond(
    m.kind,
    m.kind === 'current' ? m.at.pin!.part.ref : (m.observable?.name ?? (pointText(m.at) || 'gnd')),
    m.observable ? '' : pointText(m.to),
  );

/** Far enough apart for any meter: a tenth, and more than what its last digits mean. */
export function differs(one: number | undefined, other: number | undefined): boolean {
  if (one === undefined || other === undefined) return one !== other;
  if (Number.isNaN(one) || Number.isNaN(other)) return Number.isNaN(one) !== Number.isNaN(other);
  if (!Number.isFinite(one) || !Number.isFinite(other)) return one !== other;
  return Math.abs(one - other) > Math.max(0.15, 0.1 * Math.max(Math.abs(one), Math.abs(other)));
}

/**
 * Fuses that a fault opens the first time that power comes on: the unit comes in with them blown.
 */
function blownBy(board: Board, fault: string): readonly string[] {
  const bench = new BenchBoard(board, [fault], 'on');
  bench.power(true);
  return bench.wrong.filter((name) => name !== fault);
}

/** A measurement as one says it: `VM, volts`. */
export function measurementWords({ kind, at, to, observable, setup }: Measurement): string {
  if (observable) return observable.title;
  const points = [pointText(at) || 'ground', pointText(to)].filter(Boolean).join(' to ');
  return `${points}, ${kind}, power ${setup}`;
}

/** What was read, as the meter shows it. */
export function valueWords({ kind }: Measurement, value: ReadingValue | undefined): string {
  if (value === undefined) return 'nothing to be read';
  return typeof value === 'number' ? formatQuantity(value, unitOf(kind)) : value;
}
