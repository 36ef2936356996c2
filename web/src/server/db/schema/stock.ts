import { sql } from 'drizzle-orm';
import {
  check,
  date,
  index,
  integer,
  numeric,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uuid,
} from 'drizzle-orm/pg-core';
import { repairCase } from './case';

/**
 * Parts of one kind that came together: a bag, a reel, what is left in a donor. quantity: in the
 * bin, those reserved with them. Never below zero, whoever takes at the same time.
 */
export const stockLot = pgTable(
  'stock_lot',
  {
    /** Made by the client (UUID version 7). */
    id: uuid('id').primaryKey(),
    /** What it is, as people write it: `100u 16V electrolytic 105C`. */
    text: text('text').notNull(),
    bin: text('bin').notNull().default(''),
    supplier: text('supplier').notNull().default(''),
    price: numeric('price', { precision: 10, scale: 2 }),
    boughtOn: date('bought_on'),
    quantity: integer('quantity').notNull(),
    reserved: integer('reserved').notNull().default(0),
    /** Below so many it is on the shopping list. */
    minimum: integer('minimum').notNull().default(0),
    /** The unit that it is left in; empty: a bin. */
    donor: text('donor').notNull().default(''),
    note: text('note').notNull().default(''),
    archivedAt: timestamp('archived_at', { withTimezone: true }),
    madeAt: timestamp('made_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [
    check('stock_lot_quantity', sql`${table.quantity} >= 0`),
    check(
      'stock_lot_reserved',
      sql`${table.reserved} >= 0 and ${table.reserved} <= ${table.quantity}`,
    ),
  ],
);

/** How many of a lot are kept for a case. */
export const stockReservation = pgTable(
  'stock_reservation',
  {
    lotId: uuid('lot_id')
      .notNull()
      .references(() => stockLot.id),
    caseId: uuid('case_id')
      .notNull()
      .references(() => repairCase.id),
    count: integer('count').notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.lotId, table.caseId] }),
    check('stock_reservation_count', sql`${table.count} > 0`),
  ],
);

/** Every movement of a lot. Rows are only ever added. */
export const stockMove = pgTable(
  'stock_move',
  {
    /** Made by the client: the same movement twice is made once. */
    id: uuid('id').primaryKey(),
    lotId: uuid('lot_id')
      .notNull()
      .references(() => stockLot.id),
    /** take, put, count, reserve, release. */
    kind: text('kind').notNull(),
    count: integer('count').notNull(),
    caseId: uuid('case_id').references(() => repairCase.id),
    note: text('note').notNull().default(''),
    madeAt: timestamp('made_at', { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index('stock_move_lot').on(table.lotId)],
);
