import { jsonb, pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core';

/**
 * A circuit model. A changed board is a new row, so that cases keep the one they were worked on.
 */
export const board = pgTable('board', {
  id: uuid('id').primaryKey(),
  title: text('title').notNull(),
  sourceName: text('source_name').notNull(),
  /** Board JSON, checked against the core's schema when it goes in and when it comes out. */
  content: jsonb('content').notNull(),
  createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
});
