import { createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { POST as addEntry } from '../src/pages/api/cases/[id]/entries';
import { PATCH as correctCase } from '../src/pages/api/cases/[id]/index';
import { POST as openCase } from '../src/pages/api/cases/index';
import { docketPage } from '../src/server/case/docket';
import { caseView } from '../src/server/case/service';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { pagePolicy } from '../src/server/page-policy';
import { answer, brokenText, failure, readLimited } from '../src/server/problem';

interface Doors {
  proxiesOf: (env: Record<string, string>) => Set<string>;
  guard: (server: unknown, env?: Record<string, string>) => void;
  nameOf: (header: string | undefined) => string | null;
  allowedHosts: (env: Record<string, string>) => Set<string>;
}
const { guard, nameOf, allowedHosts, proxiesOf } = (await import(
  new URL('../doors.mjs', import.meta.url).href
)) as Doors;

/** A server behind the door, and what comes through to it. */
async function behindDoor(env: Record<string, string>) {
  const through: (string | undefined)[] = [];
  const held: (() => void)[] = [];
  const server = createServer((asked, response) => {
    through.push(asked.headers['x-forwarded-for'] as string | undefined);
    if (asked.url === '/slow') held.push(() => response.end('in'));
    else response.end('in');
  });
  guard(server, env);
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  const call = (path: string, headers: Record<string, string> = {}) =>
    fetch(`http://127.0.0.1:${port}${path}`, { headers });
  return { through, held, call, stop: () => server.close() };
}

describe('where a request comes from', () => {
  it('is never what it says of itself', async () => {
    const door = await behindDoor({});
    await door.call('/', { 'x-forwarded-for': '1.2.3.4', forwarded: 'for=1.2.3.4' });
    expect(door.through).toEqual([undefined]);
    door.stop();
  });
  it('is what a proxy of the workshop saw last, whatever stood there before', async () => {
    const door = await behindDoor({ HANZAI_PROXY: '127.0.0.1' });
    await door.call('/', { 'x-forwarded-for': '1.2.3.4, 10.0.0.7' });
    await door.call('/');
    expect(door.through).toEqual(['10.0.0.7', undefined]);
    door.stop();
  });
  it('is not believed of any other proxy', async () => {
    const door = await behindDoor({ HANZAI_PROXY: '10.0.0.1, 10.0.0.2' });
    await door.call('/', { 'x-forwarded-for': '10.0.0.1' });
    expect(door.through).toEqual([undefined]);
    door.stop();
  });
  it('a proxy is the same in the clothes of version 6', () => {
    expect([...proxiesOf({ HANZAI_PROXY: '::ffff:10.0.0.1, ::1,' })]).toEqual(['10.0.0.1', '::1']);
  });
});

describe('many at once', () => {
  it('are told to come again, before anything is done; those at work go on', async () => {
    const door = await behindDoor({ HANZAI_MOST_AT_ONCE: '3' });
    const slow = [1, 2, 3].map(() => door.call('/slow'));
    await vi.waitFor(() => expect(door.held).toHaveLength(3));
    const refused = await door.call('/api/cases');
    expect(refused.status).toBe(429);
    expect(refused.headers.get('retry-after')).toBe('1');
    expect(((await refused.json()) as { detail: string }).detail).toContain('nothing was changed');
    // Whoever opened a page reads words, and the page asks again by itself.
    const page = await door.call('/', { accept: 'text/html,*/*' });
    expect(page.status).toBe(429);
    expect(page.headers.get('refresh')).toBe('2');
    expect(await page.text()).toContain('A moment');
    // Signs of life, live news and the page's own files still come.
    for (const path of ['/api/health', '/api/events', '/_astro/x.js', '/sw.js'])
      expect((await door.call(path)).status, path).toBe(200);
    for (const go of door.held) go();
    expect((await Promise.all(slow)).map(({ status }) => status)).toEqual([200, 200, 200]);
    await vi.waitFor(async () => expect((await door.call('/api/cases')).status).toBe(200));
    door.stop();
  });
  it('one that goes away makes room for another', async () => {
    const door = await behindDoor({ HANZAI_MOST_AT_ONCE: '1' });
    const gone = new AbortController();
    const { port } = new URL((await door.call('/')).url);
    const slow = fetch(`http://127.0.0.1:${port}/slow`, { signal: gone.signal }).catch(() => 0);
    await vi.waitFor(() => expect(door.held).toHaveLength(1));
    expect((await door.call('/')).status).toBe(429);
    gone.abort();
    await slow;
    await vi.waitFor(async () => expect((await door.call('/')).status).toBe(200));
    door.stop();
  });
});

describe('the door', () => {
  const inside: string[] = [];
  const server = createServer((asked, response) => {
    inside.push(asked.headers.host ?? '');
    response.end('in');
  });
  beforeAll(async () => {
    guard(server, {});
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  });
  afterAll(() => new Promise((resolve) => server.close(resolve)));
  const call = (host: string): Promise<{ status: number; headers: Record<string, unknown> }> =>
    new Promise((resolve, reject) => {
      const asked = request(
        {
          port: (server.address() as AddressInfo).port,
          host: '127.0.0.1',
          headers: { host },
          setHost: false,
        },
        (response) => {
          response.resume();
          response.on('end', () =>
            resolve({ status: response.statusCode!, headers: response.headers }),
          );
        },
      );
      asked.on('error', reject);
      asked.end();
    });

  it.each(['127.0.0.1:4711', 'localhost', 'LOCALHOST:80', '[::1]:4711'])(
    'lets %s in',
    async (host) => {
      expect((await call(host)).status).toBe(200);
    },
  );
  it.each([
    'evil.example',
    '127.0.0.1.evil.example:4711',
    'localhost.evil.example',
    '127.0.0.1@evil.example',
    '192.168.0.9:4711',
    'localhost:4711:4711',
  ])('turns %s away before anything runs', async (host) => {
    const before = inside.length;
    const { status, headers } = await call(host);
    expect(status === 421 || status === 400).toBe(true);
    expect(inside.length).toBe(before);
    if (status === 421) expect(headers['content-type']).toBe('application/problem+json');
  });
  it('puts its headers on every answer', async () => {
    for (const host of ['localhost', 'evil.example'])
      expect((await call(host)).headers).toMatchObject({
        'x-content-type-options': 'nosniff',
        'x-frame-options': 'DENY',
        'referrer-policy': 'same-origin',
      });
  });
  it('knows further names only where the network was let in on purpose', () => {
    expect(allowedHosts({ HANZAI_HOSTS: 'bench.lan' }).has('bench.lan')).toBe(false);
    expect(
      allowedHosts({ HANZAI_ALLOW_NETWORK: '1', HANZAI_HOSTS: 'bench.lan, Other.LAN' }),
    ).toEqual(expect.objectContaining({ size: expect.any(Number) }));
    expect(
      allowedHosts({ HANZAI_ALLOW_NETWORK: '1', HANZAI_HOSTS: 'bench.lan, Other.LAN' }).has(
        'other.lan',
      ),
    ).toBe(true);
    expect(nameOf(undefined)).toBeNull();
    expect(nameOf('')).toBeNull();
  });
});

describe('what a page may run', () => {
  it('is its own files and the very scripts that it came with', () => {
    const policy = pagePolicy(
      '<script>a()</script><script type="module" src="/x.js"></script><script>a()</script><SCRIPT>no</SCRIPT>',
    );
    expect(policy.match(/'sha256-/g)).toHaveLength(1);
    expect(policy).toContain("frame-ancestors 'none'");
    expect(policy).not.toMatch(/script-src[^;]*unsafe/);
  });
});

describe('a body', () => {
  /** A body that comes in pieces of a thousand bytes, with no length said. */
  const chunked = (bytes: number): Request => {
    let left = bytes;
    const body = new ReadableStream<Uint8Array>({
      pull(controller) {
        if (left <= 0) return controller.close();
        controller.enqueue(new Uint8Array(Math.min(left, 1000)));
        left -= 1000;
      },
    });
    return new Request('http://localhost/', {
      method: 'POST',
      duplex: 'half',
      body,
    } as RequestInit);
  };
  it('is no larger than allowed, whatever its headers say', async () => {
    expect(await readLimited(chunked(5000), 4999)).toBeUndefined();
    expect((await readLimited(chunked(5000), 5000))!.byteLength).toBe(5000);
    expect((await readLimited(new Request('http://localhost/'), 10))!.byteLength).toBe(0);
  });
  it('holds whole characters', () => {
    expect(brokenText({ a: ['fine 😀', { text: '😀'.slice(0, 1) }] })).toBe('a.1.text');
    expect(brokenText({ text: '😀'.slice(1) })).toBe('text');
    expect(brokenText({ ['😀'.slice(1)]: 1 })).toBe('');
    expect(brokenText({ a: '😀', b: null, c: [1, true, 'ü'] })).toBeUndefined();
  });
});

describe('failures are told apart', () => {
  const withCode = (code: string): Parameters<typeof failure>[0] => ({
    name: 'Error',
    message: 'Failed query: insert … params: secret',
    cause: { name: 'Error', message: 'x', code },
  });
  it.each([
    ['22P05', 422],
    ['22008', 422],
    ['23505', 422],
    ['53100', 507],
    ['53300', 503],
    ['57P01', 503],
    ['08006', 503],
    ['ECONNREFUSED', 503],
    ['42P01', 500],
    ['XX000', 500],
  ])('%s is answered with %i, and with nothing of the query', async (code, status) => {
    const response = await failure(withCode(code));
    expect(response.status).toBe(status);
    expect(await response.text()).not.toMatch(/secret|params|insert/);
  });
  it('a mistake of ours has the number under which it stands in the log', async () => {
    const response = await answer(async () => {
      throw new TypeError('x is undefined');
    });
    expect(response.status).toBe(500);
    expect(((await response.json()) as { number: string }).number).toMatch(/^[0-9a-f]{8}$/);
  });
  it('a lost connection is the database, not a mistake', async () => {
    expect(
      (await failure({ name: 'Error', message: 'Connection terminated unexpectedly' })).status,
    ).toBe(503);
  });
});

describe('data that cannot be stored', () => {
  beforeAll(() => prepareDatabase(process.env.DATABASE_URL!));
  const call = async (
    route: unknown,
    body: unknown,
    params: Record<string, string> = {},
  ): Promise<{ status: number; detail: string; id: string }> => {
    const asked = new Request('http://localhost/', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });
    const response = await (route as (context: unknown) => Promise<Response>)({
      request: asked,
      params,
      locals: {},
    });
    const { detail = '', id = '' } = (await response.json()) as { detail?: string; id?: string };
    return { status: response.status, detail, id };
  };
  it('is refused for good, with its place', async () => {
    const { id } = await call(openCase, { title: 'doors', unitModel: 'lamp' });
    const entry = (text: string, madeAt = new Date().toISOString()) => ({
      id: v7(),
      madeAt,
      body: { kind: 'symptom', text },
    });
    expect(await call(addEntry, entry('half 😀'.slice(0, -1)), { id })).toMatchObject({
      status: 422,
      detail: expect.stringContaining('body.text'),
    });
    for (const madeAt of ['0000-01-01T00:00:00Z', '1899-12-31T23:59:59Z', '9999-12-31T23:59:59Z'])
      expect(await call(addEntry, entry('x', madeAt), { id })).toMatchObject({
        status: 422,
        detail: expect.stringContaining('madeAt'),
      });
    expect(
      await call(correctCase, { version: 3_000_000_000, waitsFor: 'x' }, { id }),
    ).toMatchObject({
      status: 422,
      detail: expect.stringContaining('version'),
    });
  });
  it('the same entry again is the same; another under its id is a clash, in this case or another', async () => {
    const [{ id }, other] = [
      await call(openCase, { title: 'one', unitModel: 'lamp' }),
      await call(openCase, { title: 'two', unitModel: 'lamp' }),
    ];
    const entry = {
      id: v7(),
      madeAt: '2026-11-27T12:00:00.000Z',
      body: { kind: 'symptom', text: 'dead' },
    };
    expect((await call(addEntry, entry, { id })).status).toBe(201);
    expect(
      (await call(addEntry, { ...entry, madeAt: '2026-11-27T13:00:00.000+01:00' }, { id })).status,
    ).toBe(200);
    expect(
      (await call(addEntry, { ...entry, body: { kind: 'symptom', text: 'alive' } }, { id })).status,
    ).toBe(409);
    expect((await call(addEntry, entry, { id: other.id })).status).toBe(409);
  });
  it('the journal takes nothing back, whoever asks; one entry that cannot be read takes nothing else down', async () => {
    const { id } = await call(openCase, { title: 'kept', unitModel: 'lamp' });
    await call(
      addEntry,
      { id: v7(), madeAt: new Date().toISOString(), body: { kind: 'symptom', text: 'dead' } },
      { id },
    );
    const { db, pool } = openDatabase(process.env.DATABASE_URL!);
    for (const text of [
      "update case_entry set kind = 'x'",
      'delete from case_entry',
      'truncate case_entry',
    ])
      await expect(pool.query(text)).rejects.toThrow(/append-only/);
    await pool.query(
      'insert into case_entry (id, case_id, kind, body, made_at) values ($1, $2, \'hologram\', \'{"kind":"hologram"}\', now())',
      [v7(), id],
    );
    const view = (await caseView(db, id))!;
    expect([view.entries.length, view.unreadable]).toEqual([1, 1]);
    expect((await docketPage(db, { most: 500 })).lines.some(({ title }) => title === 'kept')).toBe(
      true,
    );
    expect(
      (
        await call(
          addEntry,
          { id: v7(), madeAt: new Date().toISOString(), body: { kind: 'symptom', text: 'still' } },
          { id },
        )
      ).status,
    ).toBe(201);
    await pool.end();
  });
});
