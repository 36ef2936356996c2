import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { NewCaseRequest } from '../src/case/case-card';
import { OtherCases } from '../src/case/others';
import type { EntryBody } from '../src/case/entry';
import { otherCases } from '../src/server/case/others';
import { addEntry, openCase } from '../src/server/case/service';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { closePools } from '../src/server/reckoning/pool';

const url = process.env.DATABASE_URL!;
const { db, pool } = openDatabase(url);
beforeAll(() => prepareDatabase(url, { demo: true }));
afterAll(() => Promise.all([pool.end(), closePools()]));

async function newCase(unitType: string): Promise<string> {
  const opened = await openCase(
    db,
    NewCaseRequest.parse({ title: 'others', unitModel: 'loom lamp', unitType }),
  );
  if (!opened.ok) throw new Error(opened.detail);
  return opened.value.id;
}
const add = async (id: string, body: EntryBody): Promise<void> => {
  const added = await addEntry(db, id, { id: v7(), madeAt: new Date().toISOString(), body });
  if (!added.ok) throw new Error(added.detail);
};

describe('what other cases say for a decision', () => {
  it('knows what open cases wait for, of any kind of unit', async () => {
    const own = await newCase('powered-board');
    const { needs } = OtherCases.parse(await otherCases(db, own));
    // The demo has one that waits for a capacitor.
    expect(needs.map(({ words }) => words)).toContain('C6, 100u 16V, ordered');
  });

  it('takes minutes of closed cases of the same kind, without its own and those given up', async () => {
    const own = await newCase('tape-transport');
    const before = (await otherCases(db, own)).closedMinutes.length;
    const other = await newCase('tape-transport');
    await add(other, { kind: 'decision', course: 'give-up', reason: 'finished' });
    await add(other, { kind: 'close', note: '' });
    expect((await otherCases(db, own)).closedMinutes).toHaveLength(before);
    // The demo's closed reader counts for readers only.
    const reader = await newCase('optical-disc-reader');
    expect((await otherCases(db, reader)).closedMinutes.length).toBeGreaterThan(0);
  });
});
