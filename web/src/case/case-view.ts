import { OpenUpStep } from '@hanzai/core/bench';
import type { Board } from '@hanzai/core/board';
import { z } from 'zod';
import { Entry } from './entry';
import { UnitCode } from './unit-code';

/** A case as the server sends it, without its board sheet, which never changes and comes apart. */
export const SentCase = z.object({
  id: z.uuid(),
  number: z.number().int(),
  version: z.number().int(),
  title: z.string(),
  unitModel: z.string(),
  serial: z.string(),
  owner: z.string(),
  complaint: z.string(),
  spendingLimit: z.string().nullable(),
  promisedOn: z.string().nullable(),
  waitsFor: z.string(),
  waitsKind: z.string(),
  unitType: z.string(),
  accessories: z.string(),
  stuckInside: z.string(),
  causeOfDeath: z.string(),
  earlierVisitors: z.string(),
  mediaNote: z.string(),
  batch: z.string(),
  madeIn: z.number().int().nullable(),
  hoursRun: z.number().int().nullable(),
  /** Codes that the workshop wrote down for this unit. */
  codes: z.array(UnitCode),
  /** How the last unit of this model came apart; empty where none did. */
  template: z.array(OpenUpStep),
  openedAt: z.string(),
  boardId: z.uuid().nullable(),
  entries: z.array(z.unknown()),
  /** Entries that the server cannot read: kept, and not sent. */
  unreadable: z.number().int(),
});
export type SentCase = z.infer<typeof SentCase>;

/** As the server makes it: what it sends has been read by it. */
export interface CaseAnswer extends Omit<SentCase, 'entries'> {
  readonly entries: readonly Entry[];
}

/** A case as the browser works with it. */
export interface CaseView extends Omit<SentCase, 'entries' | 'boardId'> {
  readonly board: { readonly id: string; readonly content: Board } | null;
  readonly entries: readonly Entry[];
}

/**
 * The entries of an answer that this version can read, and how many it cannot: a page may be older
 * than the server.
 */
export function readEntries(sent: readonly unknown[]): {
  readonly entries: readonly Entry[];
  readonly unreadable: number;
} {
  const entries = sent.flatMap((one) => {
    const read = Entry.safeParse(one);
    return read.success ? [read.data] : [];
  });
  return { entries, unreadable: sent.length - entries.length };
}
