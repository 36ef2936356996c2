import { pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core';

/**
 * Codes that the workshop wrote down, each for the unit of one maker and type: another unit of the
 * same kind blinks other codes. The newest row of a code counts.
 */
export const unitCode = pgTable('unit_code', {
  id: uuid('id').primaryKey(),
  unitType: text('unit_type').notNull(),
  /** The unit as the card names it. */
  unitModel: text('unit_model').notNull().default(''),
  code: text('code').notNull(),
  stage: text('stage').notNull(),
  meaning: text('meaning').notNull(),
  madeAt: timestamp('made_at', { withTimezone: true }).notNull().defaultNow(),
});
