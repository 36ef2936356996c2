import Tokens from 'csrf';
import { changes, cookieName, TOKEN_HEADER, tokenIn } from '../../people/page-token';
import type { Database } from '../db/client';
import { secretOf, usesTls } from './auth';

const tokens = new Tokens();
const secrets = new WeakMap<Database, Promise<string>>();

/** The secret of one session's tokens. */
async function secretFor(db: Database, session: string): Promise<string> {
  let secret = secrets.get(db);
  if (!secret) {
    secret = secretOf(db);
    secrets.set(db, secret);
    secret.catch(() => secrets.delete(db));
  }
  return `${await secret} page ${session}`;
}

export interface PageToken {
  /** Whether the request may go on: it changes nothing, or shows that it comes from a page of ours. */
  readonly isOurs: boolean;
  /** The cookie to set, where the browser has none that is good. */
  readonly cookie: string | undefined;
}

/**
 * Looks at what a request of a session shows. A page of another site can have its cookies sent, but
 * cannot read them: so it cannot put one into the header as well. A token is good for one session.
 */
export async function pageToken(
  db: Database,
  { method, headers }: Pick<Request, 'method' | 'headers'>,
  session: string,
): Promise<PageToken> {
  const secret = await secretFor(db, session);
  const isGood = (token: string | null | undefined): boolean =>
    typeof token === 'string' && tokens.verify(secret, token);
  const has = isGood(tokenIn(headers.get('cookie') ?? ''));
  return {
    isOurs: !changes(method) || (has && isGood(headers.get(TOKEN_HEADER))),
    cookie: has
      ? undefined
      : `${cookieName(usesTls())}=${tokens.create(secret)}; Path=/; SameSite=Strict${usesTls() ? '; Secure' : ''}`,
  };
}
