// @vitest-environment happy-dom
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { passkeysHere } from './passkey-browser';
import { nameAddress } from './name-address';
import { PersonName } from './role';
import { SignIn } from './SignIn';
import { placeAfter, signInPath } from './sign-in-path';

// Signing in, and where one goes after it.

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe('after signing in', () => {
  it.each([
    ['/case/101/trace?x=1', '/case/101/trace?x=1'],
    ['https://elsewhere.example/', '/'],
    ['//elsewhere.example/', '/'],
    ['/\\\\elsewhere.example/', '/'],
    ['javascript:alert(1)', '/'],
    ['/sign-in', '/'],
    ['', '/'],
  ])('%j leads to %s, and never to another site', (to, place) => {
    expect(placeAfter(signInPath(to).slice('/sign-in'.length))).toBe(place);
  });
  it('without a place one comes to the docket', () => {
    expect(placeAfter('')).toBe('/');
  });
});

describe('a name', () => {
  it.each(['Mara Voss', "D'Arcy", 'Zoë-Ann 2', '山田'])('%s is one', (name) => {
    expect(PersonName.safeParse(name).success).toBe(true);
  });
  it.each(['', ' a ', 'x'.repeat(61), '<b>', 'a@b', 'a\nb'])('%j is none', (name) => {
    expect(PersonName.safeParse(name).success).toBe(false);
  });
});

describe('passkeys', () => {
  const at = 'https://bench.lan';
  it.each([
    [at, at, true, undefined],
    [undefined, at, true, /no address by name yet/],
    [at, 'http://127.0.0.1:4711', true, /open at https:\/\/bench.lan, and you are at http/],
    [at, at, false, /This browser has none/],
  ])('for %s, at %s, devices %s: why not %s', (told, here, devices, why) => {
    const possible = passkeysHere(told, here, devices);
    expect(possible.are).toBe(why === undefined);
    if (!possible.are) expect(possible.why).toMatch(why!);
  });
});

describe('the page', () => {
  const answer = (status: number, headers = {}) =>
    vi.stubGlobal(
      'fetch',
      vi.fn(async () => new Response('{}', { status, headers })),
    );
  async function signIn(): Promise<void> {
    render(<SignIn search="?to=/stock" passkeysAt={undefined} />);
    await userEvent.type(screen.getByLabelText('Name'), 'Mara  Voss');
    await userEvent.type(screen.getByLabelText('Password'), 'abcd-efgh-jkmn-pqrs{Enter}');
  }
  it.each([
    [401, {}, /do not go together/],
    [429, { 'x-retry-after': '42' }, /wait 42 seconds/],
    [503, {}, /did not answer as it should/],
  ])('%s is told in words, and what was typed stays', async (status, headers, words) => {
    answer(status, headers);
    await signIn();
    expect(await screen.findByText(words)).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('Mara  Voss');
    const [, sent] = vi.mocked(fetch).mock.calls[0]!;
    expect(JSON.parse(String(sent!.body))).toEqual({
      email: nameAddress('mara voss'),
      password: 'abcd-efgh-jkmn-pqrs',
    });
  });
  it('a server that is away is told as that', async () => {
    vi.stubGlobal(
      'fetch',
      vi.fn(() => Promise.reject(new TypeError('no'))),
    );
    await signIn();
    expect(await screen.findByText(/does not answer/)).toBeTruthy();
  });
});
