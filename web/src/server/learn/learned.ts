import { and, desc, eq, isNotNull, sql, type SQL } from 'drizzle-orm';
import type { Exposure, PatternPack } from '@hanzai/core/learn';
import type { PatternsLearned, TaughtCase } from '../../patterns/patterns';
import type { Database } from '../db/client';
import { caseSummary, repairCase } from '../db/schema/case';
import { learned } from '../db/schema/learning';
import { learnedFrom, packedFrom, reckonerVersion } from '../reckoning/pool';
import { exposedOn } from './exposure';
import { learn, type ForBoards, type LearnFrom, type ToldRow } from './learning';
import { takenPacks } from './packs';
import { learningSetting, workshopId } from './setting';

// What the workshop learned is worked out once after something changed, in a worker thread of one
// process, and kept in the database: whoever asks reads it there. A mark says what it was made of;
// where that is another one by now, it is worked out again.

/** Newest cases first; more than these are not gone into. */
const MOST_LESSONS = 5000;
/** Closed cases that are sent at once. */
export const LESSONS_AT_ONCE = 100;
/** Changes that one run goes after: a later one has a run of its own. */
const MOST_ROUNDS = 3;

const YEAR = sql`extract(year from ${repairCase.openedAt} at time zone 'UTC')::int`;

/**
 * The mark of what there is to learn of now: every closed case with all that counts of it, the
 * setting, the packs that were taken in, and the version of the application that works it out.
 */
async function markNow(db: Database): Promise<string> {
  // Of the cases a sum of hashes: it costs half of what a hash of all of their text does.
  const { rows } = await db.execute<{ mark: string }>(sql`
    select md5(row(
      (select row(count(*), sum(hash_record_extended(told, 0)::numeric)) from
        (select ${repairCase.number}, ${repairCase.title}, ${repairCase.teaches}, ${repairCase.boardId},
           ${repairCase.hoursRun}, ${YEAR} - ${repairCase.madeIn} as years, ${caseSummary.lessonMark}
         from ${repairCase} join ${caseSummary} on ${caseSummary.caseId} = ${repairCase.id}
         where ${caseSummary.closed} order by ${repairCase.number} desc limit ${MOST_LESSONS}) told),
      (select value from workshop_setting where name = 'learning'),
      (select string_agg(row(workshop, trust, archived_at is null, content->>'hash')::text, ',' order by workshop)
         from pattern_pack)
    )::text) as mark`);
  return `${reckonerVersion()} ${rows[0]!.mark}`;
}

async function markKept(db: Database): Promise<string | undefined> {
  const [row] = await db.select({ madeOf: learned.madeOf }).from(learned);
  return row?.madeOf;
}

/** Whether what is kept is of all that there is. */
export async function isUpToDate(db: Database): Promise<boolean> {
  const [now, kept] = await Promise.all([markNow(db), markKept(db)]);
  return now === kept;
}

async function toldRows(db: Database): Promise<ToldRow[]> {
  return db
    .select({
      number: repairCase.number,
      title: repairCase.title,
      teaches: repairCase.teaches,
      boardId: repairCase.boardId,
      lesson: sql<string>`${caseSummary.content}->>'lesson'`,
      closedAt: sql<string | null>`${caseSummary.content}->>'lastEntryAt'`,
      repairMinutes: sql<number>`coalesce((${caseSummary.content}#>>'{figures,minutes,repair}')::float8, 0)
        + coalesce((${caseSummary.content}#>>'{figures,minutes,prove}')::float8, 0)`,
      hours: repairCase.hoursRun,
      years: sql<number | null>`${YEAR} - ${repairCase.madeIn}`,
    })
    .from(repairCase)
    .innerJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .where(and(caseSummary.closed, isNotNull(sql`${caseSummary.content}->>'lesson'`)))
    .orderBy(desc(repairCase.number))
    .limit(MOST_LESSONS);
}

/** All that is learned of, as the database has it. outside: a connection beside a transaction. */
async function allOf(db: Database, outside: Database): Promise<LearnFrom> {
  const setting = await learningSetting(db);
  const rows = await toldRows(db);
  const exposures = new Map<string, readonly Exposure[]>();
  for (const boardId of new Set(rows.map(({ boardId }) => boardId))) {
    if (boardId === null) continue;
    const { title, rows: exposed } = await exposedOn(outside, boardId);
    // The newest version of a sheet speaks for all of them.
    if (!exposures.has(title)) exposures.set(title, exposed);
  }
  return { rows, setting, exposures, packs: setting.on ? await takenPacks(db) : [] };
}

/**
 * Works out what the workshop learned, unless that was done by somebody else meanwhile. It holds a
 * lock until it is kept: of several processes one works, and one that dies leaves nothing behind.
 */
export async function learnAnew(db: Database): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.execute(
      sql`select pg_advisory_xact_lock(hashtextextended('learning ' || workshop_here(), 0))`,
    );
    for (let round = 0; round < MOST_ROUNDS; round += 1) {
      const madeOf = await markNow(tx);
      if (madeOf === (await markKept(tx))) return;
      const row = { ...(await learnedFrom(await allOf(tx, db))), madeOf, madeAt: new Date() };
      await tx
        .insert(learned)
        .values(row)
        .onConflictDoUpdate({ target: learned.belongsTo, set: row });
    }
  });
}

export interface KeptPatterns {
  readonly patterns: PatternsLearned;
  /** Null: never yet, and this is the rate table alone. */
  readonly at: Date | null;
}

/** What this version of the application made: another one's may be of another form. */
const ofThisVersion = (): SQL => sql`starts_with(${learned.madeOf}, ${reckonerVersion()})`;

/** What is kept for the page of patterns. */
export async function keptPatterns(db: Database): Promise<KeptPatterns> {
  const [row] = await db
    .select({ patterns: learned.patterns, at: learned.madeAt })
    .from(learned)
    .where(ofThisVersion());
  return row ? { ...row, patterns: row.patterns as PatternsLearned } : nothingLearned();
}

const NO_LESSONS: LearnFrom = {
  rows: [],
  setting: { on: true, since: null },
  exposures: new Map(),
  packs: [],
};
let nothing: KeptPatterns | undefined;
const nothingLearned = (): KeptPatterns =>
  (nothing ??= { patterns: learn(NO_LESSONS).patterns, at: null });

export interface KeptForBoards extends ForBoards, Pick<PatternsLearned, 'ends' | 'counting'> {}

/** What is kept for line-ups; undefined where nothing is yet. */
export async function keptForBoards(db: Database): Promise<KeptForBoards | undefined> {
  const [row] = await db
    .select({
      forBoards: learned.forBoards,
      ends: sql<unknown>`${learned.patterns}->'ends'`,
      counting: sql<number>`(${learned.patterns}->>'counting')::int`,
    })
    .from(learned)
    .where(ofThisVersion());
  if (!row) return undefined;
  const { forBoards, ends, counting } = row;
  return { ...(forBoards as ForBoards), ends: ends as PatternsLearned['ends'], counting };
}

/** Closed cases that are older than one, the newest first, as many as are shown at once. */
export async function olderLessons(db: Database, before: number): Promise<TaughtCase[]> {
  const { rows } = await db.execute<{ lesson: TaughtCase }>(sql`
    select lesson from ${learned}, jsonb_array_elements(${learned.lessons}) lesson
    where (lesson->>'number')::int < ${before} and ${ofThisVersion()}
    order by (lesson->>'number')::int desc limit ${LESSONS_AT_ONCE}`);
  return rows.map(({ lesson }) => lesson);
}

/** Numbers of the closed cases that may not teach. */
export async function doubted(db: Database): Promise<ReadonlySet<number>> {
  const rows = await db
    .select({ number: repairCase.number })
    .from(repairCase)
    .where(eq(repairCase.teaches, false));
  return new Set(rows.map(({ number }) => number));
}

/** The workshop’s own pack. */
export async function ownPack(db: Database, now = new Date()): Promise<PatternPack> {
  return packedFrom(await allOf(db, db), await workshopId(db), now.toISOString());
}
