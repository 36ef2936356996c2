import { eq, isNull } from 'drizzle-orm';
import type { OwnPattern } from '../../patterns/patterns';
import type { Database } from '../db/client';
import { ownPattern } from '../db/schema/workshop';

/** Patterns that the workshop wrote down itself, oldest first. */
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
