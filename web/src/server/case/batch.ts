import { eq, sql } from 'drizzle-orm';
import { CaseFigures } from '../../case/case-figures';
import type { BatchLine } from '../../stage/hand-back/delivery';
import type { Database } from '../db/client';
import { caseSummary, repairCase } from '../db/schema/case';

/** More units than one note is made of. */
const MOST = 200;

/** The units of a batch, as they were taken in; none where no case carries its word. */
export async function batchOf(db: Database, batch: string): Promise<readonly BatchLine[]> {
  const rows = await db
    .select({
      row: repairCase,
      closed: caseSummary.closed,
      figures: sql<unknown>`${caseSummary.content}->'figures'`,
    })
    .from(repairCase)
    .leftJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .where(sql`lower(trim(${repairCase.batch})) = ${batch.trim().toLowerCase()}`)
    .orderBy(repairCase.number)
    .limit(MOST);
  return rows.map(({ row, closed, figures }) => {
    const known = CaseFigures.nullable().catch(null).parse(figures);
    const { number, title, unitModel, serial, owner, accessories } = row;
    return {
      number,
      title,
      unitModel,
      serial,
      owner,
      accessories,
      closed: closed ?? false,
      givenUp: known?.givenUp ?? false,
      price: known?.price ?? null,
      returned: known?.returned ?? '',
      guaranteeUntil: known?.guaranteeUntil ?? null,
      fitted: [...new Set(known?.fitted.map(({ ref }) => ref) ?? [])],
    };
  });
}
