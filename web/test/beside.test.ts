import { eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { NewCaseRequest } from '../src/case/case-card';
import type { EntryBody } from '../src/case/entry';
import { importBoard } from '../src/server/board/service';
import { readingsBeside } from '../src/server/case/beside';
import { insertEntry } from '../src/server/case/repository';
import { addEntry, openCase } from '../src/server/case/service';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { caseSummary } from '../src/server/db/schema/case';
import { closePools } from '../src/server/reckoning/pool';

const url = process.env.DATABASE_URL!;
const { db, pool } = openDatabase(url);
const DECK = 'beside board\nV1 VIN 0 9\nXF1 VIN VM FUSE\nR1 VM 0 1k\n.end';

beforeAll(() => prepareDatabase(url, { demo: true }));
afterAll(() => Promise.all([pool.end(), closePools()]));

const entry = (body: EntryBody) => ({ id: v7(), madeAt: new Date().toISOString(), body });
const volts = (value: number): EntryBody => ({
  kind: 'reading',
  setup: 'on',
  quantity: 'voltage',
  at: 'VM',
  to: '',
  value,
  typed: `vm ${value}`,
});
async function newCase(boardId: string | null, unitModel = 'loom lamp beside') {
  const opened = await openCase(
    db,
    NewCaseRequest.parse({ title: 'beside', unitModel, ...(boardId ? { boardId } : {}) }),
  );
  if (!opened.ok) throw new Error(opened.detail);
  return opened.value.id;
}
const board = async (): Promise<string> => {
  const stored = await importBoard(db, 'beside.cir', DECK);
  if (!stored.ok) throw new Error('deck');
  return stored.id;
};
const values = async (id: string) =>
  (await readingsBeside(db, id)).map(({ value, good }) => [value, good]);

describe('what was read on other units of this kind', () => {
  it('comes from other cases on the same sheet, without what was taken back', async () => {
    const sheet = await board();
    const [own, other] = [await newCase(sheet), await newCase(sheet)];
    const slip = entry(volts(99));
    for (const one of [entry(volts(8.9)), slip, entry({ kind: 'retract', entry: slip.id })])
      expect((await addEntry(db, other, one)).ok).toBe(true);
    await addEntry(db, own, entry(volts(1)));
    expect(await values(own)).toEqual([[8.9, false]]);
    expect(await values(other)).toEqual([[1, false]]);
  });

  it('is good after the last repair of a case that was closed and not given up', async () => {
    const sheet = await board();
    const [own, mended] = [await newCase(sheet), await newCase(sheet)];
    await insertEntry(db, mended, entry(volts(0.2)), 0);
    await insertEntry(db, mended, entry(volts(8.8)), 1);
    await addEntry(db, mended, entry({ kind: 'finding', text: 'so that it has a summary' }));
    expect(await values(own)).toEqual([
      [8.8, false],
      [0.2, false],
    ]);
    await db.update(caseSummary).set({ closed: true }).where(eq(caseSummary.caseId, mended));
    expect(await values(own)).toEqual([
      [8.8, true],
      [0.2, false],
    ]);
    // Closed without a repair: it may have been read while it was ill.
    const untouched = await newCase(sheet);
    await insertEntry(db, untouched, entry(volts(0.3)), 0);
    await addEntry(db, untouched, entry({ kind: 'finding', text: 'a plug was loose' }));
    await db.update(caseSummary).set({ closed: true }).where(eq(caseSummary.caseId, untouched));
    expect(await values(own)).toContainEqual([0.3, false]);
    await insertEntry(
      db,
      mended,
      entry({ kind: 'decision', course: 'give-up', reason: 'too far gone' }),
      1,
    );
    expect((await values(own)).every(([, good]) => !good)).toBe(true);
  });

  it('without a sheet it goes by the model of the unit, and knows no other units', async () => {
    const [own, other, foreign] = [
      await newCase(null, 'Sheetless Lamp 7'),
      await newCase(null, 'sheetless lamp 7'),
      await newCase(null, 'another lamp'),
    ];
    await addEntry(db, other, entry(volts(4.9)));
    await addEntry(db, foreign, entry(volts(3.3)));
    expect(await values(own)).toEqual([[4.9, false]]);
    expect(await readingsBeside(db, v7())).toEqual([]);
  });
});
