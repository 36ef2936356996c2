import { asc, eq } from 'drizzle-orm';
import type { Database } from '../db/client';
import { unitCode } from '../db/schema/unit';

export type UnitCodeRow = typeof unitCode.$inferSelect;

/** Codes of a kind of unit, oldest first. */
export async function codesOf(db: Database, unitType: string): Promise<readonly UnitCodeRow[]> {
  return db.select().from(unitCode).where(eq(unitCode.unitType, unitType)).orderBy(asc(unitCode.madeAt));
}

export async function insertCode(db: Database, row: typeof unitCode.$inferInsert): Promise<void> {
  await db.insert(unitCode).values(row).onConflictDoNothing();
}
