import type { APIRoute } from 'astro';
import { v7 } from 'uuid';
import { beforeAll, describe, expect, it } from 'vitest';
import { POST as importBoard } from '../src/pages/api/boards/index';
import { GET as exportBoard } from '../src/pages/api/boards/[id]/file.[ending]';
import { GET as readCase, PATCH as correctCase } from '../src/pages/api/cases/[id]/index';
import { POST as addEntry } from '../src/pages/api/cases/[id]/entries';
import { POST as openCase } from '../src/pages/api/cases/index';
import { boardChoices } from '../src/server/board/service';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';

beforeAll(() => prepareDatabase(process.env.DATABASE_URL!, { demo: true }));

/** Calls an endpoint as the server does. */
async function call(
  route: APIRoute,
  body: unknown,
  params: Record<string, string> = {},
  type = 'application/json',
): Promise<{ status: number; type: string; json: Record<string, unknown> }> {
  const request = new Request('http://localhost/', {
    method: 'POST',
    headers: { 'content-type': type },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  });
  const response = await route({
    request,
    params,
    locals: {},
  } as unknown as Parameters<APIRoute>[0]);
  return {
    status: response.status,
    type: response.headers.get('content-type') ?? '',
    json: (await response.json()) as Record<string, unknown>,
  };
}

async function openOne(): Promise<string> {
  return String((await call(openCase, { title: 'endpoint case', unitModel: 'lamp' })).json.id);
}

describe('pages of another version', () => {
  const symptom = (more: object = {}, beside: object = {}) => ({
    id: v7(),
    madeAt: new Date().toISOString(),
    body: { kind: 'symptom', text: 'x', ...more },
    ...beside,
  });
  it.each([
    ['a kind that is not known here', { kind: 'foreseen', text: 'x' }, {}, /body/],
    [
      'a field that is not known here',
      { certainty: 0.4 },
      {},
      /^body\.certainty: .*reload the page/,
    ],
    ['something beside what it says', {}, { mood: 'good' }, /^mood: /],
  ])('%s is refused, and not stored without it', async (_, more, beside, words) => {
    const id = await openOne();
    const sent = symptom(more, beside);
    const { status, json } = await call(addEntry, sent, { id });
    expect(status).toBe(422);
    expect(json.detail).toMatch(words);
    const { rows } = await openDatabase(process.env.DATABASE_URL!).pool.query(
      'select 1 from case_entry where id = $1',
      [sent.id],
    );
    expect(rows).toEqual([]);
  });
  it('what is left open, and a moment in other words, is nothing that is lost', async () => {
    const id = await openOne();
    const finding = {
      id: v7(),
      madeAt: '2026-11-29T10:00:00.000Z',
      body: { kind: 'finding', text: 'x' },
    };
    expect((await call(addEntry, finding, { id })).status).toBe(201);
  });
});

describe('bad input is answered with what was expected', () => {
  it.each([
    ['not JSON', openCase, '{', {}, 400],
    ['a missing title', openCase, { unitModel: 'x' }, {}, 422],
    ['an absurd amount', openCase, { title: 'x', unitModel: 'y', spendingLimit: '1e9' }, {}, 422],
    ['a board that is not here', openCase, { title: 'x', unitModel: 'y', boardId: v7() }, {}, 422],
    ['an empty file', importBoard, { fileName: 'x.cir', text: '' }, {}, 422],
    ['an unknown kind of file', importBoard, { fileName: 'x.pdf', text: 'x' }, {}, 422],
    [
      'an entry of no kind',
      addEntry,
      { id: v7(), madeAt: new Date().toISOString(), body: { kind: 'opinion' } },
      { id: v7() },
      422,
    ],
    [
      'an entry for no case',
      addEntry,
      { id: v7(), madeAt: new Date().toISOString(), body: { kind: 'symptom', text: 'x' } },
      { id: v7() },
      404,
    ],
    ['an id that is none', readCase, {}, { id: 'x' }, 404],
    ['a case that is not here', readCase, {}, { id: v7() }, 404],
    ['a board in no format', exportBoard, {}, { id: v7(), ending: 'cir' }, 404],
  ] as const)('%s', async (_, route, body, params, status) => {
    const answer = await call(route as APIRoute, body, { ...params });
    expect(answer.status).toBe(status);
    expect(answer.type).toBe('application/problem+json');
    expect(answer.json).toMatchObject({
      type: 'about:blank',
      status,
      title: expect.any(String),
      detail: expect.any(String),
    });
  });

  it('a form instead of JSON, or a text with U+0000 in it', async () => {
    expect(await call(openCase, 'title=x', {}, 'application/x-www-form-urlencoded')).toMatchObject({
      status: 415,
      type: 'application/problem+json',
    });
    expect(await call(openCase, '{"title":"a\\u0000b","unitModel":"x"}')).toMatchObject({
      status: 422,
      type: 'application/problem+json',
    });
  });

  it('a deck that a reader lets through but the schema does not, and every list of boards still works', async () => {
    const answer = await call(importBoard, {
      fileName: 'x.cir',
      text: 't\nD1 A 0 DM 1e-320\n.model DM D(IS=1e-14)\n.end',
    });
    expect(answer).toMatchObject({ status: 422, type: 'application/problem+json' });
    expect((await boardChoices(openDatabase(process.env.DATABASE_URL!).db)).length).toBeGreaterThan(
      1,
    );
  });

  it('a deck with mistakes comes back with their lines', async () => {
    const answer = await call(importBoard, {
      fileName: 'x.cir',
      text: 't\nR1 A\nXU1 A B WHAT\n.end',
    });
    expect(answer.json.issues).toMatchObject([{ line: 2 }, { line: 3 }]);
  });

  it('an entry is created once and then answered as known', async () => {
    const id = await openOne();
    const entry = {
      id: v7(),
      madeAt: new Date().toISOString(),
      body: { kind: 'symptom', text: 'dark' },
    };
    expect((await call(addEntry, entry, { id })).status).toBe(201);
    expect((await call(addEntry, entry, { id })).status).toBe(200);
  });

  it('a stale correction is a clash', async () => {
    const id = await openOne();
    expect((await call(correctCase, { version: 1, waitsFor: 'a' }, { id })).status).toBe(200);
    expect((await call(correctCase, { version: 1, waitsFor: 'b' }, { id })).status).toBe(409);
  });
});
