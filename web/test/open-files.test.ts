import { existsSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { indexBoard, readBoardFile } from '@hanzai/core/board';
import { readReadingsFile } from '@hanzai/core/instrument';
import { LIBRARY } from '@hanzai/data';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { GET } from '../src/pages/api/open-files';
import { caseViewByNumber } from '../src/server/case/service';
import { openDatabase } from '../src/server/db/client';
import { marksOf, withClient } from '../src/server/db/marks';
import { prepareDatabase } from '../src/server/db/prepare';
import { importWords } from '../src/server/open-files/imported';
import { exportWorkshop, importWorkshop } from '../src/server/open-files/open-files-command';
import { takeWorkshop, Unreadable } from '../src/server/open-files/read';
import { closePools } from '../src/server/reckoning/pool';
import { packed, unpack } from './archives';
import { ask, at } from './databases';

// A whole workshop as open files, and back into another one.

const own = `open_files_${process.pid}`;
const other = `${own}_other`;
const folder = mkdtempSync(join(tmpdir(), 'open-files-'));
const file = join(folder, 'workshop.tar.gz');
const made = new Map<string, Buffer>();

const json = (name: string): unknown => JSON.parse(made.get(name)!.toString());

beforeAll(async () => {
  for (const name of [own, other])
    await ask(at('postgres'), `drop database if exists "${name}" with (force)`);
  await prepareDatabase(at(own), { demo: true });
  await prepareDatabase(at(other));
  await exportWorkshop(at(own), file);
  for (const [name, bytes] of await unpack(file)) made.set(name, bytes);
}, 300_000);
afterAll(async () => {
  await closePools();
  for (const name of [own, other])
    await ask(at('postgres'), `drop database "${name}" with (force)`);
});

const marks = (name: string) => withClient(at(name), (client) => marksOf(client));
/** Tries files on the other workshop, and takes all of it back. */
const tried = (archive: Buffer | AsyncIterable<Uint8Array>) =>
  withClient(at(other), async (client) => {
    await client.query('begin');
    const chunks = Buffer.isBuffer(archive) ? Readable.from([archive]) : archive;
    return takeWorkshop(client, chunks).finally(() => client.query('rollback'));
  });

describe('a workshop as open files', () => {
  it('is made of formats that others read: decks, readings files, JSON, JPEG', () => {
    const names = [...made.keys()];
    expect(names[0]).toBe('workshop.json');
    const decks = names.filter((name) => name.endsWith('.cir'));
    expect(decks.length).toBeGreaterThan(4);
    for (const name of decks) {
      const read = readBoardFile(name, made.get(name)!.toString(), LIBRARY);
      expect(read.ok, name).toBe(true);
    }
    let readings = 0;
    for (const name of names.filter((one) => /^cases\/\d+\.json$/.test(one))) {
      const { card } = json(name) as { card: { board_id: string | null } };
      if (!card.board_id) continue;
      const sheet = `boards/${card.board_id}.json`;
      const board = readBoardFile(sheet, made.get(sheet)!.toString(), LIBRARY);
      if (!board.ok) throw new Error(sheet);
      const csv = made.get(name.replace('.json', '-readings.csv'))!.toString();
      const read = readReadingsFile(indexBoard(board.value), csv);
      expect(read.ok, name).toBe(true);
      if (read.ok) readings += read.value.length;
    }
    expect(readings).toBeGreaterThan(20);
    for (const name of names.filter((one) => one.endsWith('.jpg')))
      expect(made.get(name)!.subarray(0, 3).toString('hex'), name).toBe('ffd8ff');
  });
  it('has every row of what it counts, and nothing that somebody signs in with', async () => {
    const { rows } = json('workshop.json') as { rows: Record<string, number> };
    const marked = await marks(own);
    for (const [table, n] of Object.entries(rows)) expect(n, table).toBe(marked[table]!.rows);
    const everything = [...made.entries()].filter(([name]) => name.endsWith('.json'));
    for (const [name, bytes] of everything)
      expect(bytes.toString(), name).not.toMatch(/"(password|token|belongs_to|public_key)"/);
  });
  it('comes through its door, whole, while somebody goes away from another', async () => {
    const before = process.env.DATABASE_URL;
    process.env.DATABASE_URL = at(own);
    const fetched = (request: Request) =>
      GET({ request } as Parameters<typeof GET>[0]) as Promise<Response>;
    const gone = new AbortController();
    const left = await fetched(new Request('http://127.0.0.1', { signal: gone.signal }));
    const answer = await fetched(new Request('http://127.0.0.1'));
    process.env.DATABASE_URL = before;
    const reader = left.body!.getReader();
    await reader.read();
    gone.abort();
    await reader.cancel().catch(() => undefined);
    expect(answer.headers.get('content-disposition')).toMatch(/hanzai-workshop-.*\.tar\.gz/);
    const name = join(folder, 'door.tar.gz');
    writeFileSync(name, Buffer.from(await answer.arrayBuffer()));
    expect([...(await unpack(name)).keys()]).toEqual([...made.keys()]);
    const open = `select count(*)::int as n from pg_stat_activity where datname = '${own}' and state like 'idle in%'`;
    await vi.waitFor(async () =>
      expect((await ask(at('postgres'), open)).rows).toEqual([{ n: 0 }]),
    );
  });
});

describe('taking it in', () => {
  it('brings every case back as it was, into another workshop, once', async () => {
    const first = await importWorkshop(at(other), file);
    expect(first.renumbered).toEqual([]);
    const [before, after] = [await marks(own), await marks(other)];
    for (const table of Object.keys((json('workshop.json') as { rows: object }).rows))
      expect(after[table], table).toEqual(before[table]);
    const [one, two] = [openDatabase(at(own)), openDatabase(at(other))];
    const { rows } = await ask(at(own), 'select number from repair_case order by number');
    for (const { number } of rows)
      expect(await caseViewByNumber(two.db, Number(number))).toEqual(
        await caseViewByNumber(one.db, Number(number)),
      );
    await Promise.all([one.pool.end(), two.pool.end()]);
    const bytes = (name: string) =>
      ask(at(name), `select md5(string_agg(md5(image), '' order by id)) as all from case_picture`);
    expect((await bytes(other)).rows).toEqual((await bytes(own)).rows);
    // The docket is made anew.
    const summaries = 'select count(*)::int as n from case_summary';
    expect((await ask(at(other), summaries)).rows).toEqual((await ask(at(own), summaries)).rows);
    const again = await importWorkshop(at(other), file);
    expect(again.added).toEqual({});
    expect(importWords(again)).toMatch(/^Nothing came in/);
    expect(await marks(other)).toEqual(after);
  }, 300_000);
  it('a number that is another case’s here gets a new one, and the next case one after it', async () => {
    const id = '01890000-0000-7000-8000-0000000000aa';
    const [name] = [...made.keys()].filter((one) => /^cases\/\d+\.json$/.test(one));
    const theirs = json(name!) as { card: { number: number; id: string } };
    const card = { ...theirs.card, id, title: 'from elsewhere' };
    const archive = await packed([
      ['workshop.json', made.get('workshop.json')!],
      [`cases/${card.number}.json`, JSON.stringify({ ...theirs, card, entries: [], pictures: [] })],
    ]);
    const done = await tried(archive);
    expect(done.renumbered).toHaveLength(1);
    expect(done.renumbered[0]![0]).toBe(card.number);
    expect(done.renumbered[0]![1]).toBeGreaterThan(card.number);
    expect(importWords(done)).toContain(
      `Case ${card.number} is case ${done.renumbered[0]![1]} here`,
    );
  });
});

describe('files that are not what they should be', () => {
  const head = (): readonly [string, Buffer] => ['workshop.json', made.get('workshop.json')!];
  const card = {
    id: '01890000-0000-7000-8000-0000000000ab',
    number: 9000,
    title: 't',
    unit_model: 'u',
  };
  const aCase = (change: object = {}) =>
    JSON.stringify({
      format: 'hanzai-case',
      version: 1,
      card,
      entries: [],
      pictures: [],
      ...change,
    });
  const entry = {
    id: '01890000-0000-7000-8000-0000000000ac',
    case_id: card.id,
    kind: 'finding',
    body: {},
    made_at: 'now',
  };

  it.each<[string, () => readonly (readonly [string, string | Buffer])[], RegExp]>([
    ['nothing in it', () => [], /no file in it/],
    ['no head', () => [['cases/1.json', aCase()]], /the first file is cases\/1\.json/],
    ['a head of another program', () => [['workshop.json', '{"format":"other"}']], /workshop\.json: format/],
    ['a head of a newer version', () => [['workshop.json', head()[1].toString().replace('"version": 1', '"version": 2')]], /workshop\.json: version/],
    ['half a file', () => [head(), ['cases/1.json', aCase().slice(0, 40)]], /cases\/1\.json is not JSON/],
    ['a case that is none', () => [head(), ['cases/1.json', '{}']], /cases\/1\.json: format/],
    ['an entry of another case', () => [head(), ['cases/1.json', aCase({ entries: [{ ...entry, case_id: entry.id }] })]], /is of another case/],
    ['a row that is not of its type', () => [head(), ['cases/1.json', aCase({ card: { ...card, number: 'many' } })]], /card\.number: /],
    ['a row without what it has to have', () => [head(), ['cases/1.json', aCase({ card: { ...card, title: null } })]], /cannot be kept/],
    ['a row that speaks of what is not here', () => [head(), ['cases/1.json', aCase({ card: { ...card, board_id: entry.id } })]], /cannot be kept/],
    ['half a character', () => [head(), ['cases/1.json', aCase({ card: { ...card, title: 'a\u0000b' } })]], /cannot be kept/],
    ['a board that nobody spoke of', () => [head(), [`boards/${card.id}.json`, '{}']], /not spoken of/],
    ['a picture that nobody spoke of', () => [head(), [`pictures/${card.id}.jpg`, 'x']], /not spoken of/],
    ['a picture that is none', () => [head(), ['cases/1.json', aCase({ pictures: [{ id: entry.id, case_id: card.id }] })], [`pictures/${entry.id}.jpg`, '<svg/>']], /is no picture/],
    ['a picture that never came', () => [head(), ['cases/1.json', aCase({ pictures: [{ id: entry.id, case_id: card.id }] })]], /did not come/],
  ])('%s is refused in words, and nothing is changed', async (_, files, why) => {
    const before = await marks(other);
    const archive = await packed(files());
    await expect(tried(archive)).rejects.toThrow(why);
    const name = join(folder, 'bad.tar.gz');
    writeFileSync(name, archive);
    await expect(importWorkshop(at(other), name)).rejects.toThrow(why);
    expect(await marks(other)).toEqual(before);
  }); // prettier-ignore
  it('cut off anywhere, it is refused', async () => {
    const whole = await packed([head(), ['cases/9000.json', aCase()]]);
    await expect(tried(whole)).resolves.toMatchObject({ added: { repair_case: 1 } });
    for (const share of [0.1, 0.5, 0.9])
      await expect(tried(whole.subarray(0, whole.length * share))).rejects.toThrow(Unreadable);
    await expect(tried(Buffer.from('not an archive'))).rejects.toThrow(/cannot be unpacked/);
  });
  it(
    'whatever is in it, it is taken or refused in words',
    async () => {
      const value = fc.oneof(fc.jsonValue(), fc.constantFrom(card.id, 9000, null, '', [], {}));
      const files = fc.array(
      fc.tuple(
        fc.constantFrom('cases/9000.json', 'boards/list.json', 'boards/pictures.json', 'instrument.json', 'stock_lot.json', `boards/${card.id}.json`, '../../etc/passwd', 'stock_move.json'),
        fc.oneof(
          fc.json(),
          fc.record({ format: fc.constant('hanzai-case'), version: fc.constant(1), card: fc.record({ id: value, number: value, title: value, unit_model: value, board_id: value }, { requiredKeys: [] }), entries: fc.constant([]), pictures: fc.constant([]) }).map((one) => JSON.stringify(one)),
          fc.array(fc.record({ id: value, case_id: value, lot_id: value, text: value, quantity: value, kind: value })).map((one) => JSON.stringify(one)),
        ),
      ),
      { maxLength: 4 },
    ); // prettier-ignore
      const before = await marks(other);
      await fc.assert(
        fc.asyncProperty(files, async (some) => {
          const archive = await packed([head(), ...some]);
          await tried(archive).catch((error: Error) => {
            if (!(error instanceof Unreadable)) throw error;
          });
        }),
        { numRuns: Number(process.env.FUZZ_RUNS ?? 300) },
      );
      expect(await marks(other)).toEqual(before);
    },
    60_000 + 300 * Number(process.env.FUZZ_RUNS ?? 300),
  );
  it('an export that fails leaves no file', async () => {
    const name = join(folder, 'none.tar.gz');
    await expect(exportWorkshop(at(`${own}_missing`), name)).rejects.toThrow();
    expect(existsSync(name) || existsSync(`${name}.part`)).toBe(false);
  });
});
