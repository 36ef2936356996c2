import { SIMULATED_NAME } from '@hanzai/core/simulated';
import { sql } from 'drizzle-orm';
import { BesideReading } from '../../case/beside';
import type { Database } from '../db/client';

/** Units that are gone into, the newest first: more do not make the scatter of a reading any clearer. */
const MOST_UNITS = 200;
/** Readings that are sent, the newest first. */
const MOST = 4000;

/**
 * What was read on other units of this kind: cases on any version of the same sheet, and where there
 * is no sheet cases with the same model of unit. What was taken back, or read of a
 * simulated board, is left out. A reading is good
 * where it was taken after the last repair of a case that was closed and not given up; in a case
 * without a repair nobody knows which of its readings were taken of a sound board.
 */
export async function readingsBeside(
  db: Database,
  caseId: string,
): Promise<readonly BesideReading[]> {
  const { rows } = await db.execute(sql`
    with own as (
      select c.id, c.unit_model, b.sheet
      from repair_case c left join board b on b.id = c.board_id
      where c.id = ${caseId}
    ), alike as (
      select c.id, c.number
      from own, repair_case c left join board b on b.id = c.board_id
      where c.id <> own.id
        and (b.sheet = own.sheet or (own.sheet is null and lower(c.unit_model) = lower(own.unit_model)))
      order by c.number desc
      limit ${MOST_UNITS}
    ), ended as materialized (
      select alike.id, alike.number,
        coalesce(s.closed, false) and not exists (
          select 1 from case_entry d
          where d.case_id = alike.id and d.kind = 'decision' and d.body->>'course' = 'give-up'
        ) as proven,
        (select max(e.epoch) from case_entry e where e.case_id = alike.id) as last_epoch
      from alike left join case_summary s on s.case_id = alike.id
    )
    select ended.number, e.body->>'setup' as setup, e.body->>'quantity' as quantity,
      e.body->>'at' as at, e.body->>'to' as "to", e.body->'value' as value,
      ended.proven and e.epoch > 0 and e.epoch = ended.last_epoch as good
    from ended join case_entry e on e.case_id = ended.id
    where e.kind = 'reading' and e.body->>'instrument' is distinct from ${SIMULATED_NAME} and not exists (
      select 1 from case_entry r
      where r.case_id = e.case_id and r.kind = 'retract' and r.body->>'entry' = e.id::text
    )
    order by e.sequence desc
    limit ${MOST}
  `);
  return rows.flatMap((row) => {
    const read = BesideReading.safeParse(row);
    return read.success ? [read.data] : [];
  });
}
