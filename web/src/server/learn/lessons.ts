import { and, eq, sql } from 'drizzle-orm';
import {
  BEFORE_WORTH,
  besideOthers,
  learnedFactor,
  learnModes,
  learnPatterns,
  learnRates,
  Lesson,
  makePack,
  type PatternPack,
  pooledFactor,
  rateNames,
  similarity,
  teaches,
  usualEnds,
  usualParts,
  type Exposures,
  type LearnedRates,
} from '@hanzai/core/learn';
import { ARCHETYPES, RATES } from '@hanzai/data';
import { faultWords } from '../../case/wording';
import type {
  BoardLearned,
  LearningSetting,
  PatternsAnswer,
  TaughtCase,
  TaughtEnd,
  TaughtPattern,
  TaughtRate,
} from '../../patterns/patterns';
import { median } from '@hanzai/core/statistics';
import { boardIsHere } from '../board/repository';
import type { Database } from '../db/client';
import { caseSummary, repairCase } from '../db/schema/case';
import { logger } from '../logger';
import { exposedBy } from '../reckoning/pool';
import type { Exposed } from '../reckoning/tasks';
import { oncePerBoard } from './once-per-board';
import { ownPatterns } from './own-patterns';
import { takenPacks, type Trusted } from './packs';
import { learningSetting, workshopId } from './setting';

/** Newest cases first; more than these are not gone into. */
const MOST_LESSONS = 5000;
/** Exposures of boards that are kept. */
const MOST_BOARDS = 100;
/** Parts of a pattern that are sent. */
const MOST_PARTS = 5;
/** A factor nearer to 1 than this changes no line-up, and is not sent. */
const TELLING = 0.02;

interface Told {
  readonly number: number;
  readonly title: string;
  readonly closedAt: string | null;
  readonly teaches: boolean;
  readonly boardId: string | null;
  readonly lesson: Lesson;
  /** Bench minutes of repair and proof. */
  readonly repairMinutes: number;
}

interface Known {
  readonly told: readonly Told[];
  /** Those of which is learned. */
  readonly used: readonly Told[];
  readonly learned: LearnedRates;
  readonly exposures: Exposures;
  /** Packs of other workshops; none where learning is off. */
  readonly packs: readonly Trusted[];
}

const NOTHING_KNOWN: Exposed = { title: '', rows: [], kinds: new Map() };
const workedOut = oncePerBoard(MOST_BOARDS, exposedBy);

/**
 * What is on a board. One sheet that cannot be read takes nothing else down: nothing is learned on
 * it.
 */
const exposedOn = (db: Database, boardId: string): Promise<Exposed> =>
  workedOut(db, boardId).catch((error: Error) => {
    logger.warn({ board: boardId, why: error.message }, 'a board that cannot be learned on');
    return NOTHING_KNOWN;
  });

/** Lets a case teach, or not; false where there is none. */
export async function setTeaches(db: Database, number: number, value: boolean): Promise<boolean> {
  const done = await db
    .update(repairCase)
    .set({ teaches: value })
    .where(eq(repairCase.number, number))
    .returning({ id: repairCase.id });
  return done.length > 0;
}

async function toldCases(db: Database): Promise<readonly Told[]> {
  const rows = await db
    .select({
      number: repairCase.number,
      title: repairCase.title,
      teaches: repairCase.teaches,
      boardId: repairCase.boardId,
      lesson: sql<unknown>`${caseSummary.content}->'lesson'`,
      closedAt: sql<string | null>`${caseSummary.content}->>'lastEntryAt'`,
      repairMinutes: sql<number>`coalesce((${caseSummary.content}#>>'{figures,minutes,repair}')::float8, 0)
        + coalesce((${caseSummary.content}#>>'{figures,minutes,prove}')::float8, 0)`,
      hours: repairCase.hoursRun,
      years: sql<
        number | null
      >`extract(year from ${repairCase.openedAt})::int - ${repairCase.madeIn}`,
    })
    .from(repairCase)
    .innerJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .where(and(eq(caseSummary.closed, true), sql`${caseSummary.content}->'lesson' is not null`))
    .orderBy(sql`${repairCase.number} desc`)
    .limit(MOST_LESSONS);
  return rows.flatMap(({ lesson, years, hours, ...row }) => {
    const read = Lesson.safeParse(lesson);
    if (!read.success) return [];
    const age = {
      ...(years !== null && years > 0 ? { years } : {}),
      ...(hours === null ? {} : { hours }),
    };
    return [{ ...row, lesson: { ...read.data, ...age } }];
  });
}

async function know(db: Database, { on, since }: LearningSetting): Promise<Known> {
  const told = await toldCases(db);
  const used = told.filter(
    (one) =>
      on && one.teaches && teaches(one.lesson) && (since === null || (one.closedAt ?? '') > since),
  );
  const exposures = new Map<string, Exposed['rows']>();
  // The newest version of a sheet speaks for all of them.
  for (const { boardId, lesson } of used)
    if (boardId && !exposures.has(lesson.board))
      exposures.set(lesson.board, (await exposedOn(db, boardId)).rows);
  const lessons = used.map(({ lesson }) => lesson);
  return {
    told,
    used,
    learned: learnRates(lessons, exposures),
    exposures,
    packs: on ? await takenPacks(db) : [],
  };
}

/** All that the workshop knows of what fails. */
export async function patternsOf(db: Database): Promise<PatternsAnswer> {
  const setting = await learningSetting(db);
  const known = await know(db, setting);
  const { told, used, learned } = known;
  const { shares } = learned;
  const lessons = used.map(({ lesson }) => lesson);
  return {
    setting,
    lessons: told.map((one) => taughtCase(one, shares)),
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
    own: await ownPatterns(db),
    packs: known.packs.map(({ pack, trust }) => ({
      workshop: pack.workshop,
      madeAt: pack.madeAt,
      cases: pack.cases,
      trust,
      similarity: similarity(lessons, pack),
    })),
    disagreements: known.packs.flatMap(({ pack }) =>
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

/** What was learned, for the line-up of one board; undefined where there is no such board. */
export async function learnedOn(db: Database, boardId: string): Promise<BoardLearned | undefined> {
  if (!(await boardIsHere(db, boardId))) return undefined;
  const { title, kinds } = await exposedOn(db, boardId);
  const known = await know(db, await learningSetting(db));
  const lessons = known.used.map(({ lesson }) => lesson);
  const weights = new Map(
    known.packs.map(({ pack, trust }) => [pack, trust * similarity(lessons, pack)]),
  );
  const unit = known.used.find(({ lesson }) => lesson.board === title)?.lesson.unit ?? '';
  const factors = [...kinds].flatMap(([ref, kind]) => {
    const own = known.learned.ofClass.get(kind.of);
    // What others say moves the class; role, unit and board are our own alone.
    const pooled =
      known.packs.length === 0
        ? 1
        : pooledFactor(
            kind.of,
            own,
            known.packs.map(({ pack }) => pack),
            (pack) => weights.get(pack) ?? 0,
            BEFORE_WORTH,
          ) / (own?.factor ?? 1);
    const factor = pooled * learnedFactor(known.learned, { ...kind, unit, board: title });
    return Math.abs(factor - 1) < TELLING ? [] : [[ref, factor] as const];
  });
  return {
    factors: Object.fromEntries(factors),
    // What an older version of the sheet called otherwise is of no use here.
    ends: endsOf(title, known).filter(({ ref }) => kinds.has(ref) || ref.includes('~')),
    cases: known.used.length,
  };
}

/** The workshop’s own pack, of the cases that count; what came from others is not passed on. */
export async function ownPack(db: Database, now = new Date()): Promise<PatternPack> {
  const { used, exposures } = await know(db, await learningSetting(db));
  const lessons = used.map(({ lesson }) => lesson);
  return makePack(await workshopId(db), now.toISOString(), lessons, exposures);
}
