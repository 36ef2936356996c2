import { randomInt } from 'node:crypto';
import { hashPassword } from 'better-auth/crypto';
import { and, asc, eq, isNull, ne, sql } from 'drizzle-orm';
import { v7 } from 'uuid';
import { nameAddress } from '../../people/name-address';
import { Person, type Role } from '../../people/role';
import type { Database } from '../db/client';
import {
  auditLine,
  person,
  personAccount,
  personPasskey,
  personSession,
} from '../db/schema/people';
import type { Outcome } from '../outcome';

/** Letters that nobody mistakes for one another, by hand or on a screen. */
const CODE_LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
const CODE_GROUPS = 4;
const GROUP_LENGTH = 4;

/** A code to come in with once: 16 of 31 letters, some 79 bits. */
export function newCode(): string {
  const group = (): string =>
    Array.from({ length: GROUP_LENGTH }, () => CODE_LETTERS[randomInt(CODE_LETTERS.length)]).join(
      '',
    );
  return Array.from({ length: CODE_GROUPS }, group).join('-');
}

export interface ListedPerson extends Person {
  readonly hasCode: boolean;
  /** Where he is signed in. */
  readonly sessions: number;
}

/** Whether anybody is to sign in: somebody was added and did not leave. */
export async function anybody(db: Database): Promise<boolean> {
  const [row] = await db
    .select({ id: person.id })
    .from(person)
    .where(isNull(person.leftAt))
    .limit(1);
  return row !== undefined;
}

export async function listPeople(db: Database): Promise<readonly ListedPerson[]> {
  const rows = await db
    .select({
      id: person.id,
      name: person.name,
      role: person.role,
      hasCode: person.hasCode,
      sessions: sql<number>`(select count(*)::int from ${personSession} where ${personSession.userId} = ${person.id} and ${personSession.expiresAt} > now())`,
    })
    .from(person)
    .where(isNull(person.leftAt))
    .orderBy(asc(person.name));
  return rows.map((row) => ({ ...row, ...Person.parse(row) }));
}

/** Writes down what was done to the workshop itself. */
export async function audit(db: Database, who: string, what: string): Promise<void> {
  await db.insert(auditLine).values({ who, what });
}

/** The last of what was done to the workshop itself, the newest first. */
export async function auditLines(db: Database, most = 100) {
  const rows = await db
    .select()
    .from(auditLine)
    .orderBy(sql`${auditLine.id} desc`)
    .limit(most);
  return rows.map(({ at, who, what }) => ({ at: at.toISOString(), who, what }));
}

/**
 * Adds somebody, with a code to come in with. The first one is the owner: nobody else could make one.
 * by: who does it.
 */
export async function addPerson(
  db: Database,
  { name, role }: { name: string; role: Role },
  by: string,
): Promise<Outcome<{ id: string; code: string }>> {
  const code = newCode();
  const password = await hashPassword(code);
  return db.transaction(async (tx) => {
    const email = nameAddress(name);
    const [known] = await tx.select().from(person).where(eq(person.email, email));
    if (known && known.leftAt === null)
      return { ok: false, why: 'clash', detail: `${known.name} is here already` };
    if (role !== 'owner' && !(await anybody(tx)))
      return { ok: false, why: 'refused', detail: 'the first one is the owner of the workshop' };
    const id = known?.id ?? v7();
    if (known)
      // Who left and comes back is the same one.
      await tx
        .update(person)
        .set({ name, role, hasCode: true, leftAt: null, updatedAt: new Date() })
        .where(eq(person.id, id));
    else await tx.insert(person).values({ id, name, email, role });
    await setPassword(tx, id, password);
    await audit(tx, by, `added ${name} as ${role}`);
    return { ok: true, value: { id, code } };
  });
}

async function setPassword(db: Database, userId: string, password: string): Promise<void> {
  const [account] = await db
    .select({ id: personAccount.id })
    .from(personAccount)
    .where(and(eq(personAccount.userId, userId), eq(personAccount.providerId, 'credential')));
  if (account)
    await db
      .update(personAccount)
      .set({ password, updatedAt: new Date() })
      .where(eq(personAccount.id, account.id));
  else
    await db
      .insert(personAccount)
      .values({ id: v7(), accountId: userId, providerId: 'credential', userId, password });
}

const NOBODY = { ok: false, why: 'missing', detail: 'nobody of that name is here' } as const;

async function here(db: Database, id: string) {
  const [row] = await db
    .select()
    .from(person)
    .where(and(eq(person.id, id), isNull(person.leftAt)));
  return row;
}

/** Another owner than this one: somebody has to be able to add people. */
async function hasOtherOwner(db: Database, id: string): Promise<boolean> {
  const [row] = await db
    .select({ id: person.id })
    .from(person)
    .where(and(eq(person.role, 'owner'), isNull(person.leftAt), ne(person.id, id)))
    .limit(1);
  return row !== undefined;
}

const LAST_OWNER = {
  ok: false,
  why: 'refused',
  detail: 'the last owner stays one: make somebody else an owner first',
} as const;

/** Somebody becomes something else. */
export function changeRole(
  db: Database,
  id: string,
  role: Role,
  by: string,
): Promise<Outcome<undefined>> {
  return db.transaction(async (tx) => {
    const row = await here(tx, id);
    if (!row) return NOBODY;
    if (row.role === 'owner' && role !== 'owner' && !(await hasOtherOwner(tx, id)))
      return LAST_OWNER;
    await tx.update(person).set({ role, updatedAt: new Date() }).where(eq(person.id, id));
    await audit(tx, by, `made ${row.name} ${role}`);
    return { ok: true, value: undefined };
  });
}

/** Somebody leaves: he is signed out everywhere, and what he did keeps his name. */
export function leave(db: Database, id: string, by: string): Promise<Outcome<undefined>> {
  return db.transaction(async (tx) => {
    const row = await here(tx, id);
    if (!row) return NOBODY;
    if (row.role === 'owner' && !(await hasOtherOwner(tx, id))) return LAST_OWNER;
    await tx.update(person).set({ leftAt: new Date() }).where(eq(person.id, id));
    await tx.delete(personSession).where(eq(personSession.userId, id));
    await tx.delete(personAccount).where(eq(personAccount.userId, id));
    await tx.delete(personPasskey).where(eq(personPasskey.userId, id));
    await audit(tx, by, `${row.name} left`);
    return { ok: true, value: undefined };
  });
}

/**
 * A new code for somebody who lost his password or a device: he is signed out everywhere, and no
 * passkey of before opens any more.
 */
export async function recover(
  db: Database,
  id: string,
  by: string,
): Promise<Outcome<{ code: string }>> {
  const code = newCode();
  const password = await hashPassword(code);
  return db.transaction(async (tx) => {
    const row = await here(tx, id);
    if (!row) return NOBODY;
    await setPassword(tx, id, password);
    await tx.update(person).set({ hasCode: true }).where(eq(person.id, id));
    await tx.delete(personSession).where(eq(personSession.userId, id));
    await tx.delete(personPasskey).where(eq(personPasskey.userId, id));
    await audit(tx, by, `a new code for ${row.name}`);
    return { ok: true, value: { code } };
  });
}

/** Somebody has a password of his own now. */
export async function hasOwnPassword(db: Database, id: string): Promise<void> {
  await db.update(person).set({ hasCode: false }).where(eq(person.id, id));
}

/** The id of somebody by his name. */
export async function personByName(db: Database, name: string): Promise<string | undefined> {
  const [row] = await db
    .select({ id: person.id })
    .from(person)
    .where(and(eq(person.email, nameAddress(name)), isNull(person.leftAt)));
  return row?.id;
}
