import { indexBoard, type Board } from '@hanzai/core/board';
import { v7 } from 'uuid';
import { z } from 'zod';
import { type Entry } from '../../case/entry';
import { playJournal } from '../../case/journal';
import { caseProgress, type Progress } from '../../case/progress';
import { entryObjection } from '../../case/rules';
import { findBoard, listBoards } from '../board/repository';
import type { Database } from '../db/client';
import {
  caseOfEntry,
  entriesOf,
  entriesOfAll,
  findCase,
  findCaseByNumber,
  insertCase,
  insertEntry,
  listCases,
  lockCase,
  updateCase,
  type CaseRow,
} from './repository';

const text = (most: number): z.ZodDefault<z.ZodString> => z.string().trim().max(most).default('');

/** What opening a case takes. */
export const NewCaseRequest = z.object({
  title: z.string().trim().min(1, 'a few words, for example "CR-40, no movement"').max(160),
  unitModel: z.string().trim().min(1, 'the unit, for example "CR-40 card-disc reader"').max(120),
  serial: text(80),
  owner: text(120),
  complaint: text(2000),
  spendingLimit: z.string().regex(/^\d{1,7}(\.\d{1,2})?$/, 'an amount such as 120 or 79.50').nullish(),
  promisedOn: z.iso.date('a date such as 2026-12-24').nullish(),
  boardId: z.uuid().nullish(),
}); // prettier-ignore
export type NewCaseRequest = z.infer<typeof NewCaseRequest>;

/** What can be corrected later. `version` is the one the correction was made on. */
export const CaseCorrection = NewCaseRequest.partial().extend({ waitsFor: z.string().trim().max(200).optional(), version: z.number().int() });
export type CaseCorrection = z.infer<typeof CaseCorrection>;

/** A case as the browser gets it. */
export interface CaseView {
  readonly id: string;
  readonly number: number;
  readonly version: number;
  readonly title: string;
  readonly unitModel: string;
  readonly serial: string;
  readonly owner: string;
  readonly complaint: string;
  readonly spendingLimit: string | null;
  readonly promisedOn: string | null;
  readonly waitsFor: string;
  readonly openedAt: string;
  readonly board: { readonly id: string; readonly content: Board } | null;
  readonly entries: readonly Entry[];
}

export type Outcome<T> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly why: 'missing' | 'clash' | 'refused'; readonly detail: string };

async function view(db: Database, row: CaseRow): Promise<CaseView> {
  const [board, entries] = await Promise.all([row.boardId ? findBoard(db, row.boardId) : undefined, entriesOf(db, row.id)]);
  const { id, number, version, title, unitModel, serial, owner, complaint, spendingLimit, promisedOn, waitsFor } = row;
  return {
    id,
    number,
    version,
    title,
    unitModel,
    serial,
    owner,
    complaint,
    spendingLimit,
    promisedOn,
    waitsFor,
    openedAt: row.openedAt.toISOString(),
    board: board ? { id: board.id, content: board.content } : null,
    entries,
  };
}

export async function openCase(db: Database, request: NewCaseRequest): Promise<Outcome<CaseView>> {
  if (request.boardId && !(await findBoard(db, request.boardId)))
    return { ok: false, why: 'refused', detail: 'the board sheet is not here; expected the id of a stored board' };
  const row = await insertCase(db, { id: v7(), ...request });
  return { ok: true, value: await view(db, row) };
}

export async function caseView(db: Database, id: string): Promise<CaseView | undefined> {
  const row = await findCase(db, id);
  return row && view(db, row);
}

export async function caseViewByNumber(db: Database, number: number): Promise<CaseView | undefined> {
  const row = await findCaseByNumber(db, number);
  return row && view(db, row);
}

export async function correctCase(db: Database, id: string, { version, ...change }: CaseCorrection): Promise<Outcome<CaseView>> {
  if (change.boardId && !(await findBoard(db, change.boardId)))
    return { ok: false, why: 'refused', detail: 'the board sheet is not here; expected the id of a stored board' };
  const row = await updateCase(db, id, version, change);
  if (row) return { ok: true, value: await view(db, row) };
  const current = await findCase(db, id);
  return current
    ? {
        ok: false,
        why: 'clash',
        detail: `somebody changed this case meanwhile (version ${current.version}, yours ${version}); reload and enter your change again`,
      }
    : { ok: false, why: 'missing', detail: 'no such case' };
}

/** Adds an entry to a case's journal. The same entry sent twice is stored once and answered the same.
 *  The rules are checked in the same transaction that stores it, with the case locked. */
export async function addEntry(db: Database, caseId: string, entry: Entry): Promise<Outcome<{ created: boolean }>> {
  return db.transaction(async (tx) => {
    const row = await lockCase(tx, caseId);
    if (!row) return { ok: false, why: 'missing', detail: 'no such case' };
    const owner = await caseOfEntry(tx, entry.id);
    if (owner === caseId) return { ok: true, value: { created: false } };
    if (owner !== undefined) return { ok: false, why: 'refused', detail: 'this entry id belongs to another case' };
    const board = row.boardId ? await findBoard(tx, row.boardId) : undefined;
    const objection = entryObjection(entry.body, await entriesOf(tx, caseId), board && indexBoard(board.content));
    if (objection) return { ok: false, why: 'refused', detail: objection };
    await insertEntry(tx, caseId, entry);
    return { ok: true, value: { created: true } };
  });
}

/** One line of the docket. */
export interface DocketLine {
  readonly number: number;
  readonly title: string;
  readonly unitModel: string;
  readonly owner: string;
  readonly openedAt: string;
  readonly promisedOn: string | null;
  readonly waitsFor: string;
  readonly state: 'open' | 'waiting' | 'closed';
  readonly lastEntryAt: string | null;
  readonly progress: Pick<Progress, 'pads' | 'nextAction' | 'nextStage'>;
}

/** All cases: open ones first by promised date, then waiting, then closed. */
export async function docket(db: Database): Promise<readonly DocketLine[]> {
  const rows = await listCases(db);
  const [entries, boards] = await Promise.all([entriesOfAll(db, rows.map(({ id }) => id)), listBoards(db)]); // prettier-ignore
  const indices = new Map(boards.map(({ id, content }) => [id, indexBoard(content)]));
  const lines = rows.map((row): DocketLine => {
    const index = row.boardId ? indices.get(row.boardId) : undefined;
    const own = entries.get(row.id) ?? [];
    const journal = playJournal(own, index);
    const { pads, nextAction, nextStage } = caseProgress(index, journal);
    const { number, title, unitModel, owner, promisedOn, waitsFor } = row;
    const state = journal.closed ? 'closed' : waitsFor ? 'waiting' : 'open';
    return {
      number,
      title,
      unitModel,
      owner,
      promisedOn,
      waitsFor,
      state,
      openedAt: row.openedAt.toISOString(),
      lastEntryAt: own.at(-1)?.madeAt ?? null,
      progress: { pads, nextAction, nextStage },
    };
  });
  const rank = { open: 0, waiting: 1, closed: 2 } as const;
  return lines.sort((a, b) => rank[a.state] - rank[b.state] || (a.promisedOn ?? '9999').localeCompare(b.promisedOn ?? '9999') || b.number - a.number);
}
