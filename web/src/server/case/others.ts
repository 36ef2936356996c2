import { and, eq, ne, sql } from 'drizzle-orm';
import type { OtherCases } from '../../case/others';
import type { Database } from '../db/client';
import { caseSummary, repairCase } from '../db/schema/case';

/** More needs than a person looks through. */
const MOST = 200;

/** What other cases say for a decision on this one. */
export async function otherCases(db: Database, caseId: string): Promise<OtherCases> {
  const closed = await db
    .select({ minutes: sql<number>`(${caseSummary.content}->>'minutes')::float8` })
    .from(repairCase)
    .innerJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .where(
      and(
        ne(repairCase.id, caseId),
        eq(caseSummary.closed, true),
        sql`${repairCase.unitType} = (select c.unit_type from repair_case c where c.id = ${caseId})`,
        sql`not exists (
          select 1 from case_entry d
          where d.case_id = ${repairCase.id} and d.kind = 'decision' and d.body->>'course' = 'give-up'
        )`,
      ),
    )
    .limit(MOST);
  const needs = await db
    .select({ number: repairCase.number, words: repairCase.waitsFor })
    .from(repairCase)
    .leftJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .where(
      and(
        ne(repairCase.id, caseId),
        eq(repairCase.waitsKind, 'part'),
        sql`coalesce(${caseSummary.closed}, false) = false`,
      ),
    )
    .orderBy(repairCase.number)
    .limit(MOST);
  return { closedMinutes: closed.map(({ minutes }) => minutes), needs };
}
