import { index, integer, jsonb, pgTable, text, timestamp, unique, uuid } from 'drizzle-orm/pg-core';
import { bytea } from './bytea';
import type { Tie } from '@hanzai/core/board';

/**
 * A circuit model. A changed board is a new row, so that cases keep the one they were worked on.
 */
export const board = pgTable(
  'board',
  {
    id: uuid('id').primaryKey(),
    /** The id of the first version of this sheet; versions of one sheet share it. */
    sheet: uuid('sheet').notNull(),
    version: integer('version').notNull().default(1),
    madeBy: text('made_by').notNull().default('bench'),
    /** What is different from the version before, in words. */
    changes: jsonb('changes').$type<readonly string[]>().notNull().default([]),
    title: text('title').notNull(),
    sourceName: text('source_name').notNull(),
    /** Board JSON, checked against the core's schema when it goes in and when it comes out. */
    content: jsonb('content').notNull(),
    /** As people count them; so that lists never look into the content. */
    parts: integer('parts'),
    nets: integer('nets'),
    /** Set aside: not offered for new cases, and kept for those that were worked on it. */
    archivedAt: timestamp('archived_at', { withTimezone: true }),
    createdAt: timestamp('created_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [unique('board_sheet_version').on(table.sheet, table.version)],
);

/**
 * Pictures of a sheet's board, upright and freed of what the camera wrote beside them: one side each,
 * laid on the board by points that are known on both. The newest of a side is shown.
 */
export const boardPicture = pgTable(
  'board_picture',
  {
    /** Made by the client (UUID version 7). */
    id: uuid('id').primaryKey(),
    /** The id of the first version of the sheet; all its versions share its pictures. */
    sheet: uuid('sheet')
      .notNull()
      .references(() => board.id),
    side: text('side').$type<'top' | 'bottom'>().notNull(),
    ties: jsonb('ties').$type<readonly Tie[]>().notNull().default([]),
    widthPx: integer('width_px').notNull(),
    heightPx: integer('height_px').notNull(),
    /** Its bytes; null where they lie in the picture store. */
    image: bytea('image'),
    /** Key in the picture store. */
    keptAt: text('kept_at'),
    thumbnail: bytea('thumbnail').notNull(),
    takenAt: timestamp('taken_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index('board_picture_sheet').on(table.sheet)],
);
