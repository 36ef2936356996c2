import { v7 } from 'uuid';
import type { APIRoute } from 'astro';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { NewCaseRequest } from '../src/case/case-card';
import { PATCH as setAside } from '../src/pages/api/stock/[id]';
import { GET as list, POST as add } from '../src/pages/api/stock/index';
import { POST as moveDoor } from '../src/pages/api/stock/moves';
import { GET as needs } from '../src/pages/api/stock/needs';
import { addEntry, caseView, correctCase, openCase } from '../src/server/case/service';
import { docketPage } from '../src/server/case/docket';
import { RIGHTS } from '../src/server/db/role';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { closePools } from '../src/server/reckoning/pool';
import { addLots, listLots, moveStock } from '../src/server/stock/lots';
import { freeOf, Lot, StockNeed, type Move, type NewLot } from '../src/stock/stock';
import { z } from 'zod';

const url = process.env.DATABASE_URL!;
const { db, pool } = openDatabase(url);
beforeAll(() => prepareDatabase(url, { demo: true }));
afterAll(() => Promise.all([pool.end(), closePools()]));

const newLot = (more: Partial<NewLot> = {}): NewLot => ({
  id: v7(),
  text: '10u 16V electrolytic',
  bin: '',
  supplier: '',
  price: 0.3,
  boughtOn: '2025-01-02',
  quantity: 3,
  minimum: 0,
  donor: '',
  note: '',
  ...more,
});
const move = (
  lot: string,
  kind: Move['kind'],
  count: number,
  number: number | null = null,
  id = v7(),
): Move => ({ id, lot, kind, count, case: number, note: '' });
const of = async (id: string): Promise<Lot> => (await listLots(db)).find((one) => one.id === id)!;
async function newCase(): Promise<{ id: string; number: number }> {
  const opened = await openCase(
    db,
    NewCaseRequest.parse({ title: 'stock', unitModel: 'loom lamp' }),
  );
  if (!opened.ok) throw new Error(opened.detail);
  return opened.value;
}
async function lotOf(more: Partial<NewLot> = {}): Promise<string> {
  const one = newLot(more);
  await addLots(db, [one]);
  return one.id;
}
async function call(route: APIRoute, body?: unknown, params: Record<string, string> = {}) {
  const request = new Request('http://localhost/', {
    method: body === undefined ? 'GET' : 'POST',
    ...(body === undefined
      ? {}
      : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });
  const response = await route({
    request,
    params,
    locals: {},
  } as unknown as Parameters<APIRoute>[0]);
  return { status: response.status, json: (await response.json()) as unknown };
}

describe('rights', () => {
  it('every table of the workshop has its line: a forgotten one would fail at the first request', async () => {
    const { rows } = await pool.query<{ table_name: string }>(
      "select table_name from information_schema.tables where table_schema = 'public'",
    );
    expect(rows.map(({ table_name }) => table_name).sort()).toEqual(Object.keys(RIGHTS).sort());
  });
});

describe('stock', () => {
  it('comes with the demo, with gaps', async () => {
    const { json } = await call(list);
    const lots = z.array(Lot).parse(json);
    expect(lots.length).toBeGreaterThan(15);
    expect(lots.some(({ quantity, minimum }) => quantity < minimum)).toBe(true);
    expect(new Set(lots.map(({ donor }) => donor).filter(Boolean)).size).toBe(2);
  });

  it('the last one is never taken twice, however many take it at once', async () => {
    const id = await lotOf({ quantity: 5 });
    const done = await Promise.all(
      Array.from({ length: 20 }, () => moveStock(db, move(id, 'take', 1))),
    );
    expect(done.filter(({ ok }) => ok)).toHaveLength(5);
    expect((await of(id)).quantity).toBe(0);
    const [refused] = done.filter(({ ok }) => !ok);
    expect(refused).toMatchObject({ status: 409, detail: '0 can be taken' });
  });

  it('the same movement sent again is made once', async () => {
    const id = await lotOf();
    const one = move(id, 'take', 2);
    await Promise.all([moveStock(db, one), moveStock(db, one), moveStock(db, one)]);
    expect((await of(id)).quantity).toBe(1);
    // One that was refused leaves nothing behind: it can be tried again when there is enough.
    const much = move(id, 'take', 4);
    expect((await moveStock(db, much)).ok).toBe(false);
    await moveStock(db, move(id, 'put', 10));
    expect((await moveStock(db, much)).ok).toBe(true);
    expect((await of(id)).quantity).toBe(7);
  });

  it('what is kept for a case is taken by that case alone', async () => {
    const [one, other] = [await newCase(), await newCase()];
    const id = await lotOf({ quantity: 2 });
    expect((await moveStock(db, move(id, 'reserve', 2, one.number))).ok).toBe(true);
    expect(await moveStock(db, move(id, 'reserve', 1, other.number))).toMatchObject({
      status: 409,
      detail: '0 are free',
    });
    expect(await moveStock(db, move(id, 'take', 1, other.number))).toMatchObject({
      status: 409,
      detail: expect.stringMatching(/2 are kept for other cases/) as string,
    });
    expect(await moveStock(db, move(id, 'count', 1))).toMatchObject({
      status: 409,
      detail: expect.stringMatching(/release/) as string,
    });
    expect((await moveStock(db, move(id, 'take', 1, one.number))).ok).toBe(true);
    expect(await of(id)).toMatchObject({
      quantity: 1,
      reserved: 1,
      keptFor: [{ case: one.number, count: 1 }],
    });
    expect((await moveStock(db, move(id, 'release', 5, one.number))).ok).toBe(true);
    expect(await of(id)).toMatchObject({ quantity: 1, reserved: 0, keptFor: [] });
    expect((await moveStock(db, move(id, 'release', 1, one.number))).ok).toBe(false);
    expect((await moveStock(db, move(id, 'reserve', 1))).ok).toBe(false);
  });

  it('numbers never go below zero under a storm of movements', async () => {
    const cases = await Promise.all([newCase(), newCase(), newCase()]);
    const id = await lotOf({ quantity: 6 });
    const kinds = ['take', 'put', 'reserve', 'release', 'take', 'count'] as const;
    await Promise.all(
      Array.from({ length: 90 }, (_, i) =>
        moveStock(
          db,
          move(
            id,
            kinds[i % kinds.length]!,
            (i * 7) % 4,
            i % 5 === 4 ? null : cases[i % 3]!.number,
          ),
        ),
      ),
    );
    const after = await of(id);
    expect(after.quantity).toBeGreaterThanOrEqual(0);
    expect(freeOf(after)).toBeGreaterThanOrEqual(0);
    expect(after.keptFor.reduce((sum, { count }) => sum + count, 0)).toBe(after.reserved);
  });

  it('an arrival names the cases that waited for something like it', async () => {
    // A case of the demo waits for C6, 100u 16V.
    const waits = z
      .array(StockNeed)
      .parse((await call(needs)).json)
      .find(({ text }) => text.startsWith('100u 16V'))!;
    expect(waits).toMatchObject({ ref: 'C6' });
    const wakes = async (
      text: string,
    ): Promise<readonly [lot: string, cases: readonly number[]]> => {
      const lot = await lotOf({ text, quantity: 0 });
      const moved = await moveStock(db, move(lot, 'put', 1));
      return [lot, moved.ok ? moved.value.wakes : []];
    };
    expect((await wakes('100u 10V electrolytic'))[1]).not.toContain(waits.case);
    expect((await wakes('74LS86'))[1]).toEqual([]);
    const [lot, woken] = await wakes('100u 25V electrolytic');
    expect(woken).toContain(waits.case);
    // It is here: nothing more comes for it, until it is given away.
    expect((await wakes('100u 25V electrolytic'))[1]).toEqual([]);
    await moveStock(db, move(lot, 'release', 1, waits.case));
  });

  it('wakes who was promised first, one for each, as far as it goes round', async () => {
    const waiting = async (promisedOn: string | null): Promise<{ id: string; number: number }> => {
      const made = await newCase();
      const { version } = (await caseView(db, made.id))!;
      const card = { waitsFor: 'U3, 74LS373, ordered', waitsKind: 'part', promisedOn } as const;
      expect(await correctCase(db, made.id, { version, ...card })).toMatchObject({ ok: true });
      return made;
    };
    const [late, never, soon] = [
      await waiting('2027-03-01'),
      await waiting(null),
      await waiting('2027-01-01'),
    ];
    const stands = async ({ number }: { number: number }): Promise<string> => {
      const { lines } = await docketPage(db, { find: String(number), most: 500 });
      const { state, arrived } = lines.find((one) => one.number === number)!;
      return `${state}:${arrived}`;
    };
    // As a new lot of two: it goes to the two that were promised.
    const one = newLot({ text: '74LS373', bin: 'C9', quantity: 2 });
    expect(await addLots(db, [one])).toEqual({ added: 1, wakes: [soon.number, late.number] });
    expect(await stands(soon)).toBe('open:74LS373, bin C9');
    expect(await stands(never)).toBe('waiting:');
    expect(await of(one.id)).toMatchObject({
      keptFor: [
        { case: late.number, count: 1 },
        { case: soon.number, count: 1 },
      ].sort((a, b) => a.case - b.case),
    });
    // Sent again it wakes nobody anew; a third one goes to the third, once.
    expect(await addLots(db, [one])).toEqual({ added: 0, wakes: [] });
    const put = move(one.id, 'put', 1);
    expect(await moveStock(db, put)).toMatchObject({ value: { wakes: [never.number] } });
    expect(await moveStock(db, put)).toMatchObject({ value: { wakes: [] } });
    expect(freeOf(await of(one.id))).toBe(0);
    // Given up what was kept for it, a case waits again; and one whose card asks for something else.
    await moveStock(db, move(one.id, 'release', 1, soon.number));
    expect(await stands(soon)).toBe('waiting:');
    const { version } = (await caseView(db, late.id))!;
    await correctCase(db, late.id, { version, waitsFor: 'U3, 74LS373, ordered' });
    expect(await stands(late)).toBe('open:74LS373, bin C9');
    await correctCase(db, late.id, { version: version + 1, waitsFor: 'U4, 74LS14' });
    expect(await stands(late)).toBe('waiting:');
  });

  it('a need goes with the part that went on, and with a case that is given up', async () => {
    const { id, number } = await newCase();
    const say = async (body: Parameters<typeof addEntry>[2]['body']): Promise<void> => {
      const added = await addEntry(db, id, { id: v7(), madeAt: new Date().toISOString(), body });
      if (!added.ok) throw new Error(added.detail);
    };
    const own = async () =>
      z
        .array(StockNeed)
        .parse((await call(needs)).json)
        .filter((one) => one.case === number);
    await say({ kind: 'removed', ref: 'R7', value: '4k7 0.25W', note: '' });
    expect(await own()).toMatchObject([{ ref: 'R7', text: '4k7 0.25W' }]);
    await say({ kind: 'decision', course: 'give-up', reason: 'finished' });
    expect(await own()).toEqual([]);
    await say({ kind: 'decision', course: 'go-on', reason: 'after all' });
    await say({ kind: 'fitted', ref: 'R7', value: '4k7 0.25W', polarityChecked: false, note: '' });
    expect(await own()).toEqual([]);
  });

  it('the doors refuse what is wrong, and say what', async () => {
    const id = await lotOf();
    expect((await call(add, [newLot({ text: ' ' })])).status).toBe(422);
    expect((await call(add, [newLot({ quantity: -1 })])).status).toBe(422);
    expect((await call(add, [newLot({ boughtOn: 'last year' })])).status).toBe(422);
    expect((await call(add, [newLot()])).status).toBe(201);
    expect((await call(moveDoor, { ...move(id, 'take', 1), kind: 'steal' })).status).toBe(422);
    expect((await call(moveDoor, move(id, 'take', 9))).status).toBe(409);
    expect((await call(moveDoor, move(v7(), 'take', 1))).status).toBe(404);
    expect((await call(moveDoor, move(id, 'reserve', 1, 999_999))).status).toBe(404);
    expect((await call(setAside, { archived: true }, { id })).status).toBe(200);
    expect((await listLots(db)).some((one) => one.id === id)).toBe(false);
  });
});
