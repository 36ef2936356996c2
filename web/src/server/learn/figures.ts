import { desc, eq, sql } from 'drizzle-orm';
import type { ShopFigures } from '../../patterns/shop-figures';
import type { Database } from '../db/client';
import { caseSummary, repairCase } from '../db/schema/case';
import { figuredFrom } from '../reckoning/pool';

/** Newest cases first; older ones than these are not gone into. */
const MOST_CASES = 5000;

/** The shop's own figures, of its newest cases. */
export async function figuresOf(db: Database): Promise<ShopFigures> {
  const rows = await db
    .select({
      number: repairCase.number,
      serial: repairCase.serial,
      openedAt: repairCase.openedAt,
      figures: sql<string | null>`${caseSummary.content}->>'figures'`,
    })
    .from(repairCase)
    .leftJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .orderBy(desc(repairCase.number))
    .limit(MOST_CASES);
  return figuredFrom(
    rows.map(({ openedAt, ...row }) => ({ ...row, openedAt: openedAt.toISOString() })),
  );
}
