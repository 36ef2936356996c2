// What a workshop learns of its closed cases, worked out of rows that are given: run in a worker
// thread, since it takes seconds of thousands of cases.
import {
  BEFORE_WORTH,
  besideOthers,
  learnModes,
  learnPatterns,
  learnRates,
  Lesson,
  makePack,
  type PatternPack,
  rateNames,
  similarity,
  teaches,
  usualEnds,
  usualParts,
  type Exposures,
  type LearnedRate,
  type LearnedRates,
} from '@hanzai/core/learn';
import { median } from '@hanzai/core/statistics';
import { ARCHETYPES, RATES } from '@hanzai/data';
import { faultWords } from '../../case/wording';
import type {
  LearningSetting,
  PatternsLearned,
  TaughtCase,
  TaughtEnd,
  TaughtPattern,
  TaughtRate,
} from '../../patterns/patterns';
import type { Trusted } from './packs';

/** Parts of a pattern that are sent. */
const MOST_PARTS = 5;

/** A closed case as the database has it. */
export interface ToldRow {
  readonly number: number;
  readonly title: string;
  readonly closedAt: string | null;
  readonly teaches: boolean;
  readonly boardId: string | null;
  /** Text of a `Lesson`. */
  readonly lesson: string;
  /** Bench minutes of repair and proof. */
  readonly repairMinutes: number;
  /** Years that the unit is old, and hours that it has run; null where nobody knows. */
  readonly years: number | null;
  readonly hours: number | null;
}

/** All that is learned of. */
export interface LearnFrom {
  /** Newest cases first. */
  readonly rows: readonly ToldRow[];
  readonly setting: LearningSetting;
  /** What each board exposes, by its title. */
  readonly exposures: Exposures;
  /** Packs of other workshops; none where learning is off. */
  readonly packs: readonly Trusted[];
}

/** What line-ups go by. */
export interface ForBoards {
  /** Factors of class, role, unit and board, by their keys. */
  readonly levels: readonly (readonly (readonly [string, LearnedRate])[])[];
  /** The kind of unit that a board was met in last, by its title. */
  readonly units: readonly (readonly [string, string])[];
  /** How like our work is to that of another workshop, by its id. */
  readonly similarities: readonly (readonly [string, number])[];
}

/** What came of it, as the database keeps it. */
export interface Learnt {
  readonly patterns: PatternsLearned;
  readonly lessons: readonly TaughtCase[];
  readonly forBoards: ForBoards;
}

interface Told extends Omit<ToldRow, 'lesson' | 'years' | 'hours'> {
  readonly lesson: Lesson;
}

interface Known {
  readonly told: readonly Told[];
  /** Those of which is learned. */
  readonly used: readonly Told[];
  readonly lessons: readonly Lesson[];
  readonly learned: LearnedRates;
}

/** Rows whose lesson can be read; the others teach nothing. */
function read({ lesson, years, hours, ...row }: ToldRow): readonly Told[] {
  const known = Lesson.safeParse(JSON.parse(lesson));
  if (!known.success) return [];
  const age = {
    ...(years !== null && years > 0 ? { years } : {}),
    ...(hours === null ? {} : { hours }),
  };
  return [{ ...row, lesson: { ...known.data, ...age } }];
}

/** Of the cases that are told, those that count. */
const counts = (
  { on, since }: LearningSetting,
  one: Pick<Told, 'teaches' | 'closedAt'> & { readonly lesson: Lesson },
): boolean =>
  on && one.teaches && teaches(one.lesson) && (since === null || (one.closedAt ?? '') > since);

function know({ rows, setting, exposures }: LearnFrom): Known {
  const told = rows.flatMap(read);
  const used = told.filter((one) => counts(setting, one));
  const lessons = used.map(({ lesson }) => lesson);
  return { told, used, lessons, learned: learnRates(lessons, exposures) };
}

/** Works out what the workshop learned. */
export function learn(from: LearnFrom): Learnt {
  const known = know(from);
  const { told, lessons, learned } = known;
  const { ofClass, ofRole, ofUnit, ofBoard } = learned;
  return {
    patterns: patternsOf(from, known),
    lessons: told.map((one) => taughtCase(one, learned.shares)),
    forBoards: {
      levels: [ofClass, ofRole, ofUnit, ofBoard].map((level) => [...level]),
      // Rows are the newest first, and of a name that comes again the last one stays.
      units: [...new Map(lessons.map(({ board, unit }) => [board, unit] as const).reverse())],
      similarities: from.packs.map(({ pack }) => [pack.workshop, similarity(lessons, pack)]),
    },
  };
}

/** What the page of patterns shows of it. */
function patternsOf({ packs }: LearnFrom, known: Known): PatternsLearned {
  const { told, used, lessons, learned } = known;
  const { shares } = learned;
  return {
    closed: told.length,
    counting: used.length,
    rates: [...learned.ofClass]
      .map(([of, rate]) => ({ of, ...rate, roles: rolesOf(learned, of) }))
      .sort((a, b) => b.failures - a.failures || b.expected - a.expected),
    modes: learnModes(RATES, lessons, shares).map(({ of, modes }) => ({ of, modes: [...modes] })),
    patterns: ARCHETYPES.flatMap((model) =>
      learnPatterns(model, lessons, shares).map((pattern): TaughtPattern => {
        const cases = used.filter(
          ({ lesson }) => lesson.unit === model.name && lesson.patterns.includes(pattern.name),
        );
        return {
          ...pattern,
          unitTitle: model.title,
          suspects: pattern.suspects.map((suspect) => ({
            ...suspect,
            title: model.blocks.find(({ name }) => name === suspect.name)?.title ?? suspect.name,
          })),
          parts: usualParts(model.name, pattern.name, lessons, shares).slice(0, MOST_PARTS),
          repairMinutes: median(
            cases.map(({ repairMinutes }) => repairMinutes).filter((took) => took > 0),
          ),
          cases: cases.map(({ number }) => number),
        };
      }),
    ),
    ends: [...new Set(lessons.map(({ board }) => board))]
      .filter((board) => board !== '')
      .map((board) => endsOf(board, known))
      // Boards that always die one way first.
      .sort((a, b) => (b[0]?.interval.low ?? 0) - (a[0]?.interval.low ?? 0))
      .flat(),
    packs: packs.map(({ pack, trust }) => ({
      workshop: pack.workshop,
      madeAt: pack.madeAt,
      cases: pack.cases,
      trust,
      similarity: similarity(lessons, pack),
    })),
    disagreements: packs.flatMap(({ pack }) =>
      pack.rates.flatMap(({ of }) => {
        const own = learned.ofClass.get(of);
        const [said] = besideOthers(of, own, [pack], BEFORE_WORTH);
        return own && said?.disagrees
          ? [{ of, workshop: pack.workshop, own: own.factor, factor: said.factor }]
          : [];
      }),
    ),
  };
}

/** What parts of a class are there for, where any of them failed; most often first. */
function rolesOf({ ofRole }: LearnedRates, of: string): TaughtRate['roles'] {
  return [...ofRole]
    .flatMap(([key, { failures, factor }]) => {
      const [own, role = ''] = rateNames(key);
      return own === of && role !== '' && failures > 0 ? [{ role, failures, factor }] : [];
    })
    .sort((a, b) => b.failures - a.failures);
}

function taughtCase(
  { number, title, closedAt, teaches: may, lesson }: Told,
  shares: LearnedRates['shares'],
): TaughtCase {
  const own = shares.get(lesson) ?? lesson.changes.map(() => 1 / lesson.changes.length);
  return {
    number,
    title,
    closedAt,
    teaches: may,
    grade: lesson.grade,
    board: lesson.board,
    cures: lesson.changes.map(({ ref, of, mode }, i) => ({
      words: [ref === '' ? of : `${ref} (${of})`, faultWords(mode)].filter(Boolean).join(', '),
      share: own[i] ?? 0,
    })),
  };
}

function endsOf(board: string, { used, learned }: Known): TaughtEnd[] {
  const lessons = used.map(({ lesson }) => lesson);
  return usualEnds(board, lessons, learned.shares).map((end) => ({
    board,
    ...end,
    cases: used
      .filter(
        ({ lesson }) => lesson.board === board && lesson.changes.some(({ ref }) => ref === end.ref),
      )
      .map(({ number }) => number),
  }));
}

/** The workshop’s own pack, of the cases that count; what came from others is not passed on. */
export function packOf(from: LearnFrom, workshop: string, madeAt: string): Promise<PatternPack> {
  return makePack(workshop, madeAt, know(from).lessons, from.exposures);
}
