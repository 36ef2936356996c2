import { pgTable, text, timestamp } from 'drizzle-orm/pg-core';

/** Marks on the database itself, for example that the demo has been seeded. */
export const workshopMark = pgTable('workshop_mark', {
  name: text('name').primaryKey(),
  at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
});
