import { QueryClient } from '@tanstack/react-query';
import { v7 } from 'uuid';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { AnswerError, ask, whyNot } from './answers';
import { followEvents } from './live';
import { Outbox } from './outbox';

const none = { all: async () => [], put: async () => undefined, remove: async () => undefined };

function followed(): {
  source: EventSource;
  queries: QueryClient;
  outbox: Outbox;
  tell: (data: string) => void;
} {
  const source = {} as EventSource;
  const queries = new QueryClient();
  const outbox = new Outbox({ storage: none, send: async () => ({ state: 'stored' }) });
  followEvents(queries, outbox, source);
  return {
    source,
    queries,
    outbox,
    tell: (data) => source.onmessage!({ data } as MessageEvent<string>),
  };
}

describe('news of the workshop', () => {
  const [mine, other] = [v7(), v7()];

  it('fetch the case that they speak of again, and the docket, and no other case', () => {
    const { queries, tell } = followed();
    queries.setQueryData(['case', 101], { id: mine });
    queries.setQueryData(['case', 102], { id: other });
    queries.setQueryData(['docket', '', 60], {});
    queries.setQueryData(['board', 'x'], {});
    tell(JSON.stringify({ case: mine, entry: v7() }));
    const stale = (key: readonly unknown[]): boolean => queries.getQueryState(key)!.isInvalidated;
    expect(stale(['case', 101])).toBe(true);
    expect(stale(['case', 102])).toBe(false);
    expect(stale(['docket', '', 60])).toBe(true);
    expect(stale(['board', 'x'])).toBe(false);
  });

  it('of what this page stored itself fetch nothing again', async () => {
    const { queries, outbox, tell } = followed();
    queries.setQueryData(['case', 101], { id: mine });
    const id = v7();
    const entry = { id, madeAt: '2026-11-27T12:00:00Z', body: { kind: 'reopen' } } as const;
    await outbox.add({ id, caseId: mine, entry });
    tell(JSON.stringify({ case: mine, entry: id }));
    expect(queries.getQueryState(['case', 101])!.isInvalidated).toBe(false);
  });

  it.each(['', 'nonsense', '{}', '{"case":7}', 'null'])(
    'that are none change nothing: %j',
    (data) => {
      const { queries, tell } = followed();
      queries.setQueryData(['case', 101], { id: mine });
      expect(() => tell(data)).not.toThrow();
      expect(queries.getQueryState(['case', 101])!.isInvalidated).toBe(false);
    },
  );

  it('that stop say that the server is away; when they come again, all is fetched anew', () => {
    const { source, queries, outbox } = followed();
    queries.setQueryData(['case', 101], { id: mine });
    source.onerror!(new Event('error'));
    expect(outbox.snapshot().reachable).toBe(false);
    source.onopen!(new Event('open'));
    expect(outbox.snapshot().reachable).toBe(true);
    expect(queries.getQueryState(['case', 101])!.isInvalidated).toBe(true);
  });
});

describe('an answer of the server', () => {
  afterEach(() => vi.unstubAllGlobals());
  const answers = (status: number, body: string, type = 'application/json'): void => {
    const response = new Response(body, { status, headers: { 'content-type': type } });
    vi.stubGlobal('fetch', async () => response);
  };
  const asked = async (): Promise<unknown> =>
    ask('/x', z.object({ n: z.number() })).catch((error: unknown) => error);

  it('is checked against its schema', async () => {
    answers(200, '{"n":1}');
    expect(await asked()).toEqual({ n: 1 });
    answers(200, '{"n":"1"}');
    expect(await asked()).toMatchObject({ again: false });
  });
  it.each([
    [404, false],
    [422, false],
    [503, true],
    [507, true],
  ])('with status %i is worth another try: %s', async (status, again) => {
    answers(status, '{"detail":"so"}', 'application/problem+json');
    expect(await asked()).toMatchObject({ detail: 'so', again, status });
  });
  it('that is no JSON came from something else, and is asked for again', async () => {
    answers(200, '<html>', 'text/html');
    expect(await asked()).toMatchObject({ again: true });
  });
  it('is told in words that say whether to try again', () => {
    expect(whyNot(new AnswerError('nobody answers', true))).toMatch(/still here. Try again/);
    expect(whyNot(new AnswerError('no such case', false))).toBe('no such case');
    expect(whyNot(new TypeError('x'))).toBe('x');
  });
});
