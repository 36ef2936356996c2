import { pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core';

/** Codes that the workshop wrote down for a kind of unit, beside those that ship with its model. The newest row of a code counts. */
export const unitCode = pgTable('unit_code', {
  id: uuid('id').primaryKey(),
  unitType: text('unit_type').notNull(),
  code: text('code').notNull(),
  stage: text('stage').notNull(),
  meaning: text('meaning').notNull(),
  madeAt: timestamp('made_at', { withTimezone: true }).notNull().defaultNow(),
});
