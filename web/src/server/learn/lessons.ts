import { and, eq, isNull, sql } from 'drizzle-orm';
import { checkBoard, indexBoard } from '@hanzai/core/board';
import {
  kindOfPart,
  learnedFactor,
  learnPatterns,
  learnRates,
  Lesson,
  shareOut,
  teaches,
  usualEnds,
  type Exposure,
  type LearnedRates,
  type Shares,
} from '@hanzai/core/learn';
import { ARCHETYPES, RATES } from '@hanzai/data';
import { faultWords, siteTitle } from '../../case/wording';
import {
  LearningSetting,
  type BoardLearned,
  type OwnPattern,
  type PatternsAnswer,
  type TaughtCase,
  type TaughtEnd,
} from '../../patterns/patterns';
import { boardContent } from '../board/repository';
import type { Database } from '../db/client';
import { caseSummary, repairCase } from '../db/schema/case';
import { ownPattern, workshopSetting } from '../db/schema/workshop';
import { exposureOn } from '../reckoning/pool';

/** Newest cases first; more than these are not gone into. */
const MOST_LESSONS = 5000;
/** Exposures of boards that are kept. */
const MOST_BOARDS = 100;
/** A factor nearer to 1 than this changes no line-up, and is not sent. */
const TELLING = 0.02;

const LEARNING = 'learning';
const LEARNS: LearningSetting = { on: true, since: null };

interface Told {
  readonly number: number;
  readonly title: string;
  readonly closedAt: string | null;
  readonly teaches: boolean;
  readonly boardId: string | null;
  readonly lesson: Lesson;
}

interface Known {
  readonly told: readonly Told[];
  /** Those of which is learned. */
  readonly used: readonly Told[];
  readonly learned: LearnedRates;
  readonly shares: Shares;
}

const exposures = new Map<string, Promise<readonly Exposure[]>>();

function exposureFor(db: Database, boardId: string): Promise<readonly Exposure[]> {
  const known = exposures.get(boardId);
  if (known) return known;
  const made = boardContent(db, boardId).then((content) => exposureOn({ id: boardId, content }));
  made.catch(() => exposures.delete(boardId));
  if (exposures.size >= MOST_BOARDS) exposures.delete(exposures.keys().next().value!);
  exposures.set(boardId, made);
  return made;
}

export async function learningSetting(db: Database): Promise<LearningSetting> {
  const [row] = await db.select().from(workshopSetting).where(eq(workshopSetting.name, LEARNING));
  const read = LearningSetting.safeParse(row?.value);
  return read.success ? read.data : LEARNS;
}

export async function setLearning(db: Database, value: LearningSetting): Promise<void> {
  await db
    .insert(workshopSetting)
    .values({ name: LEARNING, value })
    .onConflictDoUpdate({ target: workshopSetting.name, set: { value } });
}

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
    })
    .from(repairCase)
    .innerJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .where(and(eq(caseSummary.closed, true), sql`${caseSummary.content}->'lesson' is not null`))
    .orderBy(sql`${repairCase.number} desc`)
    .limit(MOST_LESSONS);
  return rows.flatMap(({ lesson, ...row }) => {
    const read = Lesson.safeParse(lesson);
    return read.success ? [{ ...row, lesson: read.data }] : [];
  });
}

async function know(db: Database, { on, since }: LearningSetting): Promise<Known> {
  const told = await toldCases(db);
  const used = told.filter(
    (one) =>
      on && one.teaches && teaches(one.lesson) && (since === null || (one.closedAt ?? '') > since),
  );
  const boards = new Map<string, readonly Exposure[]>();
  // The newest version of a sheet speaks for all of them.
  for (const { boardId, lesson } of used)
    if (boardId && !boards.has(lesson.board))
      boards.set(lesson.board, await exposureFor(db, boardId));
  const lessons = used.map(({ lesson }) => lesson);
  return {
    told,
    used,
    learned: learnRates(lessons, boards),
    shares: shareOut(lessons, boards),
  };
}

/** All that the workshop knows of what fails. */
export async function patternsOf(db: Database): Promise<PatternsAnswer> {
  const setting = await learningSetting(db);
  const known = await know(db, setting);
  const { told, used, learned, shares } = known;
  const lessons = used.map(({ lesson }) => lesson);
  return {
    setting,
    lessons: told.map((one) => taughtCase(one, shares)),
    rates: [...learned.ofClass]
      .map(([of, rate]) => ({ of, ...rate }))
      .sort((a, b) => b.failures - a.failures || b.expected - a.expected),
    patterns: ARCHETYPES.flatMap((model) =>
      learnPatterns(model, lessons, shares).map((pattern) => ({
        ...pattern,
        unitTitle: model.title,
        suspects: pattern.suspects.map((suspect) => ({
          ...suspect,
          title: model.blocks.find(({ name }) => name === suspect.name)?.title ?? suspect.name,
        })),
        cases: used
          .filter(
            ({ lesson }) => lesson.unit === model.name && lesson.patterns.includes(pattern.name),
          )
          .map(({ number }) => number),
      })),
    ),
    ends: [...new Set(lessons.map(({ board }) => board))]
      .filter((board) => board !== '')
      .map((board) => endsOf(board, known))
      // Boards that always die one way first.
      .sort((a, b) => (b[0]?.interval.low ?? 0) - (a[0]?.interval.low ?? 0))
      .flat(),
    own: await ownPatterns(db),
  };
}

function taughtCase(
  { number, title, closedAt, teaches: may, lesson }: Told,
  shares: Shares,
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

function endsOf(board: string, { used, shares }: Known): TaughtEnd[] {
  const lessons = used.map(({ lesson }) => lesson);
  return usualEnds(board, lessons, shares).map((end) => ({
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
  const content = checkBoard(await boardContent(db, boardId));
  if (!content.ok) return undefined;
  const index = indexBoard(content.value);
  const known = await know(db, await learningSetting(db));
  const { title } = index.board;
  const unit = known.used.find(({ lesson }) => lesson.board === title)?.lesson.unit ?? '';
  const factors = [...index.replaceable.keys()].flatMap((ref) => {
    const factor = learnedFactor(known.learned, {
      ...kindOfPart(index, RATES, ref),
      unit,
      board: title,
    });
    return Math.abs(factor - 1) < TELLING ? [] : [[ref, factor] as const];
  });
  return {
    factors: Object.fromEntries(factors),
    ends: endsOf(title, known).filter(
      ({ ref }) => index.replaceable.has(ref) || siteTitle(index, ref),
    ),
    cases: known.used.length,
  };
}

export async function ownPatterns(db: Database): Promise<OwnPattern[]> {
  const rows = await db
    .select()
    .from(ownPattern)
    .where(isNull(ownPattern.archivedAt))
    .orderBy(ownPattern.madeAt);
  return rows.map(({ id, unitType, seen, suspects, because, firstTests }) => ({
    id,
    unitType,
    seen,
    suspects,
    because,
    firstTests,
  }));
}

/** Adds a pattern of the workshop’s own; one that is there already stays as it is. */
export async function addOwnPattern(db: Database, pattern: OwnPattern): Promise<void> {
  await db.insert(ownPattern).values(pattern).onConflictDoNothing();
}

/** Sets a pattern aside, or takes it back; false where there is none. */
export async function archiveOwnPattern(
  db: Database,
  id: string,
  at: Date | null,
): Promise<boolean> {
  const done = await db
    .update(ownPattern)
    .set({ archivedAt: at })
    .where(eq(ownPattern.id, id))
    .returning({ id: ownPattern.id });
  return done.length > 0;
}
