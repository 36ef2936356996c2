// @vitest-environment happy-dom
import { afterEach, describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { cookieName, RENEWED, TOKEN_HEADER, tokenIn } from '../people/page-token';
import { type AnswerError, ask, askAsPage, withBody } from './answers';

// What a page shows of itself with what it changes.

const forget = (): void => {
  document.cookie = 'hanzai-page=; expires=Thu, 01 Jan 1970 00:00:00 GMT';
};
afterEach(forget);

type Sent = RequestInit & { headers: Record<string, string> };
/** A server that takes this token alone; it sets it with every answer that refuses, unless told not to. */
function server(token: string, sets = true) {
  const fetch = vi.fn(async (_path: string, options: Sent) => {
    if (options.method === 'GET' || options.headers[TOKEN_HEADER] === token)
      return new Response('{"done":true}', { headers: { 'content-type': 'application/json' } });
    if (sets) document.cookie = `hanzai-page=${token}`;
    return new Response('{"detail":"this is no page of ours"}', {
      status: 401,
      headers: {
        'content-type': 'application/problem+json',
        ...(sets ? { [TOKEN_HEADER]: RENEWED } : {}),
      },
    });
  });
  vi.stubGlobal('fetch', fetch);
  return fetch;
}
const post = () => ask('/api/cases', z.object({ done: z.boolean() }), withBody('POST', { a: 1 }));

describe('a page shows that it is one of ours', () => {
  it('with what it changes, and not with what it reads', async () => {
    document.cookie = 'hanzai-page=salt-hash';
    document.cookie = 'other=1';
    const fetch = server('salt-hash');
    expect(await post()).toEqual({ done: true });
    expect(fetch.mock.calls[0]![1].headers).toEqual({
      'content-type': 'application/json',
      [TOKEN_HEADER]: 'salt-hash',
    });
    await ask('/api/cases', z.unknown(), { method: 'GET' });
    expect(fetch.mock.calls[1]![1].headers).toEqual({});
    expect(fetch).toHaveBeenCalledTimes(2);
  });
  it('asks once more with what the answer brings, and says the very same', async () => {
    document.cookie = 'hanzai-page=of-another-session';
    const fetch = server('new-one');
    expect(await post()).toEqual({ done: true });
    const [first, second] = fetch.mock.calls.map(([, options]) => options);
    expect(second!.body).toBe(first!.body);
    expect(second!.headers[TOKEN_HEADER]).toBe('new-one');
    expect(fetch).toHaveBeenCalledTimes(2);
  });
  it('gives up after that, and what was entered is kept for later', async () => {
    // A browser that keeps no cookies.
    const fetch = server('new-one');
    fetch.mockImplementation(
      async () =>
        new Response('{"detail":"this is no page of ours"}', {
          status: 401,
          headers: { 'content-type': 'application/problem+json', [TOKEN_HEADER]: RENEWED },
        }),
    );
    await expect(post()).rejects.toMatchObject({
      again: true,
      status: 401,
    } satisfies Partial<AnswerError>);
    expect(fetch).toHaveBeenCalledTimes(2);
  });
  it('does not ask again where it is not signed in at all', async () => {
    const fetch = server('x', false);
    expect((await askAsPage('/api/cases', withBody('PATCH', {}))).status).toBe(401);
    expect(fetch).toHaveBeenCalledTimes(1);
  });
});

describe('the cookie', () => {
  it.each([
    ['hanzai-page=aB-9_z', 'aB-9_z'],
    ['a=1; __Host-hanzai-page=aB-9_z; b=2', 'aB-9_z'],
    ['a=1;hanzai-page=x', 'x'],
    ['my-hanzai-page=x', undefined],
    ['a=hanzai-page=x', undefined],
    ['hanzai-page=', undefined],
    ['', undefined],
  ])('is found in %s', (cookies, token) => {
    expect(tokenIn(cookies)).toBe(token);
  });
  it('is bound to this host where there is TLS', () => {
    expect([cookieName(true), cookieName(false)]).toEqual(['__Host-hanzai-page', 'hanzai-page']);
  });
});
