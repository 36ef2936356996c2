import { sql } from 'drizzle-orm';
import { jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { board } from './board';
import { moment } from './moment';

// What is worked out of other tables and may be thrown away at any time: it is worked out again.

/** What the workshop learned of its closed cases: one row a workshop. */
export const learned = pgTable('learned', {
  belongsTo: uuid('belongs_to')
    .primaryKey()
    .default(sql`workshop_here()`),
  /** Of which cases, settings and packs, and by which version of the application: another, another. */
  madeOf: text('made_of').notNull(),
  madeAt: moment('made_at').notNull().defaultNow(),
  /** What the page of patterns shows, with the newest lessons (`PatternsLearned`). */
  patterns: jsonb('patterns').notNull(),
  /** Every closed case with its shares (`TaughtCase`), the newest first. */
  lessons: jsonb('lessons').notNull(),
  /** What line-ups go by (`ForBoards`). */
  forBoards: jsonb('for_boards').notNull(),
});

/** What is on a sheet, and how often each of it fails by the rate table (`Exposed`). */
export const boardExposure = pgTable('board_exposure', {
  boardId: uuid('board_id')
    .primaryKey()
    .references(() => board.id),
  /** By which version of the application. */
  madeBy: text('made_by').notNull(),
  content: jsonb('content').notNull(),
});
