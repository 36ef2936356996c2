import { readBoardFile } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { boardVersion, findBoard, listBoards, listVersions } from '../src/server/board/repository';
import { boardChoices, exportBoard, importBoard, previewBoard } from '../src/server/board/service';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { closePools } from '../src/server/reckoning/pool';

const base = new URL(process.env.DATABASE_URL!);
const url = Object.assign(new URL(base), { pathname: `/hanzai_sheets_${process.pid}` }).href;
const { db, pool } = openDatabase(url);

beforeAll(() => prepareDatabase(url));
afterAll(() => Promise.all([pool.end(), closePools()]));

const sheet = (...lines: string[]): string =>
  ['title Loom lamp', 'V1 VCC 0 5V', ...lines].join('\n');

describe('versions of a sheet', () => {
  it('follow each other, each with what is different, and lists show the newest', async () => {
    const first = await importBoard(db, 'lamp.sheet', sheet('R9 VCC 0 4k7'));
    if (!first.ok) throw new Error('not stored');
    const second = await importBoard(
      db,
      'lamp.sheet',
      sheet('R9 VCC 0 10k', 'C1 VCC 0 1u'),
      first.id,
    );
    expect(second).toMatchObject({
      ok: true,
      version: 2,
      changes: ['C1 is new', 'R9 was 4k7, is 10k'],
    });
    const id = second.ok ? second.id : '';
    const listed = (await listBoards(db)).filter(({ title }) => title === 'Loom lamp');
    expect(listed).toMatchObject([{ id, version: 2 }]);
    expect((await boardChoices(db)).filter(({ title }) => title === 'Loom lamp')).toHaveLength(1);
    const versions = await listVersions(db, first.id);
    expect(versions.map(({ version }) => version)).toEqual([2, 1]);
    expect(await listVersions(db, id)).toEqual(versions);
    // The older one is there as it was, for the cases that were worked on it.
    const [, part] = (await findBoard(db, first.id))!.content.parts;
    expect(part).toMatchObject({ ref: 'R9', resistanceOhm: 4700 });
    expect(await boardVersion(db, first.id)).toMatchObject({ version: 1, newest: false });
  });

  it('are not made of one that is no longer the newest, nor twice at once', async () => {
    const first = await importBoard(db, 'a.sheet', sheet('R1 VCC 0 1k'));
    if (!first.ok) throw new Error('not stored');
    const both = await Promise.all(
      ['2k', '3k'].map((value) => importBoard(db, 'a.sheet', sheet(`R1 VCC 0 ${value}`), first.id)),
    );
    expect(both.filter(({ ok }) => ok)).toHaveLength(1);
    expect(both.find(({ ok }) => !ok)).toMatchObject({
      stale: expect.stringContaining('newer version'),
    });
    expect(await importBoard(db, 'a.sheet', sheet('R1 VCC 0 4k'), first.id)).toMatchObject({
      stale: expect.stringContaining('newer version'),
    });
    expect(await importBoard(db, 'a.sheet', sheet('R1 VCC 0 4k'), v7())).toMatchObject({
      stale: expect.stringContaining('not here'),
    });
    expect(await listVersions(db, v7())).toEqual([]);
  });

  it('are looked at before anything is stored', async () => {
    const before = (await listBoards(db)).length;
    const seen = await previewBoard('pins.csv', 'net,ref,pin\nA,R1,1\nGND,R1,2\nA,X9,4\n');
    expect(seen).toMatchObject({ ok: true, parts: 2 });
    expect(seen.ok && seen.report.find(({ ref }) => ref === 'X9')?.became).toBe('box');
    expect(await previewBoard('bad.net', 'nothing')).toMatchObject({ ok: false });
    expect((await listBoards(db)).length).toBe(before);
  });

  it('are taken out as bench sheets that are read as the same board, and never as what is only read', async () => {
    const stored = await importBoard(db, 'b.sheet', sheet('R1 VCC 0 1k # bench', 'edge VCC'));
    if (!stored.ok) throw new Error('not stored');
    const file = await exportBoard(db, stored.id, 'sheet');
    const again = readBoardFile('b.sheet', file!.text, LIBRARY);
    expect(again.ok && again.value).toEqual((await findBoard(db, stored.id))!.content);
    expect(await exportBoard(db, stored.id, 'net')).toBeUndefined();
    expect(await exportBoard(db, stored.id, 'exe')).toBeUndefined();
  });
});
