import { desc, eq, sql } from 'drizzle-orm';
import { CaseFigures } from '../../case/case-figures';
import { shopFigures, type ShopFigures } from '../../patterns/shop-figures';
import type { Database } from '../db/client';
import { caseSummary, repairCase } from '../db/schema/case';

/** Newest cases first; older ones than these are not gone into. */
const MOST_CASES = 5000;

/** The shop's own figures, of its newest cases. */
export async function figuresOf(db: Database): Promise<ShopFigures> {
  const rows = await db
    .select({
      number: repairCase.number,
      serial: repairCase.serial,
      openedAt: repairCase.openedAt,
      figures: sql<unknown>`${caseSummary.content}->'figures'`,
    })
    .from(repairCase)
    .leftJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .orderBy(desc(repairCase.number))
    .limit(MOST_CASES);
  return shopFigures(
    rows.map(({ openedAt, figures, ...row }) => ({
      ...row,
      openedAt: openedAt.toISOString(),
      // What an older version wrote, or nobody can read, is no figure.
      figures: CaseFigures.nullable().catch(null).parse(figures),
    })),
  );
}
