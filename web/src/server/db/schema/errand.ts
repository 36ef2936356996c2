import { bigint, index, integer, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import { bytea } from './bytea';
import { moment } from './moment';

/** Work too long for a request: what was asked for, how far it is, what came of it. Kept for a day. */
export const errand = pgTable(
  'errand',
  {
    id: uuid('id').primaryKey(),
    /** Which work: see `web/src/workshop/errands.ts`. */
    what: text('what').notNull(),
    state: text('state').notNull().default('waiting'),
    /** Name of the file that came with it, or goes out. */
    name: text('name').notNull().default(''),
    askedBy: text('asked_by').notNull(),
    askedAt: moment('asked_at').notNull().defaultNow(),
    endedAt: moment('ended_at'),
    /** Bytes of its file. */
    bytes: bigint('bytes', { mode: 'number' }).notNull().default(0),
    /** Of those, worked on. */
    worked: bigint('worked', { mode: 'number' }).notNull().default(0),
    /** What came of it, in words. */
    said: text('said').notNull().default(''),
  },
  (table) => [index('errand_asked').on(table.askedAt)],
);

/** The file of an errand in pieces, so that none of it has to be whole in memory. */
export const errandPiece = pgTable(
  'errand_piece',
  {
    errandId: uuid('errand_id')
      .notNull()
      .references(() => errand.id, { onDelete: 'cascade' }),
    nth: integer('nth').notNull(),
    bytes: bytea('bytes').notNull(),
  },
  (table) => [primaryKey({ columns: [table.errandId, table.nth] })],
);
