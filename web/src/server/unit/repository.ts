import { and, asc, eq, sql } from 'drizzle-orm';
import type { Database } from '../db/client';
import { unitCode } from '../db/schema/unit';

export type UnitCodeRow = typeof unitCode.$inferSelect;

/** Codes of one unit, oldest first. The name compares without regard to case. */
export async function codesOf(
  db: Database,
  unitType: string,
  unitModel: string,
): Promise<readonly UnitCodeRow[]> {
  const same = sql`lower(${unitCode.unitModel}) = lower(${unitModel})`;
  return db
    .select()
    .from(unitCode)
    .where(and(eq(unitCode.unitType, unitType), same))
    .orderBy(asc(unitCode.madeAt));
}

export async function insertCode(db: Database, row: typeof unitCode.$inferInsert): Promise<void> {
  await db.insert(unitCode).values(row).onConflictDoNothing();
}
