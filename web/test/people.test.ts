import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { mayGo, Role, WHO_ENTERS } from '../src/people/role';
import { nameAddress } from '../src/people/name-address';
import { addEntry, openCase, caseView } from '../src/server/case/service';
import { openDatabase, type Database } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { ADDRESS_HEADER, authOf } from '../src/server/people/auth';
import {
  changesSession,
  closeHouse,
  isForAnybody,
  whoAsks,
  withAddress,
} from '../src/server/people/gate';
import { pageToken } from '../src/server/people/page-token';
import { TOKEN_HEADER, tokenIn } from '../src/people/page-token';
import {
  addPerson,
  anybody,
  auditLines,
  changeRole,
  leave,
  listPeople,
  newCode,
  personByName,
  recover,
} from '../src/server/people/people';
import { ask, at } from './databases';

// Who signs in, what he may do, and what is written down of it.

const own = `people_${process.pid}`;
const role = `people_app_${process.pid}`;
const application = Object.assign(new URL(at(own)), { username: role, password: 'a b/c' }).href;
let db: Database;
let close: () => Promise<void>;

beforeAll(async () => {
  await ask(at('postgres'), `drop database if exists "${own}"`);
  await prepareDatabase(at(own), { demo: false, applicationUrl: application });
  // All of it as the application, with its rights and no more.
  const opened = openDatabase(application);
  db = opened.db;
  close = () => opened.pool.end();
});
afterAll(async () => {
  await close();
  await ask(at(own), `drop owned by "${role}"`);
  await ask(at('postgres'), `drop database "${own}"`);
  await ask(at('postgres'), `drop role "${role}"`);
});

const value = <T>(done: { ok: true; value: T } | { ok: false; detail: string }): T => {
  if (!done.ok) throw new Error(done.detail);
  return done.value;
};
let address = 1;
/** Signs in from an address of its own, so that guesses do not add up between tests. */
async function signIn(name: string, password: string, from = `10.0.0.${(address += 1)}`) {
  const auth = await authOf(db);
  const response = await auth.handler(
    new Request('http://127.0.0.1/api/auth/sign-in/email', {
      method: 'POST',
      headers: {
        'content-type': 'application/json',
        origin: 'http://127.0.0.1',
        [ADDRESS_HEADER]: from,
      },
      body: JSON.stringify({ email: nameAddress(name), password }),
    }),
  );
  const cookie = response.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ');
  return { status: response.status, cookie, cookies: response.headers.getSetCookie() };
}
const asks = (cookie = '') => whoAsks(db, new Headers(cookie ? { cookie } : {}));

describe('an open house', () => {
  it('asks nobody to sign in until somebody is added; the first one is the owner', async () => {
    expect(await anybody(db)).toBe(false);
    expect(await asks()).toEqual({ who: 'open' });
    expect(await addPerson(db, { name: 'Ada', role: 'trainee' }, 'test')).toMatchObject({
      ok: false,
      detail: 'the first one is the owner of the workshop',
    });
    const { code } = value(await addPerson(db, { name: 'Mara Voss', role: 'owner' }, 'test'));
    expect(code).toMatch(/^([a-z2-9]{4}-){3}[a-z2-9]{4}$/);
    closeHouse(db);
    expect(await asks()).toEqual({ who: 'stranger' });
    const { status, cookie, cookies } = await signIn('mara  VOSS ', code);
    expect(status).toBe(200);
    for (const one of cookies) expect(one).toMatch(/HttpOnly/i);
    expect(await asks(cookie)).toMatchObject({
      who: 'person',
      person: { name: 'Mara Voss', role: 'owner' },
      hasCode: true,
    });
  });
  it('a name is one however it is written, and is not added twice', async () => {
    expect(await addPerson(db, { name: 'MARA voss', role: 'desk' }, 'test')).toMatchObject({
      ok: false,
      why: 'clash',
    });
    expect(nameAddress('Zoë')).toBe(nameAddress('Zoe\u0308'));
    expect(nameAddress('Zoë')).not.toBe(nameAddress('Zoe'));
  });
});

describe('a page of the workshop', () => {
  const request = (method: string, cookie = '', shown?: string) =>
    new Request('http://127.0.0.1/api/cases', {
      method,
      headers: { cookie, ...(shown === undefined ? {} : { [TOKEN_HEADER]: shown }) },
    });
  /** The token that a session is given with its first answer. */
  async function given(session: string): Promise<string> {
    const { cookie } = await pageToken(db, request('GET'), session);
    expect(cookie).toMatch(/^hanzai-page=[\w-]+; Path=\/; SameSite=Strict$/);
    return tokenIn(cookie!)!;
  }
  const isOurs = async (session: string, ...asked: Parameters<typeof request>): Promise<boolean> =>
    (await pageToken(db, request(...asked), session)).isOurs;

  it('shows what it was given, and only that, with whatever changes something', async () => {
    const token = await given('one');
    const cookie = `a=1; hanzai-page=${token}; b=2`;
    for (const method of ['POST', 'PATCH', 'PUT', 'DELETE', 'PROPFIND']) {
      expect(await isOurs('one', method, cookie, token), method).toBe(true);
      // What a page of another site can do: the cookie comes by itself, the header does not.
      expect(await isOurs('one', method, cookie), method).toBe(false);
      expect(await isOurs('one', method, '', token), method).toBe(false);
    }
    for (const method of ['GET', 'HEAD', 'OPTIONS'])
      expect(await isOurs('one', method), method).toBe(true);
    for (const made of ['', 'x', '-', `${token}x`, token.slice(0, -1), token.replace(/^./, '#')])
      expect(await isOurs('one', 'POST', `hanzai-page=${made}`, made), made).toBe(false);
  });
  it('keeps a good one, and gets another for another session', async () => {
    const token = await given('one');
    const kept = await pageToken(db, request('GET', `hanzai-page=${token}`), 'one');
    expect(kept.cookie).toBeUndefined();
    const other = await pageToken(db, request('POST', `hanzai-page=${token}`, token), 'two');
    expect(other.isOurs).toBe(false);
    expect(tokenIn(other.cookie!)).not.toBe(token);
    // The same in every process of the workshop: nothing of it is in memory.
    const second = openDatabase(application);
    const asked = request('POST', `hanzai-page=${token}`, token);
    expect((await pageToken(second.db, asked, 'one')).isOurs).toBe(true);
    await second.pool.end();
  });
  it('gets it over TLS for this host alone', async () => {
    process.env.HANZAI_PUBLIC_URL = 'https://bench.lan';
    const { cookie } = await pageToken(db, request('GET'), 'one');
    delete process.env.HANZAI_PUBLIC_URL;
    expect(cookie).toMatch(/^__Host-hanzai-page=[\w-]+; Path=\/; SameSite=Strict; Secure$/);
  });
  it('shows it for its session as well, but not where a session begins', () => {
    const guarded = (path: string): boolean => changesSession('POST', `/api/auth/${path}`);
    for (const path of [
      'sign-out',
      'revoke-session',
      'passkey/verify-registration',
      'passkey/delete-passkey',
      'new-door',
    ])
      expect(guarded(path), path).toBe(true);
    for (const path of ['sign-in/email', 'passkey/verify-authentication'])
      expect(guarded(path), path).toBe(false);
    expect(changesSession('GET', '/api/auth/get-session')).toBe(false);
  });
});

describe('signing in', () => {
  it('a wrong password, a name that is nobody’s and a made-up cookie are all strangers', async () => {
    expect((await signIn('Mara Voss', 'not-the-password')).status).toBe(401);
    expect((await signIn('Nobody', 'not-the-password')).status).toBe(401);
    for (const cookie of ['hanzai.session_token=x.y', 'hanzai.session_token=', 'hanzai'])
      expect(await asks(cookie)).toEqual({ who: 'stranger' });
  });
  it('nobody signs himself up', async () => {
    const auth = await authOf(db);
    const response = await auth.handler(
      new Request('http://127.0.0.1/api/auth/sign-up/email', {
        method: 'POST',
        headers: { 'content-type': 'application/json', origin: 'http://127.0.0.1' },
        body: JSON.stringify({
          email: 'a@b.invalid',
          password: 'long enough 123',
          name: 'x',
          role: 'owner',
        }),
      }),
    );
    expect(response.status).toBeGreaterThanOrEqual(400);
    expect(await listPeople(db)).toHaveLength(1);
  });
  it('guesses of one address are slowed down, and of no other', async () => {
    const from = '10.9.9.9';
    const seen: number[] = [];
    for (let i = 0; i < 12; i += 1)
      seen.push((await signIn('Mara Voss', `guess number ${i}`, from)).status);
    expect(seen.slice(0, 8).every((status) => status === 401)).toBe(true);
    expect(seen.slice(8).every((status) => status === 429)).toBe(true);
    expect((await signIn('Mara Voss', 'guess', '10.9.9.10')).status).toBe(401);
  });
  it('the address is the one of the connection, whatever a request says of itself', () => {
    const asked = new Headers({ [ADDRESS_HEADER]: '1.2.3.4' });
    expect(withAddress(asked, '10.1.1.1').get(ADDRESS_HEADER)).toBe('10.1.1.1');
  });
  it('a password is kept as a hash, and a code is nowhere', async () => {
    const { code } = value(await addPerson(db, { name: 'Ilse', role: 'repairer' }, 'test'));
    const { rows } = await ask(at(own), `select password from person_account`);
    expect(
      rows.every(({ password }) => /^[0-9a-f]{32}:[0-9a-f]{128}$/.test(String(password))),
    ).toBe(true);
    const everything = await ask(
      at(own),
      `select (select string_agg(what, ' ') from audit_line) as said`,
    );
    expect(String(everything.rows[0].said)).not.toContain(code);
    expect(new Set(Array.from({ length: 200 }, newCode)).size).toBe(200);
  });
});

describe('coming and going', () => {
  it('who leaves is signed out at once, and what he did keeps his name', async () => {
    const { id, code } = value(await addPerson(db, { name: 'Jory', role: 'repairer' }, 'test'));
    const { cookie } = await signIn('Jory', code);
    expect((await asks(cookie)).who).toBe('person');
    value(await leave(db, id, 'test'));
    expect((await asks(cookie)).who).toBe('stranger');
    expect((await signIn('Jory', code)).status).toBe(401);
    expect(await personByName(db, 'Jory')).toBeUndefined();
    const back = value(await addPerson(db, { name: 'Jory', role: 'desk' }, 'test'));
    expect(back.id).toBe(id);
    expect((await signIn('Jory', back.code)).status).toBe(200);
  });
  it('a new code ends what was signed in, and the old password is none', async () => {
    const { id, code } = value(await addPerson(db, { name: 'Tam', role: 'repairer' }, 'test'));
    const { cookie } = await signIn('Tam', code);
    const fresh = value(await recover(db, id, 'test'));
    expect((await asks(cookie)).who).toBe('stranger');
    expect((await signIn('Tam', code)).status).toBe(401);
    expect((await signIn('Tam', fresh.code)).status).toBe(200);
  });
  it('a role holds from the next request on', async () => {
    const { id, code } = value(await addPerson(db, { name: 'Wren', role: 'repairer' }, 'test'));
    const { cookie } = await signIn('Wren', code);
    value(await changeRole(db, id, 'trainee', 'test'));
    expect(await asks(cookie)).toMatchObject({ person: { role: 'trainee' } });
  });
  it('the last owner stays one', async () => {
    const id = (await personByName(db, 'Mara Voss'))!;
    expect(await leave(db, id, 'test')).toMatchObject({ ok: false });
    expect(await changeRole(db, id, 'desk', 'test')).toMatchObject({ ok: false });
    expect(await leave(db, v7(), 'test')).toMatchObject({ ok: false, why: 'missing' });
  });
  it('all of it is written down, and the application cannot change what is', async () => {
    const lines = await auditLines(db);
    expect(lines.map(({ what }) => what)).toEqual(
      expect.arrayContaining(['added Mara Voss as owner', 'Jory left', 'made Wren trainee']),
    );
    for (const sql of [
      'update audit_line set who = $$x$$',
      'delete from audit_line',
      'truncate audit_line',
    ])
      await expect(ask(application, sql)).rejects.toThrow(/permission denied/);
  });
});

describe('who does what', () => {
  const person = (name: string, as: Role) => ({ id: v7(), name, role: as });
  const entry = (body: object) =>
    ({ id: v7(), madeAt: new Date().toISOString(), body }) as Parameters<typeof addEntry>[2];

  it('an entry says who made it, whatever it says of itself', async () => {
    const { id } = value(await openCase(db, { title: 'a case', unitModel: 'lamp' }));
    const said = { ...entry({ kind: 'finding', text: 'seen' }), by: 'somebody else' };
    value(await addEntry(db, id, said, person('Wren', 'trainee')));
    value(await addEntry(db, id, entry({ kind: 'finding', text: 'nobody signs in' })));
    expect((await caseView(db, id))!.entries.map(({ by }) => by)).toEqual(['Wren', undefined]);
  });
  it('a trainee acknowledges no hazard and closes nothing; the front desk takes no reading', async () => {
    const { id } = value(await openCase(db, { title: 'another', unitModel: 'lamp' }));
    const hazard = entry({ kind: 'acknowledge', hazard: 'mains', who: 'Wren' });
    expect(await addEntry(db, id, hazard, person('Wren', 'trainee'))).toMatchObject({
      ok: false,
      why: 'refused',
      detail: expect.stringContaining('a trainee does not enter this: ask owner') as string,
    });
    const reading = entry({
      kind: 'reading',
      setup: 'on',
      quantity: 'voltage',
      at: 'vm',
      to: '',
      value: 8,
      typed: 'vm 8',
    });
    expect(await addEntry(db, id, reading, person('Jory', 'desk'))).toMatchObject({ ok: false });
    expect((await caseView(db, id))!.entries).toEqual([]);
  });
  it('a hazard is acknowledged in one’s own name', async () => {
    const { id } = value(await openCase(db, { title: 'a third', unitModel: 'lamp' }));
    const inAnothers = entry({ kind: 'acknowledge', hazard: 'mains', who: 'Mara Voss' });
    expect(await addEntry(db, id, inAnothers, person('Ilse', 'repairer'))).toMatchObject({
      ok: false,
      detail: expect.stringContaining("one's own name: Ilse") as string,
    });
  });
  it('every kind of entry that can hurt somebody is the bench’s alone', () => {
    for (const kind of [
      'acknowledge',
      'residual',
      'powerAnyway',
      'removed',
      'fitted',
      'turned',
      'rail',
    ] as const)
      expect(WHO_ENTERS[kind], kind).toEqual(['owner', 'repairer']);
  });

  /** Every door of the application, by its file, with the methods that it answers. */
  const doors = (() => {
    const root = fileURLToPath(new URL('../src/pages/', import.meta.url));
    const files = readdirSync(join(root, 'api'), { recursive: true, encoding: 'utf8' });
    return files
      .filter((file) => file.endsWith('.ts'))
      .flatMap((file) => {
        const source = readFileSync(join(root, 'api', file), 'utf8');
        const path = `/api/${file.replace(/\.ts$/, '').replace(/\/?index$/, '')}`
          .replace(/\[\.\.\.\w+\]/g, 'x')
          .replace(/\[\w+\]/g, '01890000-0000-7000-8000-000000000001');
        return [...source.matchAll(/export const (GET|POST|PATCH|PUT|DELETE|ALL)\b/g)].map(
          ([, method]) => [method === 'ALL' ? 'POST' : method!, path] as const,
        );
      });
  })();
  it('each door that writes has somebody who may go through it, and the owner always may', () => {
    expect(doors.length).toBeGreaterThan(30);
    for (const [method, path] of doors.filter(([, path_]) => !isForAnybody(path_)))
      expect(mayGo('owner', method, path), `${method} ${path}`).toBe(true);
  });
  it('a door that nobody thought of stays shut for writing, for everybody', () => {
    for (const as of Role.options) {
      expect(mayGo(as, 'POST', '/api/anything')).toBe(false);
      expect(mayGo(as, 'DELETE', '/api/cases-of-others')).toBe(false);
    }
  });
  it('trainees write nothing but entries and pictures, the front desk nothing of boards', () => {
    const through = (as: Role): readonly string[] =>
      doors
        .filter(
          ([method, path]) => method !== 'GET' && !isForAnybody(path) && mayGo(as, method, path),
        )
        .map(([method, path]) => `${method} ${path.replace(/01890000[0-9a-f-]+/g, '*')}`)
        .sort();
    expect(through('trainee')).toEqual([
      'POST /api/cases/*/entries',
      'POST /api/cases/*/pictures',
      'POST /api/people/me',
    ]);
    for (const door of through('desk')) expect(door).toMatch(/\/api\/(cases|stock|people\/me)/);
    expect(through('repairer')).not.toContain('POST /api/people');
    expect(through('repairer')).not.toContain('POST /api/backups');
  });
  it('strangers get to know whether it is alive, and how to sign in', () => {
    const open = doors.filter(([, path]) => isForAnybody(path)).map(([, path]) => path);
    expect([...new Set(open)].sort()).toEqual(['/api/auth/x', '/api/health', '/api/ready']);
    for (const path of [
      '/',
      '/case/1/trace',
      '/people',
      '/sign-in/x',
      '/api/authx',
      '/api/health/x',
    ])
      expect(isForAnybody(path), path).toBe(false);
  });
});
