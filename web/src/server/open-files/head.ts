import { z } from 'zod';

/** The first file of a workshop as open files: what the others are. */
export const WorkshopHead = z.object({
  format: z.literal('hanzai-workshop'),
  version: z.literal(1),
  madeAt: z.iso.datetime(),
  /** How many rows of each table follow. */
  rows: z.record(z.string(), z.number().int().min(0)),
});
export type WorkshopHead = z.infer<typeof WorkshopHead>;

/** A row as the database has it, by its columns. */
export const Row = z.record(z.string(), z.unknown());
export type Row = z.infer<typeof Row>;

/** The card of a case: by its id and number at least. */
const Card = z.looseObject({ id: z.uuid(), number: z.int().min(1).max(2_147_483_647) });

/** A case as one file: its card, its journal, and what is known of its pictures. */
export const CaseFile = z.object({
  format: z.literal('hanzai-case'),
  version: z.literal(1),
  card: Card,
  /** In the order in which they were recorded. */
  entries: z.array(Row),
  pictures: z.array(Row),
});
export type CaseFile = z.infer<typeof CaseFile>;

/** Tables of a workshop that are files of rows, each after those that it speaks of. */
export const BEFORE_CASES = ['instrument', 'unit_code', 'own_pattern', 'pattern_pack'] as const;
export const AFTER_CASES = ['stock_lot', 'stock_reservation', 'stock_move'] as const;

/** Who worked here, to be read by people: nobody signs in by a file. */
export const TO_READ = ['person', 'audit_line'] as const;

export const HEAD = 'workshop.json';
export const BOARDS = 'boards/list.json';
export const BOARD_PICTURES = 'boards/pictures.json';
