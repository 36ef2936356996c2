import { sql } from 'drizzle-orm';
import { bigint, boolean, index, integer, pgTable, text, unique, uuid } from 'drizzle-orm/pg-core';
import { moment } from './moment';

/** Who signs in here. Somebody who left stays, for what he did has his name. */
export const person = pgTable(
  'person',
  {
    id: text('id').primaryKey(),
    /** As every table has it; here it is part of what is unique (docs/decisions, 45). */
    belongsTo: uuid('belongs_to')
      .notNull()
      .default(sql`workshop_here()`),
    name: text('name').notNull(),
    /** A stand-in that the sign-in goes by: the name in one spelling. No mail is ever sent. */
    email: text('email').notNull(),
    emailVerified: boolean('email_verified').notNull().default(false),
    image: text('image'),
    role: text('role').notNull().default('repairer'),
    /** Came in with a code that somebody else has seen: a password of his own is still to be chosen. */
    hasCode: boolean('has_code').notNull().default(true),
    leftAt: moment('left_at'),
    createdAt: moment('created_at').notNull().defaultNow(),
    updatedAt: moment('updated_at').notNull().defaultNow(),
  },
  (table) => [unique('person_email_unique').on(table.belongsTo, table.email)],
);

/** Where somebody is signed in. */
export const personSession = pgTable(
  'person_session',
  {
    id: text('id').primaryKey(),
    token: text('token').notNull().unique(),
    userId: text('user_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    expiresAt: moment('expires_at').notNull(),
    ipAddress: text('ip_address'),
    userAgent: text('user_agent'),
    createdAt: moment('created_at').notNull().defaultNow(),
    updatedAt: moment('updated_at').notNull().defaultNow(),
  },
  (table) => [index('person_session_person').on(table.userId)],
);

/** What somebody signs in with: scrypt of a password. */
export const personAccount = pgTable(
  'person_account',
  {
    id: text('id').primaryKey(),
    accountId: text('account_id').notNull(),
    providerId: text('provider_id').notNull(),
    userId: text('user_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    accessToken: text('access_token'),
    refreshToken: text('refresh_token'),
    idToken: text('id_token'),
    accessTokenExpiresAt: moment('access_token_expires_at'),
    refreshTokenExpiresAt: moment('refresh_token_expires_at'),
    scope: text('scope'),
    password: text('password'),
    createdAt: moment('created_at').notNull().defaultNow(),
    updatedAt: moment('updated_at').notNull().defaultNow(),
  },
  (table) => [index('person_account_person').on(table.userId)],
);

/** A passkey: what a device of somebody signs in with. Only its public half is here. */
export const personPasskey = pgTable(
  'person_passkey',
  {
    id: text('id').primaryKey(),
    name: text('name'),
    publicKey: text('public_key').notNull(),
    userId: text('user_id')
      .notNull()
      .references(() => person.id, { onDelete: 'cascade' }),
    credentialID: text('credential_id').notNull().unique(),
    counter: bigint('counter', { mode: 'number' }).notNull(),
    deviceType: text('device_type').notNull(),
    backedUp: boolean('backed_up').notNull(),
    transports: text('transports'),
    createdAt: moment('created_at').defaultNow(),
    aaguid: text('aaguid'),
  },
  (table) => [index('person_passkey_person').on(table.userId)],
);

/** What was asked of a device a moment ago: each is answered once. */
export const personVerification = pgTable('person_verification', {
  id: text('id').primaryKey(),
  identifier: text('identifier').notNull(),
  value: text('value').notNull(),
  expiresAt: moment('expires_at').notNull(),
  createdAt: moment('created_at').notNull().defaultNow(),
  updatedAt: moment('updated_at').notNull().defaultNow(),
});

/** How often an address tried to sign in. */
export const signInRate = pgTable('sign_in_rate', {
  id: text('id').primaryKey(),
  key: text('key').notNull().unique(),
  count: integer('count').notNull(),
  lastRequest: bigint('last_request', { mode: 'number' }).notNull(),
});

/** What was done to the workshop itself, and by whom: only ever added to. */
export const auditLine = pgTable('audit_line', {
  id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
  at: moment('at').notNull().defaultNow(),
  who: text('who').notNull(),
  what: text('what').notNull(),
});
