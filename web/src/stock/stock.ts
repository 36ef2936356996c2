import { z } from 'zod';

// The workshop's stock as it is sent and shown.

const text = (most: number): z.ZodString =>
  z.string().trim().max(most, `at most ${most} characters`);
const count = z.number().int().min(0).max(100_000);

/** A lot as a person writes it down. */
export const NewLot = z.object({
  id: z.uuid(),
  text: text(160).min(1, 'what it is, for example 100u 16V electrolytic 105C'),
  bin: text(40),
  supplier: text(80),
  price: z.number().min(0).max(1e6).nullable(),
  boughtOn: z.iso.date('a date such as 2026-11-28').nullable(),
  quantity: count,
  minimum: count,
  donor: text(120),
  note: text(300),
});
export type NewLot = z.infer<typeof NewLot>;

export const Lot = NewLot.extend({
  reserved: count,
  /** Who it is kept for. */
  keptFor: z.array(z.object({ case: z.number().int(), count })),
});
export type Lot = z.infer<typeof Lot>;

/** How many can be taken by somebody who has none reserved. */
export const freeOf = ({ quantity, reserved }: Pick<Lot, 'quantity' | 'reserved'>): number =>
  quantity - reserved;

/** A movement of a lot. case: the number of the case that it is for. */
export const Move = z.object({
  id: z.uuid(),
  lot: z.uuid(),
  kind: z.enum(['take', 'put', 'count', 'reserve', 'release']),
  count,
  case: z.number().int().min(1).nullable(),
  note: text(300),
});
export type Move = z.infer<typeof Move>;

/** A part that an open case needs. */
export const StockNeed = z.object({
  case: z.number().int(),
  title: z.string(),
  ref: z.string(),
  text: z.string(),
  promisedOn: z.string().nullable(),
});
export type StockNeed = z.infer<typeof StockNeed>;

/** Cases that waited for something like it: one is kept for each, and they stand open again. */
const wakes = z.array(z.number().int());
/** What a movement made of its lot. */
export const Moved = z.object({ lot: Lot, wakes });
export type Moved = z.infer<typeof Moved>;
/** How many lots were new. */
export const Added = z.object({ added: z.number().int(), wakes });
