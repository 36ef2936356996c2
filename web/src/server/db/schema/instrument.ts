import { jsonb, pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core';

/**
 * An instrument of the workshop, as its data sheet and its owner's checks have it. A case keeps its
 * own copy of what it was when it was taken into use.
 */
export const instrument = pgTable('instrument', {
  /** Made by the client (UUID version 7). */
  id: uuid('id').primaryKey(),
  name: text('name').notNull(),
  /** Kinds of reading that it is used for. */
  kinds: jsonb('kinds').notNull(),
  /** Checked against the core's schema when it goes in and when it comes out. */
  profile: jsonb('profile').notNull(),
  /** Set aside: not offered any more, and kept for the cases that it was used in. */
  archivedAt: timestamp('archived_at', { withTimezone: true }),
  madeAt: timestamp('made_at', { withTimezone: true }).notNull().defaultNow(),
});
