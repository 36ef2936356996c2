import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addEntry, caseView, openCase } from '../src/server/case/service';
import { docketPage } from '../src/server/case/docket';
import { openDatabase, type Database } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { RIGHTS } from '../src/server/db/role';
import { seedDemo } from '../src/server/db/seed';
import { addPerson, anybody, listPeople } from '../src/server/people/people';
import { exportWorkshop, importWorkshop } from '../src/server/open-files/open-files-command';
import { setLearning, workshopId } from '../src/server/learn/setting';
import { packed, unpack } from './archives';
import { ask, at } from './databases';

// Two workshops in one database: each connects as a role of its own, and sees and writes nothing of
// the other, whatever it asks.

const own = `workshops_${process.pid}`;
const roleUrl = (role: string): string =>
  Object.assign(new URL(at(own)), { username: role, password: 'a b/c' }).href;
const [firstRole, otherRole] = [`first_app_${process.pid}`, `other_app_${process.pid}`];
const [firstUrl, otherUrl] = [roleUrl(firstRole), roleUrl(otherRole)];
let first: Database;
let other: Database;
let close: () => Promise<unknown>;

beforeAll(async () => {
  await ask(at('postgres'), `drop database if exists "${own}"`);
  await prepareDatabase(at(own), { demo: false, applicationUrl: firstUrl });
  await prepareDatabase(at(own), { demo: false, applicationUrl: otherUrl, ownWorkshop: true });
  const [one, two] = [openDatabase(firstUrl), openDatabase(otherUrl)];
  [first, other] = [one.db, two.db];
  close = () => Promise.all([one.pool.end(), two.pool.end()]);
  // The demo of a whole workshop, with something in nearly every table, is the first one's.
  const asOwner = openDatabase(at(own));
  await seedDemo(asOwner.db);
  await asOwner.pool.end();
}, 240_000);
afterAll(async () => {
  await close();
  for (const role of [firstRole, otherRole]) await ask(at(own), `drop owned by "${role}"`);
  await ask(at('postgres'), `drop database "${own}"`);
  for (const role of [firstRole, otherRole]) await ask(at('postgres'), `drop role "${role}"`);
});

const value = <T>(done: { ok: true; value: T } | { ok: false; detail: string }): T => {
  if (!done.ok) throw new Error(done.detail);
  return done.value;
};
const count = async (url: string, table: string): Promise<number> =>
  Number((await ask(url, `select count(*) as n from ${table}`)).rows[0].n);
const finding = () =>
  ({ id: v7(), madeAt: new Date().toISOString(), body: { kind: 'finding', text: 'x' } }) as const;

/** What is counted by address or said of roles belongs to no workshop. */
const SHARED = new Set(['sign_in_rate', 'workshop_role']);
const TABLES = Object.keys(RIGHTS).filter((table) => !SHARED.has(table));

describe('two workshops in one database', () => {
  it.each(TABLES)('%s is guarded: a row of the first is none of the other', async (table) => {
    const { rows } = await ask(
      at(own),
      `select relrowsecurity as guarded, (select count(*)::int from pg_policy where polrelid = c.oid) as policies
       from pg_class c where oid = '${table}'::regclass`,
    );
    expect(rows).toEqual([{ guarded: true, policies: 1 }]);
    expect(await count(firstUrl, table)).toBe(await count(at(own), table));
    expect(await count(otherUrl, table)).toBe(0);
  });
  it('every table there is is either guarded or known to be shared', async () => {
    const { rows } = await ask(
      at(own),
      `select relname as name from pg_class where relnamespace = 'public'::regnamespace and relkind = 'r' and not relrowsecurity`,
    );
    expect(rows.map(({ name }) => String(name)).sort()).toEqual([...SHARED].sort());
  });
  it('the other one cannot become the first, and cannot give rows away', async () => {
    await expect(
      ask(otherUrl, `update workshop_role set workshop = gen_random_uuid()`),
    ).rejects.toThrow(/permission denied/);
    await expect(ask(otherUrl, `set role "${firstRole}"`)).rejects.toThrow(/permission denied/);
    await expect(
      ask(
        otherUrl,
        `insert into unit_code (id, belongs_to, unit_type, code, stage, meaning)
         values (gen_random_uuid(), '00000000-0000-0000-0000-000000000001', 'a', 'b', 'c', 'd')`,
      ),
    ).rejects.toThrow(/row-level security/);
    // A setting of the connection changes nothing.
    expect(
      await ask(otherUrl, `set hanzai.workshop = '00000000-0000-0000-0000-000000000001'`).then(() =>
        count(otherUrl, 'repair_case'),
      ),
    ).toBe(0);
  });
  it('a case of the first is not there for the other, by id, by entry or by SQL', async () => {
    const { id } = value(await openCase(first, { title: 'of the first', unitModel: 'lamp' }));
    expect(await caseView(other, id)).toBeUndefined();
    expect(await addEntry(other, id, finding())).toMatchObject({ ok: false, why: 'missing' });
    await expect(
      ask(
        otherUrl,
        `insert into case_entry (id, case_id, kind, body, made_at) values (gen_random_uuid(), '${id}', 'finding', '{}', now())`,
      ),
    ).rejects.toThrow(/another workshop/);
    expect((await ask(otherUrl, `update repair_case set title = 'mine'`)).rowCount).toBe(0);
    expect((await caseView(first, id))!.title).toBe('of the first');
  });
  it('an entry under an id that the first has used is refused, and tells nothing of it', async () => {
    const entry = finding();
    const theirs = value(await openCase(first, { title: 'theirs', unitModel: 'lamp' }));
    value(await addEntry(first, theirs.id, entry));
    const mine = value(await openCase(other, { title: 'mine', unitModel: 'lamp' }));
    const again = await addEntry(other, mine.id, entry).then(
      (done) => JSON.stringify(done),
      (error: Error) => error.message,
    );
    expect(again).not.toContain(theirs.id);
    expect((await caseView(first, theirs.id))!.entries).toHaveLength(1);
    expect(again).toContain('another entry is stored under this id');
    expect((await caseView(other, mine.id))!.entries).toEqual([]);
  });
  it('goes out as open files by itself, also where the owner of the database asks', async () => {
    const titles = async (url: string): Promise<readonly string[]> => {
      const file = join(mkdtempSync(join(tmpdir(), 'workshops-')), 'own.tar.gz');
      await exportWorkshop(url, file);
      const files = await unpack(file);
      return [...files].flatMap(([name, bytes]) =>
        /^cases\/\d+\.json$/.test(name)
          ? [(JSON.parse(bytes.toString()) as { card: { title: string } }).card.title]
          : [],
      );
    };
    expect(await titles(otherUrl)).toEqual(['mine']);
    const [asOwner, asFirst] = [await titles(at(own)), await titles(firstUrl)];
    expect(asOwner).toEqual(asFirst);
    expect(asOwner).toContain('theirs');
    expect(asOwner).not.toContain('mine');
  });
  it('takes open files in as its own role, and its next case has a number of its own', async () => {
    const id = v7();
    // 101 is a case of the first workshop, which is not to be seen from here.
    const taken = v7();
    const card = { id, number: 9500, title: 'from elsewhere', unit_model: 'lamp' };
    const file = join(mkdtempSync(join(tmpdir(), 'workshops-')), 'in.tar.gz');
    writeFileSync(
      file,
      await packed([
        [
          'workshop.json',
          JSON.stringify({
            format: 'hanzai-workshop',
            version: 1,
            madeAt: new Date().toISOString(),
            rows: {},
          }),
        ],
        [
          'cases/9500.json',
          JSON.stringify({ format: 'hanzai-case', version: 1, card, entries: [], pictures: [] }),
        ],
        [
          'cases/101.json',
          JSON.stringify({
            format: 'hanzai-case',
            version: 1,
            card: { ...card, id: taken, number: 101 },
            entries: [],
            pictures: [],
          }),
        ],
      ]),
    );
    const done = await importWorkshop(otherUrl, file);
    expect(done).toMatchObject({ added: { repair_case: 2 }, known: 0 });
    expect(done.renumbered.map(([theirs]) => theirs)).toEqual([101]);
    expect((await caseView(other, taken))!.number).toBe(done.renumbered[0]![1]);
    expect((await caseView(other, id))!.number).toBe(9500);
    expect(await caseView(first, id)).toBeUndefined();
    const next = value(await openCase(other, { title: 'the next', unitModel: 'lamp' }));
    expect(next.number).toBe(9501);
  });
  it('each has its docket, its settings, its people, of the same names too', async () => {
    const seen = await docketPage(other);
    expect(seen.lines.map(({ title }) => title).sort()).toEqual([
      'from elsewhere',
      'from elsewhere',
      'mine',
      'the next',
    ]);
    await setLearning(first, { on: false, since: null });
    await setLearning(other, { on: true, since: null });
    expect(await workshopId(first)).not.toBe(await workshopId(other));
    value(await addPerson(first, { name: 'Mara Voss', role: 'owner' }, 'test'));
    expect(await anybody(other)).toBe(false);
    value(await addPerson(other, { name: 'Mara Voss', role: 'owner' }, 'test'));
    expect(await listPeople(other)).toHaveLength(1);
  });
});
