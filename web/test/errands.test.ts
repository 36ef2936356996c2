import { Readable } from 'node:stream';
import { v7 } from 'uuid';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { openCase } from '../src/server/case/service';
import { openDatabase, type Database } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { errand } from '../src/server/db/schema/errand';
import { evenly, fileOf, keepFile } from '../src/server/errands/pieces';
import { ERRANDS } from '../src/server/errands/queue';
import {
  arrived,
  doErrand,
  endErrand,
  isBusy,
  listErrands,
  startErrands,
  takeUpLost,
} from '../src/server/errands/work';
import type { ErrandKind } from '../src/workshop/errands';
import { ask, at } from './databases';

// Work too long for a request: done once, by whichever process is there, whatever dies meanwhile.

const [own, theirs] = [`errands_${process.pid}`, `errands_other_${process.pid}`];
const role = `errands_app_${process.pid}`;
const asRole = (name: string): string =>
  Object.assign(new URL(at(name)), { username: role, password: 'x' }).href;
let [db, pool]: [Database, pg.Pool] = [undefined as never, undefined as never];
let close: () => Promise<unknown>;
let archive: Buffer;

beforeAll(async () => {
  const opened: ReturnType<typeof openDatabase>[] = [];
  for (const name of [own, theirs]) {
    await ask(at('postgres'), `drop database if exists "${name}"`);
    // As the application, with its rights and no more.
    await prepareDatabase(at(name), { demo: false, applicationUrl: asRole(name) });
    opened.push(openDatabase(asRole(name)));
  }
  ({ db, pool } = opened[0]!);
  close = () => Promise.all(opened.map((one) => one.pool.end()));
  const other = opened[1]!;
  for (let i = 0; i < 3; i += 1)
    await openCase(other.db, { title: `case ${i}`, unitModel: 'loom lamp' } as never);
  const id = await wanted('archive', other.db);
  await doErrand(other.db, asRole(theirs), id);
  archive = Buffer.concat(await collect(fileOf(other.db, id)));
});
afterAll(async () => {
  await close();
  for (const name of [own, theirs]) {
    await ask(at(name), `drop owned by "${role}"`);
    await ask(at('postgres'), `drop database "${name}"`);
  }
  await ask(at('postgres'), `drop role "${role}"`);
});

async function collect(chunks: AsyncIterable<Buffer>): Promise<Buffer[]> {
  const all: Buffer[] = [];
  for await (const chunk of chunks) all.push(chunk);
  return all;
}
async function wanted(what: ErrandKind, into = db, state = 'waiting'): Promise<string> {
  const id = v7();
  await into.insert(errand).values({ id, what, state, name: 'x.tar.gz', askedBy: 'Mara Voss' });
  return id;
}
/** An archive to be taken in, as it was sent. */
async function sent(bytes: Buffer): Promise<string> {
  const id = await wanted('take-in', db, 'coming');
  await keepFile(db, id, Readable.from([bytes]));
  expect(await arrived(db, id, 'waiting')).toBe(true);
  return id;
}
const state = async (id: string) => (await listErrands(db)).find((one) => one.id === id);
const cases = async (): Promise<number> =>
  Number((await ask(at(own), 'select count(*) as n from repair_case')).rows[0].n);

describe('a file in pieces', () => {
  it.each([
    [[], []],
    [[3], [3]],
    [[8], [8]],
    [
      [5, 5, 5],
      [8, 7],
    ],
    [[20], [8, 8, 4]],
    [
      [1, 1, 1, 1, 1, 1, 1, 1, 1],
      [8, 1],
    ],
  ])('chunks of %j come as pieces of %j, and none is lost', async (chunks, pieces) => {
    let next = 0;
    const bytes = chunks.map((n) => Uint8Array.from({ length: n }, () => (next += 1)));
    const all = await collect(evenly(Readable.from(bytes), 8));
    expect(all.map(({ length }) => length)).toEqual(pieces);
    expect([...Buffer.concat(all)]).toEqual(Array.from({ length: next }, (_, i) => i + 1));
  });
  it('one of some megabytes comes back as it was; a larger one than is let in is refused', async () => {
    const id = await wanted('archive');
    const whole = Buffer.alloc(3_500_000, 'some words ');
    expect(await keepFile(db, id, Readable.from([whole]))).toBe(whole.length);
    expect(Buffer.concat(await collect(fileOf(db, id))).equals(whole)).toBe(true);
    await expect(keepFile(db, id, Readable.from([whole]), 1e6)).rejects.toThrow(/larger than 1 MB/);
    await endErrand(db, id);
    await endErrand(db, id);
    expect(await collect(fileOf(db, id))).toEqual([]);
  });
});

describe('an errand', () => {
  it('takes a workshop in, says what came, is written down, and is not done twice', async () => {
    const id = await sent(archive);
    expect(await isBusy(db, 'take-in')).toBe(true);
    await Promise.all([1, 2, 3].map(() => doErrand(db, asRole(own), id)));
    expect(await state(id)).toMatchObject({
      state: 'done',
      said: expect.stringMatching(/3 × repair case/),
    });
    expect(await cases()).toBe(3);
    await doErrand(db, asRole(own), id);
    const { rows } = await ask(
      at(own),
      `select who, what from audit_line where what like 'took in%'`,
    );
    expect(rows).toEqual([{ who: 'Mara Voss', what: 'took in x.tar.gz' }]);
    expect(await isBusy(db, 'take-in')).toBe(false);
  });
  it.each([
    ['nothing', Buffer.alloc(0)],
    ['no archive', Buffer.from('a picture, perhaps')],
    ['half of one', 'half'],
  ])('says what is wrong where %s came, and nothing is changed', async (_, bytes) => {
    const before = await cases();
    const id = await sent(
      bytes === 'half' ? archive.subarray(0, archive.length / 2) : (bytes as Buffer),
    );
    await doErrand(db, asRole(own), id);
    expect(await state(id)).toMatchObject({
      state: 'failed',
      said: expect.stringMatching(/^Nothing was changed: .+\.$/),
    });
    expect(await cases()).toBe(before);
  });
  it('that was stopped does nothing, and one that is stopped while it runs leaves nothing', async () => {
    const id = await sent(archive);
    expect(await endErrand(db, id)).toBe(true);
    await doErrand(db, asRole(own), id);
    expect(await state(id)).toMatchObject({ state: 'stopped' });
    const coming = await wanted('take-in', db, 'coming');
    expect(await endErrand(db, coming)).toBe(true);
    expect(await arrived(db, coming, 'waiting')).toBe(false);
    expect(await endErrand(db, coming)).toBe(true);
    expect(await endErrand(db, coming)).toBe(false);
  });
});

describe('the queue', () => {
  it('hands an errand to a process that works, and says so when it is done', async () => {
    const worker = await startErrands(db, pool, asRole(own));
    try {
      const id = await wanted('archive');
      await worker.send(id);
      await vi.waitFor(
        async () => expect(await state(id)).toMatchObject({ state: 'done' }),
        30_000,
      );
      expect((await state(id))!.bytes).toBeGreaterThan(500);
    } finally {
      await worker.stop();
    }
  });
  it('takes up what a process left that died, while what somebody holds stays his', async () => {
    const [lost, held] = [await wanted('archive'), await wanted('archive')];
    const holder = new pg.Client({ connectionString: asRole(own) });
    await holder.connect();
    await holder.query(`select pg_advisory_lock(hashtextextended('errand ' || $1, 0))`, [held]);
    // Two processes took one each; one of them is gone.
    for (const id of [lost, held])
      await ask(
        at(own),
        `insert into jobs.job (name, data, state, retry_limit, started_on)
         values ('${ERRANDS}', '{"errand": "${id}"}', 'active', 5, now())`,
      );
    const boss = {
      fail: vi.fn(async () => undefined),
      send: vi.fn(async () => undefined),
      getJobById: vi.fn(async () => ({ retryCount: 0, retryLimit: 5 })),
    };
    await takeUpLost(db, boss as never, pool, 'jobs');
    const ids = async (errandId: string) =>
      (await ask(at(own), `select id from jobs.job where data->>'errand' = '${errandId}'`)).rows[0]
        .id;
    expect(boss.fail.mock.calls.map((call) => (call as unknown[])[1])).toEqual([await ids(lost)]);
    // The holder dies: its lock goes with its connection.
    await holder.end();
    await takeUpLost(db, boss as never, pool, 'jobs');
    expect(boss.fail.mock.calls.map((call) => (call as unknown[])[1])).toContain(await ids(held));
  });
  it('sends again what never came into it, and says so where all tries failed', async () => {
    const id = await wanted('archive');
    await ask(
      at(own),
      `update errand set asked_at = now() - interval '5 minutes' where id = '${id}'`,
    );
    const boss = {
      fail: vi.fn(),
      send: vi.fn(async () => undefined),
      getJobById: vi.fn(async () => null),
    };
    await takeUpLost(db, boss as never, pool, 'jobs');
    expect(boss.send).toHaveBeenCalledWith(ERRANDS, { errand: id });
    await ask(
      at(own),
      `insert into jobs.job (name, data, state, started_on) values ('${ERRANDS}', '{"errand": "${id}"}', 'active', now())`,
    );
    await takeUpLost(db, boss as never, pool, 'jobs');
    expect(await state(id)).toMatchObject({
      state: 'failed',
      said: expect.stringMatching(/again and again/),
    });
  });
});
