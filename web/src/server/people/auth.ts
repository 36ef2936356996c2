import { randomBytes } from 'node:crypto';
import { isIP } from 'node:net';
import { passkey } from '@better-auth/passkey';
import { betterAuth } from 'better-auth';
import { APIError } from 'better-auth/api';
import { drizzleAdapter } from 'better-auth/adapters/drizzle';
import { eq } from 'drizzle-orm';
import type { Database } from '../db/client';
import {
  auditLine,
  person,
  personAccount,
  personPasskey,
  personSession,
  personVerification,
  signInRate,
} from '../db/schema/people';
import { workshopSetting } from '../db/schema/workshop';
import { logger } from '../logger';

/** The header under which the sign-in gets the address that asks; what comes in under it is dropped. */
export const ADDRESS_HEADER = 'x-hanzai-address';
/** Guesses of one address in a minute before it has to wait. */
const GUESSES_A_MINUTE = 8;
export const LEAST_PASSWORD = 10;
const SESSION_DAYS = 14;

const SECRET = 'sign-in secret';

/** The secret that cookies are signed with: made once, the same for every process. */
export async function secretOf(db: Database): Promise<string> {
  const made = randomBytes(32).toString('base64url');
  await db.insert(workshopSetting).values({ name: SECRET, value: made }).onConflictDoNothing();
  const [row] = await db.select().from(workshopSetting).where(eq(workshopSetting.name, SECRET));
  return String(row!.value);
}

/**
 * Where passkeys are good: a browser binds them to the name of an address, so the workshop has to
 * have one. Undefined where HANZAI_PUBLIC_URL tells none, or one that no browser takes.
 * Source: Web Authentication Level 3, relying party identifier (a domain, in a secure context).
 */
export function passkeyOrigin(publicUrl = process.env.HANZAI_PUBLIC_URL): string | undefined {
  if (!publicUrl || !URL.canParse(publicUrl)) return undefined;
  const { protocol, hostname, origin } = new URL(publicUrl);
  const isName = isIP(hostname.replace(/^\[|\]$/g, '')) === 0;
  const isSecure = protocol === 'https:' || (protocol === 'http:' && hostname === 'localhost');
  return isName && isSecure ? origin : undefined;
}

/** A device that only was there is not enough: it has to have asked for its finger, face or number. */
function wasVerified(verified: boolean | undefined): void {
  if (verified !== true)
    throw new APIError('UNAUTHORIZED', {
      message: 'the device did not ask who holds it: give it a PIN or a fingerprint',
    });
}

/** Signing in with a device, where the workshop has an address for it. */
function passkeys(db: Database) {
  const origin = passkeyOrigin();
  if (origin === undefined) return [];
  return [
    passkey({
      rpID: new URL(origin).hostname,
      rpName: 'Hanzai',
      origin,
      authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
      registration: {
        afterVerification: async ({ verification, user }) => {
          wasVerified(verification.registrationInfo?.userVerified);
          const [whose] = await db.select().from(person).where(eq(person.id, user.id));
          await db.insert(auditLine).values({ who: whose!.name, what: 'made a passkey' });
        },
      },
      authentication: {
        afterVerification: ({ verification }) =>
          wasVerified(verification.authenticationInfo.userVerified),
      },
    }),
  ];
}

/** Whether browsers reach the workshop over TLS: its cookies are for that alone then. */
export const usesTls = (): boolean =>
  process.env.HANZAI_PUBLIC_URL?.startsWith('https://') === true ||
  (process.env.HANZAI_CERTIFICATE ?? '') !== '';

/** Signing in, over the workshop's database. Passwords are kept as scrypt hashes. */
async function makeAuth(db: Database) {
  return betterAuth({
    appName: 'Hanzai',
    secret: await secretOf(db),
    ...(process.env.HANZAI_PUBLIC_URL ? { baseURL: process.env.HANZAI_PUBLIC_URL } : {}),
    basePath: '/api/auth',
    // The door looks at the name that it is called by (doors.mjs), the middleware at who calls.
    trustedOrigins: (request) => {
      const host = request?.headers.get('host');
      return host ? [`http://${host}`, `https://${host}`] : [];
    },
    telemetry: { enabled: false },
    // Wrong passwords are no news; who typed them is nobody's business.
    logger: {
      level: 'error',
      log: (level, message) => logger[level]({ from: 'sign-in' }, message),
    },
    database: drizzleAdapter(db, {
      provider: 'pg',
      schema: {
        user: person,
        session: personSession,
        account: personAccount,
        verification: personVerification,
        rateLimit: signInRate,
        passkey: personPasskey,
      },
    }),
    user: {
      additionalFields: {
        role: { type: 'string', input: false, defaultValue: 'repairer' },
        hasCode: { type: 'boolean', input: false, defaultValue: true },
      },
    },
    emailAndPassword: {
      enabled: true,
      disableSignUp: true,
      minPasswordLength: LEAST_PASSWORD,
      maxPasswordLength: 128,
    },
    session: { expiresIn: SESSION_DAYS * 86_400, updateAge: 86_400 },
    rateLimit: {
      enabled: true,
      storage: 'database',
      window: 60,
      max: 200,
      customRules: {
        '/sign-in/email': { window: 60, max: GUESSES_A_MINUTE },
        '/passkey/verify-authentication': { window: 60, max: GUESSES_A_MINUTE },
      },
    },
    plugins: passkeys(db),
    advanced: {
      useSecureCookies: usesTls(),
      cookiePrefix: 'hanzai',
      ipAddress: { ipAddressHeaders: [ADDRESS_HEADER] },
    },
  });
}

export type Auth = Awaited<ReturnType<typeof makeAuth>>;
const auths = new WeakMap<Database, Promise<Auth>>();

export function authOf(db: Database): Promise<Auth> {
  let auth = auths.get(db);
  if (!auth) {
    auth = makeAuth(db);
    auths.set(db, auth);
    // What failed once is tried again.
    auth.catch(() => auths.delete(db));
  }
  return auth;
}
