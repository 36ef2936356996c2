import { gammaQuantile, type Interval } from '../statistics';
import type { Exposure, Exposures, Lesson } from './lesson';

/** What was learned of one kind of thing, against what was expected of it before. */
export interface LearnedRate {
  /** Failures that are put to it: whole ones and shares. */
  readonly failures: number;
  /** What was expected before: by the rate table, or by what it is one of. */
  readonly expected: number;
  /** By what its rate is to be multiplied, and between what that lies at 95 %. */
  readonly factor: number;
  readonly interval: Interval;
  /** Cases that any of its failures come from. */
  readonly cases: number;
}

/** Factors by class, by role within a class, by unit within a role and by board within that. */
export interface LearnedRates {
  readonly ofClass: ReadonlyMap<string, LearnedRate>;
  readonly ofRole: ReadonlyMap<string, LearnedRate>;
  readonly ofUnit: ReadonlyMap<string, LearnedRate>;
  readonly ofBoard: ReadonlyMap<string, LearnedRate>;
  readonly shares: Shares;
}

/**
 * How many failures of one’s own what was expected before is worth: so many, and they count as
 * much.
 * Common practice, no published source.
 */
export const BEFORE_WORTH = 4;
/**
 * What was expected is worth so much more on the narrower levels: they see the cases of the wider
 * ones again, and the spread that one level may add is a quarter of that of a class. Common
 * practice, no published source.
 */
const NARROWER = 4;
const LEAST_EXPECTED = 1e-9;
const ROUNDS = 500;
const STILL = 1e-7;

/**
 * Ageing classes: what is expected of them grows with the years. Common practice, no published
 * source.
 */
const AGEING: readonly string[] = [
  'capacitor electrolytic',
  'capacitor bipolar',
  'capacitor paper',
  'capacitor tantalum',
];
/** The age that the rate table speaks of, years. From memory of bench practice. */
export const TABLE_YEARS = 25;

/** The hours of running that it speaks of. From memory of bench practice. */
export const TABLE_HOURS = 6000;

/**
 * What the age of a unit makes of a class: linear in the years, or in the hours it has run where
 * those say more, no further than a factor of three. Of what nobody knows nothing is made.
 */
export function ageFactor(of: string, years: number | undefined, hours?: number): number {
  const shares = [
    ...(years === undefined ? [] : [years / TABLE_YEARS]),
    ...(hours === undefined ? [] : [hours / TABLE_HOURS]),
  ];
  if (shares.length === 0 || !AGEING.includes(of)) return 1;
  return Math.max(1 / 3, Math.min(3, Math.max(...shares)));
}

/** Keys of the four levels, each inside the one before. */
const keysOf = (
  lesson: Lesson,
  of: string,
  role: string,
): readonly [string, string, string, string] => [
  of,
  rateKey(of, role),
  rateKey(of, role, lesson.unit),
  rateKey(of, role, lesson.unit, lesson.board),
];

/** The key of a level of what was learned. */
export const rateKey = (...names: readonly string[]): string => names.join(BETWEEN);

/** The names that such a key was made of. */
export const rateNames = (key: string): readonly string[] => key.split(BETWEEN);

const BETWEEN = '\u001f';

/** Cases that teach: closed with a cure that was shown, on a board whose parts are known. */
export const teaches = ({ grade, changes }: Lesson): boolean =>
  grade !== 'unproven' && changes.length > 0;

/**
 * Learns how often parts fail, from closed cases. The number of failures of a class is Poisson
 * about factor times expected, the factor Gamma about 1: so few cases move it little. Then the same
 * for a role within its class, a unit within the role, and a board: each begins where the wider one
 * ended.
 * Where several changes were made at once the cure is shared among them, first in equal parts, then
 * by how often each class turns out to fail (expectation and maximisation); what the sharing leaves
 * open makes the interval wider. Unproven cases count nothing.
 * Sources: A. Gelman et al., Bayesian Data Analysis, section 2.6 (Gamma and Poisson); A. P.
 * Dempster, N. M. Laird and D. B. Rubin, J. R. Statist. Soc. B 39, 1977; T. A. Louis, J. R.
 * Statist. Soc. B 44, 1982 (what sharing leaves open).
 */
export function learnRates(
  lessons: readonly Lesson[],
  exposures: Exposures,
  worth = BEFORE_WORTH,
): LearnedRates {
  const told = lessons.filter(teaches);
  const fit = fitClasses(told, exposures, worth);
  const levels = [0, 1, 2, 3].map(() => new Map<string, LearnedRate>());
  const before = new Map<string, number>();
  for (const [depth, level] of levels.entries()) {
    const counts = countLevel(told, exposures, fit, depth);
    for (const [key, { failures, open, expected, cases, parent }] of counts) {
      // What is expected here is what the table says, times all that the wider levels taught.
      const wide = depth === 0 ? 1 : (before.get(parent) ?? 1);
      const own = expected * wide;
      if (own <= LEAST_EXPECTED) continue;
      const held = depth === 0 ? worth : NARROWER * worth;
      const factor = (held + failures) / (held + own);
      const shape = Math.max(1, held + failures - open);
      level.set(key, {
        failures,
        expected: own,
        factor,
        interval: {
          low: (gammaQuantile(shape, 0.025) * factor) / shape,
          high: (gammaQuantile(shape, 0.975) * factor) / shape,
        },
        cases,
      });
      before.set(key, wide * factor);
    }
  }
  const [ofClass, ofRole, ofUnit, ofBoard] = levels as [
    Map<string, LearnedRate>,
    Map<string, LearnedRate>,
    Map<string, LearnedRate>,
    Map<string, LearnedRate>,
  ];
  return { ofClass, ofRole, ofUnit, ofBoard, shares: fit.shares };
}

/**
 * By what the rate of a part is multiplied, by all that was learned of it; 1 for what nobody saw.
 */
export function learnedFactor(
  learned: Omit<LearnedRates, 'shares'>,
  { of, role, unit, board }: { of: string; role: string; unit: string; board: string },
): number {
  const factor = (level: ReadonlyMap<string, LearnedRate>, ...names: string[]): number =>
    level.get(rateKey(...names))?.factor ?? 1;
  return (
    factor(learned.ofClass, of) *
    factor(learned.ofRole, of, role) *
    factor(learned.ofUnit, of, role, unit) *
    factor(learned.ofBoard, of, role, unit, board)
  );
}

/** How the cure of each case is shared among its changes; each list sums to 1. */
export function shareOut(
  lessons: readonly Lesson[],
  exposures: Exposures,
  worth = BEFORE_WORTH,
): Shares {
  return fitClasses(lessons.filter(teaches), exposures, worth).shares;
}

/** Of each case that teaches, how its cure is shared among its changes. */
export type Shares = ReadonlyMap<Lesson, readonly number[]>;

interface Fit {
  readonly shares: Shares;
  /**
   * What a case comes in for is one fault: so much the rates of its board are taken down, that with
   * what was learned they still say one.
   */
  readonly scaleOf: ReadonlyMap<Lesson, number>;
}

function fitClasses(told: readonly Lesson[], exposures: Exposures, worth: number): Fit {
  const boards = new Map(
    [...new Set(told.map(({ board }) => board))].map((board) => [
      board,
      byClass(exposures.get(board) ?? []),
    ]),
  );
  // Cases that are alike in all that counts are reckoned with once.
  const groups = new Map<string, Group>();
  for (const lesson of told) {
    const { board, years, hours, changes } = lesson;
    const key = JSON.stringify([board, years, hours, changes.map(({ of }) => of)]);
    const group = groups.get(key);
    if (group) group.members.push(lesson);
    else
      groups.set(key, {
        members: [lesson],
        rows: aged(boards.get(board)!, lesson),
        shares: [],
        scale: 0,
      });
  }
  const factor = new Map<string, number>();
  const factorOf = (of: string): number => factor.get(of) ?? 1;
  for (let round = 0; round < ROUNDS; round += 1) {
    const expected = new Map<string, number>();
    const failures = new Map<string, number>();
    for (const group of groups.values()) {
      const { members, rows } = group;
      const { changes } = members[0]!;
      group.shares = sharesOf(changes, rows, round > 0 ? factorOf : undefined);
      let [found, after] = [0, 0];
      changes.forEach(({ of }, i) => {
        const share = group.shares[i]!;
        if (rows.has(of)) found += share;
        failures.set(of, (failures.get(of) ?? 0) + share * members.length);
      });
      for (const [of, row] of rows) after += row.expected * factorOf(of);
      // As much as was found on the sheet is expected there: rates are told apart, not raised.
      group.scale = after > 0 ? found / after : 0;
      for (const [of, row] of rows)
        expected.set(of, (expected.get(of) ?? 0) + row.expected * group.scale * members.length);
    }
    let moved = 0;
    for (const [of, count] of expected) {
      const next = (worth + (failures.get(of) ?? 0)) / (worth + count);
      moved = Math.max(moved, Math.abs(next / factorOf(of) - 1));
      factor.set(of, next);
    }
    if (round > 0 && moved < STILL) break;
  }
  const of = <T>(value: (group: Group) => T): Map<Lesson, T> =>
    new Map(
      [...groups.values()].flatMap((group) =>
        group.members.map((lesson) => [lesson, value(group)]),
      ),
    );
  return { shares: of(({ shares }) => shares), scaleOf: of(({ scale }) => scale) };
}

/** Cases with the same board, age and classes of changes. */
interface Group {
  readonly members: Lesson[];
  readonly rows: ReadonlyMap<string, ClassRow>;
  shares: readonly number[];
  scale: number;
}

const aged = (
  rows: ReadonlyMap<string, ClassRow>,
  { years, hours }: Pick<Lesson, 'years' | 'hours'>,
) =>
  new Map(
    [...rows].map(([of, { parts, expected }]) => [
      of,
      { parts, expected: expected * ageFactor(of, years, hours) },
    ]),
  );

interface ClassRow {
  parts: number;
  expected: number;
}

function byClass(rows: readonly Exposure[]): ReadonlyMap<string, ClassRow> {
  const found = new Map<string, ClassRow>();
  for (const { of, parts, expected } of rows) {
    const row = found.get(of) ?? { parts: 0, expected: 0 };
    found.set(of, row);
    row.parts += parts;
    row.expected += expected;
  }
  return found;
}

/** In equal parts where no factors are known yet, or one of the changes is no part of the table. */
function sharesOf(
  changes: Lesson['changes'],
  rows: ReadonlyMap<string, ClassRow>,
  factorOf: ((of: string) => number) | undefined,
): readonly number[] {
  const equal = changes.map(() => 1 / changes.length);
  if (!factorOf) return equal;
  const weights = changes.map(({ of }) => {
    const row = rows.get(of);
    return row && row.parts > 0 ? (factorOf(of) * row.expected) / row.parts : 0;
  });
  if (!weights.every((one) => one > 0)) return equal;
  const sum = weights.reduce((all, one) => all + one, 0);
  return weights.map((one) => one / sum);
}

interface Counted {
  failures: number;
  /** What the sharing leaves open. */
  open: number;
  expected: number;
  cases: number;
  readonly parent: string;
}

function countLevel(
  told: readonly Lesson[],
  exposures: Exposures,
  { shares, scaleOf }: Fit,
  depth: number,
): ReadonlyMap<string, Counted> {
  const counts = new Map<string, Counted>();
  const at = (lesson: Lesson, of: string, role: string): Counted => {
    const keys = keysOf(lesson, of, role);
    let row = counts.get(keys[depth]!);
    if (!row) {
      row = { failures: 0, open: 0, expected: 0, cases: 0, parent: keys[depth - 1] ?? '' };
      counts.set(keys[depth]!, row);
    }
    return row;
  };
  for (const lesson of told) {
    for (const { of, role, expected } of exposures.get(lesson.board) ?? [])
      at(lesson, of, role).expected +=
        expected * ageFactor(of, lesson.years, lesson.hours) * scaleOf.get(lesson)!;
    const own = new Map<Counted, number>();
    lesson.changes.forEach(({ of, role }, i) => {
      const row = at(lesson, of, role);
      own.set(row, (own.get(row) ?? 0) + shares.get(lesson)![i]!);
    });
    for (const [row, share] of own) {
      row.failures += share;
      row.open += share * (1 - share);
      row.cases += 1;
    }
  }
  return counts;
}
