import { eq } from 'drizzle-orm';
import type { Database } from '../db/client';
import { casePicture } from '../db/schema/case';

export type PictureRow = typeof casePicture.$inferSelect;

/** Adds a picture; one with the same id that is there already stays as it is. */
export async function insertPicture(
  db: Database,
  row: Omit<typeof casePicture.$inferInsert, 'takenAt'>,
): Promise<void> {
  await db.insert(casePicture).values(row).onConflictDoNothing();
}

export async function findPicture(db: Database, id: string): Promise<PictureRow | undefined> {
  const [row] = await db.select().from(casePicture).where(eq(casePicture.id, id));
  return row;
}

export async function caseOfPicture(db: Database, id: string): Promise<string | undefined> {
  const [row] = await db
    .select({ caseId: casePicture.caseId })
    .from(casePicture)
    .where(eq(casePicture.id, id));
  return row?.caseId;
}

/** The pictures of a case by their ids, the oldest first. */
export async function pictureIdsOf(db: Database, caseId: string): Promise<readonly string[]> {
  const rows = await db
    .select({ id: casePicture.id })
    .from(casePicture)
    .where(eq(casePicture.caseId, caseId))
    .orderBy(casePicture.takenAt);
  return rows.map(({ id }) => id);
}
