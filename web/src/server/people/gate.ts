import { changes } from '../../people/page-token';
import type { Database } from '../db/client';
import { Person } from '../../people/role';
import { ADDRESS_HEADER, authOf } from './auth';
import { anybody } from './people';

/** Who asks. open: nobody signs in here. */
export type Asker =
  | { readonly who: 'open' }
  | { readonly who: 'stranger' }
  | {
      readonly who: 'person';
      readonly person: Person;
      readonly hasCode: boolean;
      /** Id of the session. */
      readonly session: string;
    };

/**
 * What anybody may ask for: whether it is alive, what signing in itself needs, and what a visitor's
 * link shows to whoever has it.
 */
const ANYBODY =
  /^\/(?:visit\/[\w-]{43}(?:\/[0-9a-f-]{36}\.jpg)?|api\/health|api\/ready|api\/auth\/.*|sign-in|_astro\/.*|fonts\/.*|favicon.*|sw\.js|manifest.*|robots\.txt)$/;

/** How long it is believed that nobody has to sign in: somebody may just be added elsewhere. */
const OPEN_FOR = 2000;
/** Once there are people, the house is never open again while this process runs. */
const houses = new WeakMap<Database, { readonly open: boolean; readonly until: number }>();

async function isOpen(db: Database): Promise<boolean> {
  const known = houses.get(db);
  if (known && (!known.open || Date.now() < known.until)) return known.open;
  const open = !(await anybody(db));
  houses.set(db, { open, until: Date.now() + OPEN_FOR });
  return open;
}

/** Somebody was added just now: from this moment on people sign in. */
export const closeHouse = (db: Database): void => void houses.set(db, { open: false, until: 0 });

/** Who does something, as it is written down. */
export const actorOf = ({ person }: App.Locals): string => person?.name ?? 'this machine';

/** Where a session begins: whoever asks there may still have an old one. */
const SIGNS_IN = /^\/api\/auth\/(?:sign-in\/|passkey\/(?:generate|verify)-authentication)/;

/** Whether a request changes a session, or what it signs in by. */
export const changesSession = (method: string, path: string): boolean =>
  changes(method) && path.startsWith('/api/auth/') && !SIGNS_IN.test(path);

export const isForAnybody = (path: string): boolean => ANYBODY.test(path);

/** Who asks for something. */
export async function whoAsks(db: Database, asked: Headers): Promise<Asker> {
  if (await isOpen(db)) return { who: 'open' };
  if (!(asked.get('cookie') ?? '').includes('hanzai')) return { who: 'stranger' };
  const auth = await authOf(db);
  const session = await auth.api.getSession({ headers: asked });
  const person = Person.safeParse(session?.user);
  if (!session || !person.success) return { who: 'stranger' };
  const { user } = session;
  return {
    who: 'person',
    person: person.data,
    hasCode: user.hasCode === true,
    session: session.session.id,
  };
}

/** Headers as the sign-in gets them: with the address that asks, whatever they say of themselves. */
export function withAddress(asked: Headers, address: string): Headers {
  const headers = new Headers(asked);
  headers.set(ADDRESS_HEADER, address);
  return headers;
}
