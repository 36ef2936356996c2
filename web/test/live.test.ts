import type { APIRoute } from 'astro';
import pg from 'pg';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { NewCaseRequest } from '../src/case/case-card';
import { GET as boardOf, PATCH as changeBoard } from '../src/pages/api/boards/[id]/index';
import { GET as choices, POST as importFile } from '../src/pages/api/boards/index';
import { GET as byNumber } from '../src/pages/api/cases/by-number/[number]';
import { GET as docket } from '../src/pages/api/cases/index';
import { GET as events } from '../src/pages/api/events';
import { addEntry, correctCase, openCase } from '../src/server/case/service';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { follow } from '../src/server/live';
import { closePools } from '../src/server/reckoning/pool';

// What happens in the workshop is told to whoever listens, over lost connections too; and the doors
// through which pages fetch it.

const { db, pool } = openDatabase(process.env.DATABASE_URL!);
beforeAll(() => prepareDatabase(process.env.DATABASE_URL!));
afterAll(() => Promise.all([pool.end(), closePools()]));

async function aCase(): Promise<{ id: string; number: number; symptom: () => Promise<string> }> {
  const opened = await openCase(
    db,
    NewCaseRequest.parse({ title: 'live case', unitModel: 'loom lamp' }),
  );
  if (!opened.ok) throw new Error(opened.detail);
  const { id, number } = opened.value;
  return {
    id,
    number,
    symptom: async () => {
      const entry = v7();
      const madeAt = new Date().toISOString();
      await addEntry(db, id, { id: entry, madeAt, body: { kind: 'symptom', text: 'dark' } });
      return entry;
    },
  };
}

/** Ends every connection that listens, as a database that goes down does. */
async function cutListeners(): Promise<number> {
  const client = new pg.Client({ connectionString: process.env.DATABASE_URL! });
  await client.connect();
  const { rowCount } = await client.query(
    `select pg_terminate_backend(pid) from pg_stat_activity
     where query like 'listen %' and pid <> pg_backend_pid() and datname = current_database()`,
  );
  await client.end();
  return rowCount ?? 0;
}

describe('news', () => {
  let heard: { case: string; entry?: string }[];
  let leave: (() => void)[];
  beforeEach(() => {
    heard = [];
    leave = [];
    return () => leave.forEach((end) => end());
  });
  const listen = (): void =>
    void leave.push(follow((news) => heard.push(JSON.parse(news) as (typeof heard)[number])));
  /** Waits until somebody listens: the first news are not told to who comes later. */
  const listening = (): Promise<void> =>
    vi.waitFor(async () => {
      const { rows } = await pool.query(
        `select count(*)::int as n from pg_stat_activity where query like 'listen "hanzai %' and datname = current_database()`,
      );
      expect((rows[0] as { n: number }).n).toBeGreaterThan(0);
    }, 5000);

  it('tell of each entry once, and of a card that was corrected', async () => {
    const own = await aCase();
    listen();
    await listening();
    const entry = await own.symptom();
    await correctCase(db, own.id, { version: 1, owner: 'x' });
    await vi.waitFor(() => expect(heard).toHaveLength(2), 3000);
    expect(heard).toEqual([{ case: own.id, entry }, { case: own.id }]);
  });

  it('of an entry that a rule refused are none', async () => {
    const own = await aCase();
    listen();
    await listening();
    const madeAt = new Date().toISOString();
    const refused = await addEntry(db, own.id, { id: v7(), madeAt, body: { kind: 'reopen' } });
    expect(refused.ok).toBe(false);
    const entry = await own.symptom();
    await vi.waitFor(() => expect(heard).toEqual([{ case: own.id, entry }]), 3000);
  });

  it('come again by themselves after the connection was cut', async () => {
    const own = await aCase();
    listen();
    await listening();
    expect(await cutListeners()).toBeGreaterThan(0);
    await listening();
    const entry = await own.symptom();
    await vi.waitFor(() => expect(heard).toContainEqual({ case: own.id, entry }), 5000);
  });

  it('go to everyone who listens, and to nobody who has left', async () => {
    const own = await aCase();
    const other: string[] = [];
    listen();
    const end = follow((news) => other.push(news));
    await listening();
    await own.symptom();
    await vi.waitFor(() => expect([heard.length, other.length]).toEqual([1, 1]), 3000);
    end();
    await own.symptom();
    await vi.waitFor(() => expect(heard).toHaveLength(2), 3000);
    expect(other).toHaveLength(1);
  });

  it('reach a page as server-sent events, until it goes', async () => {
    const own = await aCase();
    const leaving = new AbortController();
    const request = new Request('http://localhost/api/events', { signal: leaving.signal });
    const response = (await events({ request } as Parameters<APIRoute>[0])) as Response;
    expect(response.headers.get('content-type')).toBe('text/event-stream');
    const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader();
    expect((await reader.read()).value).toMatch(/^retry: \d+\n\n$/);
    await listening();
    const entry = await own.symptom();
    const { value } = await reader.read();
    expect(value).toMatch(/^data: .*\n\n$/);
    expect(JSON.parse(value!.slice(6))).toEqual({ case: own.id, entry });
    leaving.abort();
    await reader.cancel();
  });
});

describe('the doors through which pages fetch', () => {
  const at = (path: string, params: Record<string, string> = {}, body?: unknown) =>
    ({
      params,
      url: new URL(path, 'http://localhost'),
      request: new Request(new URL(path, 'http://localhost'), {
        ...(body === undefined
          ? {}
          : {
              method: 'POST',
              headers: { 'content-type': 'application/json' },
              body: JSON.stringify(body),
            }),
      }),
    }) as unknown as Parameters<APIRoute>[0];
  const read = async (response: Response | Promise<Response>) => {
    const got = await response;
    return { status: got.status, json: (await got.json()) as Record<string, unknown> };
  };

  it('give a case by its number, and say where there is none', async () => {
    const { number, id } = await aCase();
    const found = await read(byNumber(at('/x', { number: String(number) })));
    expect(found).toMatchObject({ status: 200, json: { id, number, boardId: null } });
    expect(found.json).not.toHaveProperty('board');
    for (const none of ['0', '999999999', '1e3', '-1', 'abc', ''])
      expect((await read(byNumber(at('/x', { number: none })))).status, none).toBe(404);
  });

  it('give a page of the docket, and refuse what is none', async () => {
    await aCase();
    const page = await read(docket(at('/api/cases?find=live&most=3')));
    expect(page.status).toBe(200);
    expect(page.json.lines).toHaveLength(3);
    for (const bad of ['most=0', 'most=501', 'from=-1', 'from=x', `find=${'x'.repeat(301)}`])
      expect((await read(docket(at(`/api/cases?${bad}`)))).status, bad).toBe(422);
  });

  it('give a sheet that never changes, and set it aside without taking it from anybody', async () => {
    const made = await read(
      importFile(at('/x', {}, { fileName: 'a.cir', text: 'own\nV1 A 0 5\nR1 A 0 1k\n.end' })),
    );
    const id = String(made.json.id);
    expect(made.json).toMatchObject({ parts: 1, nets: 2 });
    const sheet = await boardOf(at('/x', { id }));
    expect(sheet.headers.get('cache-control')).toContain('immutable');
    const offered = async () =>
      ((await (await choices(at('/x'))).json()) as { id: string }[]).some((one) => one.id === id);
    expect(await offered()).toBe(true);
    expect(await read(changeBoard(at('/x', { id }, { archived: true })))).toMatchObject({
      status: 200,
    });
    expect(await offered()).toBe(false);
    expect((await boardOf(at('/x', { id }))).status).toBe(200);
    await changeBoard(at('/x', { id }, { archived: false }));
    expect(await offered()).toBe(true);
    expect((await read(changeBoard(at('/x', { id: v7() }, { archived: true })))).status).toBe(404);
    expect((await read(changeBoard(at('/x', { id }, { archived: 'yes' })))).status).toBe(422);
    expect((await read(boardOf(at('/x', { id: v7() })))).status).toBe(404);
  });

  it('show a board that cannot be read as such, and offer it to nobody', async () => {
    const id = v7();
    await pool.query(
      `insert into board (id, sheet, title, source_name, content) values ($1, $1, 'spoilt', 'x.json', '{}')`,
      [id],
    );
    // A list is made without looking into it; so is the preparation.
    await prepareDatabase(process.env.DATABASE_URL!);
    const offered = (await (await choices(at('/x'))).json()) as { id: string }[];
    expect(offered.some((one) => one.id === id)).toBe(false);
    await pool.query('delete from board where id = $1', [id]);
  });
});
