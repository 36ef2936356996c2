import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { mayDoFor, neededSpec } from '@hanzai/core/decide';
import { readSpec } from '@hanzai/core/part';
import { LIBRARY } from '@hanzai/data';
import type { Lot, Move, Moved, NewLot, StockNeed } from '../../stock/stock';
import { CaseSummary } from '../../case/summary';
import type { Database } from '../db/client';
import { caseSummary, repairCase } from '../db/schema/case';
import { stockLot, stockMove, stockReservation } from '../db/schema/stock';

type Row = typeof stockLot.$inferSelect;

/** Why a movement was not made: unknown things, or fewer there than it takes. */
export type Refusal = { readonly ok: false; readonly status: 404 | 409; readonly detail: string };

function lotOf(row: Row, keptFor: Lot['keptFor']): Lot {
  const { id, text, bin, supplier, price, boughtOn, quantity, reserved, minimum, donor, note } =
    row;
  return {
    id,
    text,
    bin,
    supplier,
    price: price === null ? null : Number(price),
    boughtOn,
    quantity,
    reserved,
    minimum,
    donor,
    note,
    keptFor,
  };
}

async function keptFor(
  db: Database,
  lots: readonly string[],
): Promise<Map<string, Lot['keptFor']>> {
  const kept = new Map<string, Lot['keptFor']>();
  if (lots.length === 0) return kept;
  const rows = await db
    .select({ lot: stockReservation.lotId, case: repairCase.number, count: stockReservation.count })
    .from(stockReservation)
    .innerJoin(repairCase, eq(repairCase.id, stockReservation.caseId))
    .where(inArray(stockReservation.lotId, [...lots]))
    .orderBy(repairCase.number);
  for (const { lot, case: number, count } of rows)
    kept.set(lot, [...(kept.get(lot) ?? []), { case: number, count }]);
  return kept;
}

/** Every lot that is not set aside, by what it is. */
export async function listLots(db: Database): Promise<readonly Lot[]> {
  const rows = await db
    .select()
    .from(stockLot)
    .where(isNull(stockLot.archivedAt))
    .orderBy(asc(stockLot.text), asc(stockLot.madeAt));
  const kept = await keptFor(
    db,
    rows.map(({ id }) => id),
  );
  return rows.map((row) => lotOf(row, kept.get(row.id) ?? []));
}

/** Adds lots; one that is there already stays as it is. wakes: cases that waited for one of them. */
export async function addLots(
  db: Database,
  lots: readonly NewLot[],
): Promise<{ readonly added: number; readonly wakes: readonly number[] }> {
  return db.transaction(async (tx) => {
    const added = await tx
      .insert(stockLot)
      .values(lots.map((lot) => ({ ...lot, price: lot.price === null ? null : String(lot.price) })))
      .onConflictDoNothing()
      .returning();
    const wakes: number[] = [];
    for (const row of added) wakes.push(...(await wakeCases(tx, row)));
    return { added: added.length, wakes };
  });
}

/** Sets a lot aside, or takes it back; false where there is none or some of it is kept for a case. */
export async function archiveLot(db: Database, id: string, at: Date | null): Promise<boolean> {
  const done = await db
    .update(stockLot)
    .set({ archivedAt: at })
    .where(and(eq(stockLot.id, id), eq(stockLot.reserved, 0)))
    .returning({ id: stockLot.id });
  return done.length > 0;
}

const none = (detail: string): Refusal => ({ ok: false, status: 404, detail });
const fewer = (detail: string): Refusal => ({ ok: false, status: 409, detail });

/**
 * Makes a movement. The lot is locked meanwhile, so that the last one is never taken twice; the same
 * movement sent again changes nothing.
 */
export async function moveStock(
  db: Database,
  move: Move,
): Promise<{ readonly ok: true; readonly value: Moved } | Refusal> {
  return db.transaction(async (tx) => {
    const [row] = await tx.select().from(stockLot).where(eq(stockLot.id, move.lot)).for('update');
    if (!row) return none('there is no such lot');
    const [found] =
      move.case === null
        ? [undefined]
        : await tx.select().from(repairCase).where(eq(repairCase.number, move.case));
    if (move.case !== null && !found) return none(`there is no case ${move.case}`);
    // The lot is locked: nobody makes this movement between the look and the making.
    const [made] = await tx
      .select({ id: stockMove.id })
      .from(stockMove)
      .where(eq(stockMove.id, move.id));
    if (!made) {
      const refused = await apply(tx, row, move, found?.id);
      if (refused) return refused;
      await tx.insert(stockMove).values({
        id: move.id,
        lotId: move.lot,
        kind: move.kind,
        count: move.count,
        caseId: found?.id ?? null,
        note: move.note,
      });
    }
    const read = async (): Promise<Row> =>
      (await tx.select().from(stockLot).where(eq(stockLot.id, move.lot)))[0]!;
    const wakes = move.kind === 'put' && !made ? await wakeCases(tx, await read()) : [];
    const kept = await keptFor(tx, [move.lot]);
    return { ok: true, value: { lot: lotOf(await read(), kept.get(move.lot) ?? []), wakes } };
  });
}

async function apply(
  tx: Database,
  row: Row,
  { kind, count, lot }: Move,
  caseId: string | undefined,
): Promise<Refusal | undefined> {
  const { quantity, reserved } = row;
  const own = caseId === undefined ? 0 : await reservedFor(tx, lot, caseId);
  const change = (values: { quantity?: number; reserved?: number }): Promise<unknown> =>
    tx.update(stockLot).set(values).where(eq(stockLot.id, lot));
  switch (kind) {
    case 'put':
      await change({ quantity: quantity + count });
      return undefined;
    case 'count':
      if (count < reserved)
        return fewer(`${reserved} of them are kept for cases: release those first`);
      await change({ quantity: count });
      return undefined;
    case 'take': {
      const free = quantity - reserved + own;
      if (count > free)
        return fewer(
          `${free} can be taken${reserved > own ? `: ${reserved - own} are kept for other cases` : ''}`,
        );
      const used = Math.min(own, count);
      if (used > 0) await keep(tx, lot, caseId!, own - used);
      await change({ quantity: quantity - count, reserved: reserved - used });
      return undefined;
    }
    case 'reserve': {
      if (caseId === undefined) return none('for which case is not said');
      if (count > quantity - reserved) return fewer(`${quantity - reserved} are free`);
      await keep(tx, lot, caseId, own + count);
      await change({ reserved: reserved + count });
      return undefined;
    }
    default: {
      if (caseId === undefined) return none('for which case is not said');
      const back = Math.min(own, count);
      if (back === 0) return fewer('nothing of it is kept for this case');
      await keep(tx, lot, caseId, own - back);
      await change({ reserved: reserved - back });
      // A case that this had come for waits again.
      if (own === back)
        await tx
          .update(repairCase)
          .set({ arrived: '' })
          .where(and(eq(repairCase.id, caseId), eq(repairCase.arrived, arrivedWords(row))));
      return undefined;
    }
  }
}

async function reservedFor(tx: Database, lot: string, caseId: string): Promise<number> {
  const [row] = await tx
    .select({ count: stockReservation.count })
    .from(stockReservation)
    .where(and(eq(stockReservation.lotId, lot), eq(stockReservation.caseId, caseId)));
  return row?.count ?? 0;
}

async function keep(tx: Database, lotId: string, caseId: string, count: number): Promise<void> {
  if (count === 0)
    await tx
      .delete(stockReservation)
      .where(and(eq(stockReservation.lotId, lotId), eq(stockReservation.caseId, caseId)));
  else
    await tx
      .insert(stockReservation)
      .values({ lotId, caseId, count })
      .onConflictDoUpdate({
        target: [stockReservation.lotId, stockReservation.caseId],
        set: { count },
      });
}

const isOpen = sql`coalesce(${caseSummary.closed}, false) = false`;

/** What stands on a case that a lot came for. */
const arrivedWords = ({ text, bin, donor }: Row): string =>
  [text, bin && `bin ${bin}`, donor].filter(Boolean).join(', ');

/**
 * Wakes the open cases that wait for something that this lot would do for, who was promised first
 * first, as far as it goes round: one of it is kept for each, and the docket says that it is here.
 * The lot has to be locked, or made in this transaction. Returns their numbers.
 */
async function wakeCases(tx: Database, lot: Row): Promise<number[]> {
  const offered = readSpec(lot.text, LIBRARY);
  let reserved = lot.reserved;
  if (offered.kind === 'unknown' || lot.quantity <= reserved) return [];
  const waiting = await tx
    .select({ id: repairCase.id, number: repairCase.number, words: repairCase.waitsFor })
    .from(repairCase)
    .leftJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .where(and(eq(repairCase.waitsKind, 'part'), eq(repairCase.arrived, ''), isOpen))
    .orderBy(sql`${repairCase.promisedOn} asc nulls last`, repairCase.number)
    .for('update', { of: repairCase });
  const woken: number[] = [];
  for (const { id, number, words } of waiting) {
    if (reserved >= lot.quantity) break;
    const was = neededSpec(words, LIBRARY);
    if (!was || !mayDoFor(was, offered)) continue;
    reserved += 1;
    await keep(tx, lot.id, id, (await reservedFor(tx, lot.id, id)) + 1);
    await tx
      .update(repairCase)
      .set({ arrived: arrivedWords(lot) })
      .where(eq(repairCase.id, id));
    woken.push(number);
  }
  if (woken.length > 0) await tx.update(stockLot).set({ reserved }).where(eq(stockLot.id, lot.id));
  return woken;
}

/** What open cases need: off the board or condemned, and nothing on it yet. */
export async function stockNeeds(db: Database): Promise<readonly StockNeed[]> {
  const rows = await db
    .select({
      number: repairCase.number,
      title: repairCase.title,
      promisedOn: repairCase.promisedOn,
      content: caseSummary.content,
    })
    .from(repairCase)
    .innerJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .where(isOpen)
    .orderBy(repairCase.number);
  return rows.flatMap(({ number, title, promisedOn, content }) => {
    const read = CaseSummary.safeParse(content);
    return (read.data?.needs ?? []).map(({ ref, text }) => ({
      case: number,
      title,
      ref,
      text,
      promisedOn,
    }));
  });
}
