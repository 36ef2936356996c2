import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { nameAddress } from '../src/people/name-address';
import { openDatabase, type Database } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { ADDRESS_HEADER, authOf, passkeyOrigin, type Auth } from '../src/server/people/auth';
import { whoAsks } from '../src/server/people/gate';
import { addPerson, auditLines, leave, recover } from '../src/server/people/people';
import { ask, at } from './databases';
import { Device, type Answers } from './devices';

// Signing in with a device, by a device that is a program of these tests.

const ORIGIN = 'https://bench.lan';
const own = `passkeys_${process.pid}`;
const role = `passkeys_app_${process.pid}`;
const application = Object.assign(new URL(at(own)), { username: role, password: 'x' }).href;
let db: Database;
let auth: Auth;
let close: () => Promise<void>;
let before: string | undefined;

beforeAll(async () => {
  before = process.env.HANZAI_PUBLIC_URL;
  process.env.HANZAI_PUBLIC_URL = ORIGIN;
  await ask(at('postgres'), `drop database if exists "${own}"`);
  await prepareDatabase(at(own), { demo: false, applicationUrl: application });
  const opened = openDatabase(application);
  db = opened.db;
  close = () => opened.pool.end();
  auth = await authOf(db);
});
afterAll(async () => {
  if (before === undefined) delete process.env.HANZAI_PUBLIC_URL;
  else process.env.HANZAI_PUBLIC_URL = before;
  await close();
  await ask(at(own), `drop owned by "${role}"`);
  await ask(at('postgres'), `drop database "${own}"`);
  await ask(at('postgres'), `drop role "${role}"`);
});

let address = 1;
/** A browser: keeps its cookies, and comes from an address of its own. */
class Browser {
  private readonly cookies = new Map<string, string>();
  readonly from = `10.0.1.${(address += 1)}`;
  async ask(path: string, body?: unknown): Promise<{ status: number; body: never }> {
    const response = await auth.handler(
      new Request(`${ORIGIN}/api/auth/${path}`, {
        method: body === undefined ? 'GET' : 'POST',
        headers: {
          'content-type': 'application/json',
          origin: ORIGIN,
          cookie: this.cookie,
          [ADDRESS_HEADER]: this.from,
        },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      }),
    );
    for (const line of response.headers.getSetCookie()) {
      const [pair] = line.split(';');
      const name = pair!.slice(0, pair!.indexOf('='));
      this.cookies.set(name, pair!.slice(name.length + 1));
    }
    const text = await response.text();
    return { status: response.status, body: (text ? JSON.parse(text) : null) as never };
  }
  get cookie(): string {
    return [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; ');
  }
  async withCode(name: string, code: string): Promise<void> {
    const done = await this.ask('sign-in/email', { email: nameAddress(name), password: code });
    expect(done.status).toBe(200);
  }
  async makes(device: Device, how?: Answers): Promise<number> {
    const { challenge } = (await this.ask('passkey/generate-register-options')).body as {
      challenge: string;
    };
    const response = device.registers(challenge, how);
    return (await this.ask('passkey/verify-registration', { response, name: 'tablet' })).status;
  }
  async opens(device: Device, how?: Answers): Promise<number> {
    const { challenge } = (await this.ask('passkey/generate-authenticate-options')).body as {
      challenge: string;
    };
    const response = device.signsIn(challenge, how);
    return (await this.ask('passkey/verify-authentication', { response })).status;
  }
  who = () => whoAsks(db, new Headers({ cookie: this.cookie }));
}

let people = 0;
/** Somebody who came in with a code; the first one is the owner. */
async function somebody(name: string) {
  const added = await addPerson(db, { name, role: people === 0 ? 'owner' : 'repairer' }, 'test');
  people += 1;
  if (!added.ok) throw new Error(added.detail);
  const browser = new Browser();
  await browser.withCode(name, added.value.code);
  return { ...added.value, browser };
}

describe('a passkey', () => {
  const device = new Device(ORIGIN);
  it('is made by who is signed in, and signs in from a browser that knows nothing', async () => {
    const { browser } = await somebody('Mara Voss');
    expect(await browser.makes(device)).toBe(200);
    const other = new Browser();
    expect(await other.who()).toEqual({ who: 'stranger' });
    expect(await other.opens(device)).toBe(200);
    expect(await other.who()).toMatchObject({ who: 'person', person: { name: 'Mara Voss' } });
    expect((await auditLines(db)).map(({ who, what }) => `${who} ${what}`)).toContain(
      'Mara Voss made a passkey',
    );
  });
  it.each<[string, Answers]>([
    ['for another page', { origin: 'https://bench.lan.example' }],
    ['by a device that did not ask who holds it', { verified: false }],
    [
      'to a question that was not put',
      { challenge: 'AAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAAA' },
    ],
    ['by another key', { forged: true }],
  ])('does not sign in %s', async (_, how) => {
    const other = new Browser();
    expect(await other.opens(device, how)).toBeGreaterThanOrEqual(400);
    expect(await other.who()).toEqual({ who: 'stranger' });
  });
  it('an answer is good once: not again, and not in another browser', async () => {
    const [one, two] = [new Browser(), new Browser()];
    const { challenge } = (await one.ask('passkey/generate-authenticate-options')).body as {
      challenge: string;
    };
    await two.ask('passkey/generate-authenticate-options');
    const response = device.signsIn(challenge);
    const answer = (browser: Browser) => browser.ask('passkey/verify-authentication', { response });
    expect((await answer(two)).status).toBeGreaterThanOrEqual(400);
    expect((await answer(one)).status).toBe(200);
    expect((await answer(one)).status).toBeGreaterThanOrEqual(400);
  });
  it('a copy of the device whose counter stands behind is refused', async () => {
    device.counter -= 2;
    expect(await new Browser().opens(device)).toBeGreaterThanOrEqual(400);
    device.counter += 2;
    expect(await new Browser().opens(device)).toBe(200);
  });
  it('of a device that nobody knows is none', async () => {
    expect(await new Browser().opens(new Device(ORIGIN))).toBeGreaterThanOrEqual(400);
  });
  it('is not made by a stranger, nor by a device that does not ask who holds it', async () => {
    const stranger = await new Browser().ask('passkey/generate-register-options');
    expect(stranger.status).toBe(401);
    const { browser } = await somebody('Odo');
    const careless = new Device(ORIGIN);
    expect(await browser.makes(careless, { verified: false })).toBeGreaterThanOrEqual(400);
    expect(await new Browser().opens(careless)).toBeGreaterThanOrEqual(400);
  });
  it('is ended by whose it is, and by nobody else', async () => {
    const mine = new Device(ORIGIN);
    const { browser } = await somebody('Pell');
    expect(await browser.makes(mine)).toBe(200);
    const [{ id }] = (await browser.ask('passkey/list-user-passkeys')).body as [{ id: string }];
    const { browser: another } = await somebody('Quill');
    expect((await another.ask('passkey/list-user-passkeys')).body).toEqual([]);
    expect((await another.ask('passkey/delete-passkey', { id })).status).toBeGreaterThanOrEqual(
      400,
    );
    expect(await new Browser().opens(mine)).toBe(200);
    expect((await browser.ask('passkey/delete-passkey', { id })).status).toBe(200);
    expect(await new Browser().opens(mine)).toBeGreaterThanOrEqual(400);
  });
  it.each([
    ['who leaves', leave],
    ['who gets a new code', recover],
  ])('opens no more for somebody %s', async (words, does) => {
    const old = new Device(ORIGIN);
    const { id, browser } = await somebody(words);
    expect(await browser.makes(old)).toBe(200);
    expect((await does(db, id, 'test')).ok).toBe(true);
    expect(await new Browser().opens(old)).toBeGreaterThanOrEqual(400);
  });
  it('guesses are slowed down', async () => {
    const guesser = new Browser();
    const tries: number[] = [];
    for (let i = 0; i < 12; i += 1) tries.push(await guesser.opens(device, { forged: true }));
    expect(tries.at(-1)).toBe(429);
  });
});

describe('an address for passkeys', () => {
  it.each([
    ['https://bench.lan', 'https://bench.lan'],
    ['https://bench.lan:8443/x', 'https://bench.lan:8443'],
    ['http://localhost:4711', 'http://localhost:4711'],
    ['http://bench.lan', undefined],
    ['https://192.168.7.20', undefined],
    ['https://[fd00::1]:443', undefined],
    ['bench.lan', undefined],
    ['', undefined],
  ])('of %j is %j', (told, origin) => {
    expect(passkeyOrigin(told)).toBe(origin);
  });
});
