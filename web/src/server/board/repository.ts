import { checkBoard, countParts, indexBoard, type Board } from '@hanzai/core/board';
import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import type { Database } from '../db/client';
import { board } from '../db/schema/board';
import { logger } from '../logger';

/** A board as lists show it. Its content is not looked into. */
export interface BoardRow {
  readonly id: string;
  readonly title: string;
  readonly sourceName: string;
  readonly createdAt: Date;
  /** As people count them; null where the content cannot be read. */
  readonly parts: number | null;
  readonly nets: number | null;
  readonly archivedAt: Date | null;
  /** Of this sheet; the list has the newest one. */
  readonly version: number;
}

/** One version of a sheet: who made it, when, and what is different from the one before. */
export interface VersionRow {
  readonly id: string;
  readonly version: number;
  readonly madeBy: string;
  readonly createdAt: Date;
  readonly changes: readonly string[];
  readonly parts: number | null;
}

/**
 * Keeps a board: a sheet of its own, or the next version of one. parts, nets: counted here where the
 * caller has not.
 */
export async function insertBoard(
  db: Database,
  row: {
    id: string;
    sourceName: string;
    content: Board;
    parts?: number;
    nets?: number;
    sheet?: string;
    version?: number;
    changes?: readonly string[];
  },
): Promise<void> {
  const { content } = row;
  await db.insert(board).values({
    ...row,
    sheet: row.sheet ?? row.id,
    title: content.title,
    parts: row.parts ?? countParts(content),
    nets: row.nets ?? indexBoard(content).nets.length,
  });
}

/** What is stored of a board, unread; undefined where there is none. */
export async function boardContent(db: Database, id: string): Promise<unknown> {
  const [row] = await db.select({ content: board.content }).from(board).where(eq(board.id, id));
  return row?.content;
}

/** A board with its content, read; undefined where it is not here, or cannot be read. */
export async function findBoard(
  db: Database,
  id: string,
): Promise<{ readonly id: string; readonly title: string; readonly content: Board } | undefined> {
  const [row] = await db.select().from(board).where(eq(board.id, id));
  if (!row) return undefined;
  const content = checkBoard(row.content);
  if (!content.ok) {
    logger.warn({ board: id }, 'a board that this version cannot read');
    return undefined;
  }
  return { id, title: row.title, content: content.value };
}

export async function boardIsHere(db: Database, id: string): Promise<boolean> {
  const rows = await db.select({ id: board.id }).from(board).where(eq(board.id, id));
  return rows.length > 0;
}

const LISTED = {
  id: board.id,
  title: board.title,
  sourceName: board.sourceName,
  createdAt: board.createdAt,
  parts: board.parts,
  nets: board.nets,
  archivedAt: board.archivedAt,
  version: board.version,
};

/** The newest version of every sheet, the latest first. */
export async function listBoards(db: Database): Promise<readonly BoardRow[]> {
  const newest = sql`${board.version} = (select max(b.version) from ${board} b where b.sheet = ${board.sheet})`;
  return db.select(LISTED).from(board).where(newest).orderBy(desc(board.createdAt));
}

const sheetOf = (id: string) => sql`(select b.sheet from ${board} b where b.id = ${id})`;

/** All versions of the sheet that a board is one of, the newest first; none where it is not here. */
export async function listVersions(db: Database, id: string): Promise<readonly VersionRow[]> {
  return db
    .select({
      id: board.id,
      version: board.version,
      madeBy: board.madeBy,
      createdAt: board.createdAt,
      changes: board.changes,
      parts: board.parts,
    })
    .from(board)
    .where(eq(board.sheet, sheetOf(id)))
    .orderBy(desc(board.version));
}

/** The sheet and version of a board. */
export async function boardVersion(
  db: Database,
  id: string,
): Promise<
  { readonly sheet: string; readonly version: number; readonly newest: boolean } | undefined
> {
  const [row] = await db
    .select({ sheet: board.sheet, version: board.version })
    .from(board)
    .where(eq(board.id, id));
  if (!row) return undefined;
  const newer = await db
    .select({ id: board.id })
    .from(board)
    .where(and(eq(board.sheet, row.sheet), eq(board.version, row.version + 1)));
  return { ...row, newest: newer.length === 0 };
}

/** Counts what older versions did not count. A board that cannot be read stays uncounted. */
export async function countBoards(db: Database): Promise<void> {
  for (const { id } of await db.select({ id: board.id }).from(board).where(isNull(board.parts))) {
    const found = await findBoard(db, id);
    if (!found) continue;
    const counts = {
      parts: countParts(found.content),
      nets: indexBoard(found.content).nets.length,
    };
    await db.update(board).set(counts).where(eq(board.id, id));
  }
}

/** Sets a sheet with all its versions aside, or takes it back; returns false where there is none. */
export async function archiveBoard(
  db: Database,
  id: string,
  archivedAt: Date | null,
): Promise<boolean> {
  const changed = await db
    .update(board)
    .set({ archivedAt })
    .where(eq(board.sheet, sheetOf(id)))
    .returning({ id: board.id });
  return changed.length > 0;
}
