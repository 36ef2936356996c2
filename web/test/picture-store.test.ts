import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { demoPicture } from '@hanzai/data/demo';
import { v7 } from 'uuid';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { openCase } from '../src/server/case/service';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { exportWorkshop } from '../src/server/open-files/open-files-command';
import { open, pictureAnswer, wholeOf } from '../src/server/picture/kept';
import { findPicture } from '../src/server/picture/repository';
import { addPicture } from '../src/server/picture/service';
import {
  Away,
  folderStore,
  objectStore,
  storeAt,
  type PictureStore,
} from '../src/server/picture/store';
import { failure } from '../src/server/problem';
import { unpack } from './archives';
import { ask, at } from './databases';
import { startObjectStore, STORE_KEY } from './object-store';

// Pictures that lie outside of the database: in a folder, and in a store that speaks S3.

const own = `picture_store_${process.pid}`;
const folder = mkdtempSync(join(tmpdir(), 'pictures-'));
const { db, pool } = openDatabase(at(own));
let remote: Awaited<ReturnType<typeof startObjectStore>>;
let caseId: string;
const FACE = demoPicture('face-yc2.jpg');

beforeAll(async () => {
  await ask(at('postgres'), `drop database if exists "${own}"`);
  await prepareDatabase(at(own));
  const opened = await openCase(db, { title: 'x', unitModel: 'loom lamp' } as never);
  caseId =
    (opened as { value: { id: string } }).value?.id ?? (opened as unknown as { id: string }).id;
  remote = await startObjectStore();
  for (const [name, value] of [
    ['AWS_ACCESS_KEY_ID', STORE_KEY.id],
    ['AWS_SECRET_ACCESS_KEY', STORE_KEY.secret],
    ['AWS_REGION', 'bench-1'],
    ['HANZAI_S3_ENDPOINT', remote.endpoint],
  ] as const)
    vi.stubEnv(name, value);
});
afterEach(() => void (remote.state.away = false));
afterAll(async () => {
  vi.unstubAllEnvs();
  await pool.end();
  await remote.stop();
  await ask(at('postgres'), `drop database "${own}"`);
  rmSync(folder, { recursive: true });
});

const STORES: readonly (readonly [string, () => PictureStore, () => string])[] = [
  ['a folder', () => folderStore(folder), () => pathToFileURL(folder).href],
  ['a store that speaks S3', () => objectStore('s3://bench/pictures'), () => 's3://bench/pictures'],
];
const all = async (chunks: AsyncIterable<unknown>): Promise<Buffer> => {
  const read: Buffer[] = [];
  for await (const chunk of chunks) read.push(chunk as Buffer);
  return Buffer.concat(read);
};

describe.each(STORES)('%s', (_, store, address) => {
  it('gives back what it was given, and the same key again is the same picture', async () => {
    const bytes = Buffer.alloc(700_000, 'light and shade ');
    await store().put('w/a.jpg', bytes);
    await store().put('w/a.jpg', bytes);
    expect((await all(await store().get('w/a.jpg'))).equals(bytes)).toBe(true);
  });
  it('says that it is away where it has nothing of that name', async () => {
    await expect(store().get('w/none.jpg')).rejects.toThrow(Away);
  });
  it('keeps pictures of cases: no bytes in the row, the same to whoever looks', async () => {
    vi.stubEnv('HANZAI_PICTURES', '');
    const inside = v7();
    await addPicture(db, caseId, inside, FACE);
    vi.stubEnv('HANZAI_PICTURES', address());
    const outside = v7();
    expect(await addPicture(db, caseId, outside, FACE)).toMatchObject({ ok: true });
    const [one, two] = [(await findPicture(db, inside))!, (await findPicture(db, outside))!];
    expect(one).toMatchObject({ keptAt: null });
    expect(two.image).toBeNull();
    expect(two.keptAt).toMatch(/^[0-9a-f-]{36}\/[0-9a-f-]{36}\.jpg$/);
    const answer = await pictureAnswer(two, {});
    expect(Buffer.from(await answer.arrayBuffer()).equals(one.image!)).toBe(true);
    // Small ones stay beside the case; those of before the store stay where they are.
    expect(two.thumbnail.equals(one.thumbnail)).toBe(true);
    expect((await wholeOf(one)).equals(one.image!)).toBe(true);
  });
});

describe('a store that is away', () => {
  it('takes no picture: the answer is for later, and nothing is half there', async () => {
    vi.stubEnv('HANZAI_PICTURES', 's3://bench/pictures');
    remote.state.away = true;
    const id = v7();
    const failed = await addPicture(db, caseId, id, FACE).catch((error: Error) => error);
    expect(failed).toBeInstanceOf(Away);
    const answer = await failure(failed as Away & { cause?: Error });
    expect(answer.status).toBe(503);
    expect(await answer.text()).toMatch(/store of pictures took nothing/);
    expect(await findPicture(db, id)).toBeUndefined();
    remote.state.away = false;
    expect(await addPicture(db, caseId, id, FACE)).toMatchObject({ ok: true });
  });
  it('that is set nowhere is said so', async () => {
    vi.stubEnv('HANZAI_PICTURES', '');
    await expect(open({ image: null, keptAt: 'w/a.jpg' })).rejects.toThrow(/HANZAI_PICTURES/);
  });
  it('whose secret is another takes nothing', async () => {
    vi.stubEnv('AWS_SECRET_ACCESS_KEY', 'a wrong one');
    const before = remote.state.refused;
    await expect(objectStore('s3://bench').put('w/b.jpg', Buffer.from('x'))).rejects.toThrow(Away);
    expect(remote.state.refused).toBeGreaterThan(before);
    vi.stubEnv('AWS_SECRET_ACCESS_KEY', STORE_KEY.secret);
  });
  it('that cannot be written, too', async () => {
    const blocked = join(folder, 'blocked');
    writeFileSync(blocked, 'a file where a folder should be');
    await expect(folderStore(blocked).put('w/a.jpg', Buffer.from('x'))).rejects.toThrow(Away);
  });
});

describe('keys and addresses', () => {
  it.each(['../a.jpg', '/etc/passwd', 'w/../../a.jpg', 'a', 'w/.jpg', 'w\\a.jpg', 'w/a.jpg\0'])(
    '%j leads nowhere',
    async (key) => {
      await expect(folderStore(folder).get(key)).rejects.toThrow();
      await expect(folderStore(folder).put(key, Buffer.from('x'))).rejects.toThrow();
    },
  );
  it.each(['ftp://x/y', 'pictures', '/srv/pictures'])('%s is no store', (url) => {
    expect(() => storeAt(url)).toThrow(/expected s3:\/\/BUCKET or file:\/\/\/FOLDER/);
  });
  it('nothing half written has the name of a picture', () => {
    expect(readdirSync(join(folder, 'w'))).toEqual(['a.jpg']);
  });
});

it('open files hold the pictures of both', async () => {
  vi.stubEnv('HANZAI_PICTURES', 's3://bench/pictures');
  const file = join(folder, 'workshop.tar.gz');
  const { rows } = await ask(
    at(own),
    `select id from case_picture where kept_at like '%' order by id`,
  );
  const pictures = rows.map(({ id }) => id as string);
  // Those in the folder are not in this store: an archive that lacks one is no whole archive.
  await expect(exportWorkshop(at(own), file)).rejects.toThrow(Away);
  for (const id of pictures) {
    const row = (await findPicture(db, id))!;
    const path = join(folder, row.keptAt!);
    if (!remote.objects.has(`/bench/pictures/${row.keptAt}`))
      remote.objects.set(`/bench/pictures/${row.keptAt}`, readFileSync(path));
  }
  await exportWorkshop(at(own), file);
  const names = [...(await unpack(file)).keys()];
  for (const id of pictures) expect(names).toContain(`pictures/${id}.jpg`);
});
