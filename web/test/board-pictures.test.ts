import { demoPicture } from '@hanzai/data/demo';
import type { APIContext, APIRoute } from 'astro';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  addBoardPicture,
  boardPictureKept,
  listBoardPictures,
  tieBoardPicture,
} from '../src/server/board/pictures';
import { importBoard } from '../src/server/board/service';
import { listBoards } from '../src/server/board/repository';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import * as pictureDoor from '../src/pages/api/board-pictures/[id]';
import * as picturesDoor from '../src/pages/api/boards/[id]/pictures';
import { closePools } from '../src/server/reckoning/pool';

const base = new URL(process.env.DATABASE_URL!);
const url = Object.assign(new URL(base), { pathname: `/hanzai_faces_${process.pid}` }).href;
const { db, pool } = openDatabase(url);

beforeAll(() => prepareDatabase(url, { demo: true }));
afterAll(() => Promise.all([pool.end(), closePools()]));

type Door = (context: APIContext) => Promise<Response>;
const doors = (module: Readonly<Record<string, APIRoute>>) =>
  module as unknown as Readonly<Record<'GET' | 'POST' | 'PATCH', Door>>;
const [picture, pictures] = [doors(pictureDoor), doors(picturesDoor)];
const FACE = demoPicture('face-yc2.jpg');
const sheet = (value: string): string => `title Loom lamp\nV1 VCC 0 5V\nR9 VCC 0 ${value}`;
async function board(value = '1k', of?: string): Promise<string> {
  const stored = await importBoard(db, 'lamp.sheet', sheet(value), of);
  if (!stored.ok) throw new Error('not stored');
  return stored.id;
}
const TIES = [
  { onPicture: [0, 0], onBoard: [0, 0] },
  { onPicture: [1, 0], onBoard: [100, 0] },
  { onPicture: [0, 1], onBoard: [0, 36] },
] as const;

describe('pictures of a board', () => {
  it('are kept once, and shared by all versions of its sheet', async () => {
    const first = await board();
    const id = v7();
    const kept = await addBoardPicture(db, first, { id, side: 'top' }, FACE);
    expect(kept).toMatchObject({ ok: true, value: { id, side: 'top', ties: [] } });
    await addBoardPicture(db, first, { id, side: 'top' }, FACE);
    const second = await board('2k', first);
    expect(await listBoardPictures(db, second)).toEqual(await listBoardPictures(db, first));
    expect(await listBoardPictures(db, second)).toHaveLength(1);
    expect((await boardPictureKept(db, id, true))!.image!.byteLength).toBeLessThan(
      (await boardPictureKept(db, id, false))!.image!.byteLength,
    );
  });
  it('are laid on the board, and stay laid', async () => {
    const of = await board();
    const id = v7();
    await addBoardPicture(db, of, { id, side: 'bottom' }, FACE);
    const ties = TIES.map(({ onPicture, onBoard }) => ({
      onPicture: [...onPicture] as [number, number],
      onBoard: [...onBoard] as [number, number],
    }));
    expect(await tieBoardPicture(db, id, ties)).toBe(true);
    expect((await listBoardPictures(db, of))[0]).toMatchObject({ side: 'bottom', ties });
    expect(await tieBoardPicture(db, v7(), ties)).toBe(false);
  });
  it('are refused where they are none, or of a board that is not here', async () => {
    const of = await board();
    const text = new TextEncoder().encode('no picture at all');
    expect(await addBoardPicture(db, of, { id: v7(), side: 'top' }, text)).toMatchObject({
      ok: false,
      why: 'refused',
    });
    const nowhere = await addBoardPicture(db, v7(), { id: v7(), side: 'top' }, FACE);
    expect(nowhere).toMatchObject({ ok: false, why: 'missing' });
    expect(await listBoardPictures(db, v7())).toEqual([]);
    expect(await boardPictureKept(db, v7(), false)).toBeUndefined();
  });
  it('do not change boards when an id is sent again for another', async () => {
    const [one, other] = [await board(), await board()];
    const id = v7();
    await addBoardPicture(db, one, { id, side: 'top' }, FACE);
    expect(await addBoardPicture(db, other, { id, side: 'top' }, FACE)).toMatchObject({
      ok: false,
    });
    expect(await listBoardPictures(db, other)).toEqual([]);
  });
});

describe('the demo workshop', () => {
  it('has a picture laid on every board with an outline, and a sheet that grew', async () => {
    const boards = await listBoards(db);
    const demo = boards.filter(({ sourceName }) => !sourceName.startsWith('lamp'));
    expect(demo.length).toBeGreaterThan(8);
    for (const { id, title } of demo) {
      const [face] = await listBoardPictures(db, id);
      expect(face?.ties, title).toHaveLength(3);
    }
    expect(boards.find(({ title }) => title.startsWith('TL9-BOX'))?.version).toBe(2);
  });
});

describe('the doors of pictures', () => {
  // Doors ask the database of the environment.
  beforeAll(() => prepareDatabase(process.env.DATABASE_URL!));
  const request = (method: string, body?: BodyInit, type = 'application/json') =>
    new Request('http://127.0.0.1/x', {
      method,
      ...(body === undefined ? {} : { body, headers: { 'content-type': type } }),
    });
  const context = (id: string, asked: Request, query = '') =>
    ({
      params: { id },
      request: asked,
      url: new URL(`http://127.0.0.1/x${query}`),
    }) as unknown as APIContext;
  it('say what is wrong with an id, a side, a file or its points', async () => {
    expect((await pictures.POST(context('rubbish', request('POST')))).status).toBe(404);
    const nobody = v7();
    const sideways = context(nobody, request('POST', 'x', 'image/png'), `?id=${v7()}&side=left`);
    expect((await pictures.POST(sideways)).status).toBe(422);
    expect((await picture.GET(context('rubbish', request('GET')))).status).toBe(404);
    expect((await picture.GET(context(nobody, request('GET')))).status).toBe(404);
    for (const ties of [
      'none',
      [{ onPicture: [2, 0], onBoard: [0, 0] }],
      [{ onPicture: [0, 0], onBoard: [0, 1e9] }],
      [{ onPicture: [0], onBoard: [0, 0] }],
      Array.from({ length: 41 }, () => ({ onPicture: [0, 0], onBoard: [0, 0] })),
    ]) {
      const asked = request('PATCH', JSON.stringify({ ties }));
      expect((await picture.PATCH(context(nobody, asked))).status).toBe(422);
    }
    const fair = request('PATCH', JSON.stringify({ ties: TIES }));
    expect((await picture.PATCH(context(nobody, fair))).status).toBe(404);
  });
});
