import { afterEach, describe, expect, it, vi } from 'vitest';
import { v7 } from 'uuid';
import type { Entry } from '../case/entry';
import { send } from './send';

// What the server may answer to an entry, and what becomes of it: stored, to be tried again, or
// never to be taken.

const entry: Entry = {
  id: v7(),
  madeAt: '2026-11-27T12:00:00.000Z',
  body: { kind: 'symptom', text: 'dead' },
};
const answers = (status: number, body: string, type = 'application/problem+json'): void => {
  vi.stubGlobal(
    'fetch',
    vi.fn(async () => new Response(body, { status, headers: { 'content-type': type } })),
  );
};

afterEach(() => vi.unstubAllGlobals());

describe('an entry that is sent', () => {
  it.each([200, 201])('answered with %i is stored', async (status) => {
    answers(status, '{}');
    expect(await send({ id: entry.id, caseId: 'c', entry })).toEqual({ state: 'stored' });
  });
  it.each([400, 404, 409, 413, 415, 422])(
    'answered with %i is never taken, and the reason is kept',
    async (status) => {
      answers(status, '{"detail":"the board has no part U9"}');
      expect(await send({ id: entry.id, caseId: 'c', entry })).toEqual({
        state: 'refused',
        detail: 'the board has no part U9',
      });
    },
  );
  it.each([408, 429, 502, 503, 504, 507])('answered with %i is tried again', async (status) => {
    answers(status, '{"detail":"later"}');
    expect(await send({ id: entry.id, caseId: 'c', entry })).toEqual({ state: 'unreachable' });
  });
  it('over which the server makes a mistake is told from both', async () => {
    answers(500, '{"detail":"number 0a1b2c3d"}');
    expect(await send({ id: entry.id, caseId: 'c', entry })).toEqual({
      state: 'failed',
      detail: 'number 0a1b2c3d',
    });
  });
  it.each([200, 404, 500])(
    'answered with %i by something that is not the workshop waits on',
    async (status) => {
      answers(status, '<html>captive portal</html>', 'text/html');
      expect(await send({ id: entry.id, caseId: 'c', entry })).toEqual({ state: 'unreachable' });
    },
  );
  it('that nobody answers waits on', async () => {
    vi.stubGlobal(
      'fetch',
      vi.fn(async () => Promise.reject(new TypeError('network'))),
    );
    expect(await send({ id: entry.id, caseId: 'c', entry })).toEqual({ state: 'unreachable' });
  });
  it('goes to its case as it is', async () => {
    answers(201, '{}');
    await send({ id: entry.id, caseId: 'the-case', entry });
    const [address, options] = vi.mocked(fetch).mock.calls[0]!;
    expect(address).toBe('/api/cases/the-case/entries');
    expect(JSON.parse(String(options!.body))).toEqual(entry);
  });
  it('says whose it is, its picture too, and nobody’s where nobody signs in', async () => {
    answers(201, '{}');
    const body: Entry['body'] = {
      kind: 'picture',
      picture: v7(),
      title: 'as it came',
      of: 'inside',
    };
    const own: Entry = { ...entry, body };
    await send({ id: own.id, caseId: 'c', entry: own, picture: new Blob(['x']), by: 'ada' });
    await send({ id: entry.id, caseId: 'c', entry });
    const whose = vi
      .mocked(fetch)
      .mock.calls.map(([, options]) => new Headers(options!.headers).get('x-hanzai-entered-by'));
    expect(whose).toEqual(['ada', 'ada', null]);
  });
  it('with a picture goes after it, and not at all where the picture is refused', async () => {
    const picture = new Blob(['x']);
    const own: Entry = {
      ...entry,
      body: { kind: 'picture', picture: v7(), title: 'as it came', of: 'inside' },
    };
    const item = { id: own.id, caseId: 'c', entry: own, picture };
    answers(201, '{}');
    expect(await send(item)).toEqual({ state: 'stored' });
    const addresses = vi.mocked(fetch).mock.calls.map(([address]) => String(address));
    expect(addresses[0]).toMatch(/pictures\?id=/);
    expect(addresses[1]).toBe('/api/cases/c/entries');
    answers(422, '{"detail":"this is not a picture"}');
    expect(await send(item)).toEqual({ state: 'refused', detail: 'this is not a picture' });
    expect(fetch).toHaveBeenCalledOnce();
  });
});
