import { and, asc, desc, eq, isNull, ne, sql } from 'drizzle-orm';
import { Entry } from '../../case/entry';
import type { Database } from '../db/client';
import type { CaseSummary } from '../../case/summary';
import { caseEntry, caseSummary, repairCase } from '../db/schema/case';
import { logger } from '../logger';

export type CaseRow = typeof repairCase.$inferSelect;
export type NewCase = Omit<typeof repairCase.$inferInsert, 'number' | 'version'>;

export async function insertCase(db: Database, row: NewCase): Promise<CaseRow> {
  const [stored] = await db.insert(repairCase).values(row).returning();
  return stored!;
}

export async function findCase(db: Database, id: string): Promise<CaseRow | undefined> {
  const [row] = await db.select().from(repairCase).where(eq(repairCase.id, id));
  return row;
}

export async function findCaseByNumber(db: Database, number: number): Promise<CaseRow | undefined> {
  const [row] = await db.select().from(repairCase).where(eq(repairCase.number, number));
  return row;
}

/**
 * Locks a case until the transaction ends, so that two entries cannot be judged against the same
 * past.
 */
export async function lockCase(tx: Database, id: string): Promise<CaseRow | undefined> {
  const [row] = await tx.select().from(repairCase).where(eq(repairCase.id, id)).for('update');
  return row;
}

/**
 * Changes what a person may correct, where nobody else has since `version`. Returns the new row, or
 * undefined on a clash.
 */
export async function updateCase(
  db: Database,
  id: string,
  version: number,
  change: Partial<NewCase>,
): Promise<CaseRow | undefined> {
  const [row] = await db
    .update(repairCase)
    .set({
      ...change,
      // Who waits for something else waits anew.
      ...(change.waitsFor === undefined
        ? {}
        : {
            arrived: sql`case when ${repairCase.waitsFor} = ${change.waitsFor} then ${repairCase.arrived} else '' end`,
          }),
      version: sql`${repairCase.version} + 1`,
    })
    .where(sql`${repairCase.id} = ${id} and ${repairCase.version} = ${version}`)
    .returning();
  return row;
}

/** Who makes entries where nobody signs in. */
export const NOBODY = 'bench';

/**
 * An entry as it is stored; undefined where this version cannot read it (one of a newer version, or
 * spoilt): it stays where it is and takes nothing else down.
 */
function parse(row: typeof caseEntry.$inferSelect): Entry | undefined {
  const read = Entry.safeParse({
    id: row.id,
    madeAt: row.madeAt.toISOString(),
    body: row.body,
    ...(row.madeBy === NOBODY ? {} : { by: row.madeBy }),
  });
  if (!read.success)
    logger.warn({ entry: row.id, kind: row.kind }, 'an entry that this version cannot read');
  return read.data;
}

/** The entries of a case in order; unreadable: how many of it this version cannot read. */
export async function readEntries(
  db: Database,
  caseId: string,
): Promise<{ readonly entries: readonly Entry[]; readonly unreadable: number }> {
  const rows = await db
    .select()
    .from(caseEntry)
    .where(eq(caseEntry.caseId, caseId))
    .orderBy(asc(caseEntry.sequence));
  const entries = rows.flatMap((row) => parse(row) ?? []);
  return { entries, unreadable: rows.length - entries.length };
}

export async function entriesOf(db: Database, caseId: string): Promise<readonly Entry[]> {
  return (await readEntries(db, caseId)).entries;
}

/**
 * Adds an entry; returns false where it is already there. epoch: how many repairs came before it.
 * madeBy: the name of who made it.
 */
export async function insertEntry(
  db: Database,
  caseId: string,
  entry: Entry,
  epoch: number,
  madeBy = NOBODY,
): Promise<boolean> {
  const stored = await db
    .insert(caseEntry)
    .values({
      id: entry.id,
      caseId,
      kind: entry.body.kind,
      epoch,
      madeBy,
      body: entry.body,
      madeAt: new Date(entry.madeAt),
    })
    .onConflictDoNothing()
    .returning({ id: caseEntry.id });
  return stored.length > 0;
}

/** An entry by its id, with the case that it belongs to. */
export async function entryById(
  db: Database,
  entryId: string,
): Promise<{ readonly caseId: string; readonly entry: Entry | undefined } | undefined> {
  const [row] = await db.select().from(caseEntry).where(eq(caseEntry.id, entryId));
  return row && { caseId: row.caseId, entry: parse(row) };
}

/** The newest other case with this unit that was opened up; undefined where there is none. */
export async function openedBefore(
  db: Database,
  unitModel: string,
  exceptCase: string,
): Promise<string | undefined> {
  const [row] = await db
    .select({ caseId: caseEntry.caseId })
    .from(caseEntry)
    .innerJoin(repairCase, eq(repairCase.id, caseEntry.caseId))
    .where(
      and(
        eq(repairCase.unitModel, unitModel),
        ne(repairCase.id, exceptCase),
        eq(caseEntry.kind, 'step'),
      ),
    )
    .orderBy(desc(caseEntry.sequence))
    .limit(1);
  return row?.caseId;
}

/** Keeps what the docket shows of a case, in place of what it showed before. */
export async function storeSummary(
  db: Database,
  caseId: string,
  content: CaseSummary,
): Promise<void> {
  const ends = content.timers.flatMap(({ endsAt }) => (endsAt ? [Date.parse(endsAt)] : []));
  const row = {
    closed: content.closed,
    paused: content.pausedAt !== null,
    minutesToGo: content.minutesToGo,
    timerDueAt: ends.length > 0 ? new Date(Math.min(...ends)) : null,
    daylightReached: content.timers.some(({ daylightReached }) => daylightReached),
    hasTimers: content.timers.length > 0,
    nextAction: content.nextAction,
    content,
  };
  await db
    .insert(caseSummary)
    .values({ caseId, ...row })
    .onConflictDoUpdate({ target: caseSummary.caseId, set: row });
}

/** Cases that have no summary: made by an older version, or put there by hand. */
export async function casesWithoutSummary(db: Database): Promise<readonly CaseRow[]> {
  const rows = await db
    .select({ row: repairCase })
    .from(repairCase)
    .leftJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .where(isNull(caseSummary.caseId));
  return rows.map(({ row }) => row);
}

export async function forgetSummaries(db: Database): Promise<void> {
  await db.delete(caseSummary);
}
