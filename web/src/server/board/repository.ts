import { checkBoard, type Board } from '@hanzai/core/board';
import { desc, eq } from 'drizzle-orm';
import type { Database } from '../db/client';
import { board } from '../db/schema/board';

export interface StoredBoard {
  readonly id: string;
  readonly title: string;
  readonly sourceName: string;
  readonly createdAt: Date;
  readonly content: Board;
}

export async function insertBoard(
  db: Database,
  row: { id: string; sourceName: string; content: Board },
): Promise<void> {
  await db.insert(board).values({ ...row, title: row.content.title });
}

function parse(row: typeof board.$inferSelect): StoredBoard {
  const content = checkBoard(row.content);
  if (!content.ok) throw new Error(`board ${row.id} does not fit its schema`);
  return { ...row, content: content.value };
}

export async function findBoard(db: Database, id: string): Promise<StoredBoard | undefined> {
  const [row] = await db.select().from(board).where(eq(board.id, id));
  return row && parse(row);
}

export async function listBoards(db: Database): Promise<readonly StoredBoard[]> {
  return (await db.select().from(board).orderBy(desc(board.createdAt))).map(parse);
}
