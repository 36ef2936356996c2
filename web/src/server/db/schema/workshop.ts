import { sql } from 'drizzle-orm';
import { jsonb, pgTable, primaryKey, real, text, timestamp, uuid } from 'drizzle-orm/pg-core';

/** The workshop of a role that connects; one that is not listed works for the first (docs/decisions, 45). */
export const workshopRole = pgTable('workshop_role', {
  role: text('role').primaryKey(),
  workshop: uuid('workshop').notNull().defaultRandom(),
});

/** Marks on the database itself, for example that the demo has been seeded. */
export const workshopMark = pgTable('workshop_mark', {
  name: text('name').primaryKey(),
  at: timestamp('at', { withTimezone: true }).notNull().defaultNow(),
});

/** What a workshop has set for all of its people, by name. */
export const workshopSetting = pgTable(
  'workshop_setting',
  {
    /** As every table has it; here alone it is part of the key (docs/decisions, 45). */
    belongsTo: uuid('belongs_to')
      .notNull()
      .default(sql`workshop_here()`),
    name: text('name').notNull(),
    value: jsonb('value').notNull(),
  },
  (table) => [primaryKey({ columns: [table.belongsTo, table.name] })],
);

/** Patterns that a workshop wrote down itself: what is seen, and what it was. */
export const ownPattern = pgTable('own_pattern', {
  /** Made by the client (UUID version 7). */
  id: uuid('id').primaryKey(),
  /** Name of the unit model; empty: of any. */
  unitType: text('unit_type').notNull().default(''),
  seen: text('seen').notNull(),
  suspects: text('suspects').notNull(),
  because: text('because').notNull().default(''),
  firstTests: text('first_tests').notNull().default(''),
  archivedAt: timestamp('archived_at', { withTimezone: true }),
  madeAt: timestamp('made_at', { withTimezone: true }).notNull().defaultNow(),
});

/** What other workshops learned: the newest pack of each. */
export const patternPack = pgTable('pattern_pack', {
  workshop: uuid('workshop').primaryKey(),
  content: jsonb('content').notNull(),
  /** How far it is believed, 0 to 1. */
  trust: real('trust').notNull().default(0.5),
  archivedAt: timestamp('archived_at', { withTimezone: true }),
  takenAt: timestamp('taken_at', { withTimezone: true }).notNull().defaultNow(),
});
