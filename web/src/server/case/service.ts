import { indexBoard, type Board, type BoardIndex } from '@hanzai/core/board';
import { isDeepStrictEqual } from 'node:util';
import { v7 } from 'uuid';
import { z } from 'zod';
import { type Entry } from '../../case/entry';
import { playJournal } from '../../case/journal';
import { caseProgress, type Progress } from '../../case/progress';
import { entryObjection } from '../../case/rules';
import { benchMinutes, urgencyOf, type OpenUpStep, type Urgency } from '@hanzai/core/bench';
import { isTimerDue, timerEnd, type Journal } from '../../case/journal';
import { unitModelOf } from '../../case/unit';
import { findBoard, listBoards } from '../board/repository';
import type { Outcome } from '../outcome';
import { unitCodes, type UnitCode } from '../unit/service';
import type { Database } from '../db/client';
import {
  entryById,
  entriesOf,
  entriesOfAll,
  findCase,
  findCaseByNumber,
  insertCase,
  insertEntry,
  listCases,
  lockCase,
  openedBefore,
  readEntries,
  updateCase,
  type CaseRow,
} from './repository';

const text = (most: number): z.ZodString => z.string().trim().max(most);

/** What stands on the card of a case. */
const CARD = {
  title: z.string().trim().min(1, 'a few words, for example "CR-40, no movement"').max(160),
  unitModel: z.string().trim().min(1, 'the unit, for example "CR-40 card-disc reader"').max(120),
  spendingLimit: z
    .string()
    .regex(/^\d{1,7}(\.\d{1,2})?$/, 'an amount such as 120 or 79.50')
    .nullish(),
  promisedOn: z.iso.date('a date such as 2026-12-24').nullish(),
  boardId: z.uuid().nullish(),
};
const CARD_WORDS = {
  serial: text(80),
  owner: text(120),
  complaint: text(2000),
  unitType: text(40),
  accessories: text(500),
  stuckInside: text(300),
  causeOfDeath: text(300),
  earlierVisitors: text(500),
  mediaNote: text(500),
  batch: text(60),
};

/** What opening a case takes. Words that are not given are empty. */
export const NewCaseRequest = z.object({ ...CARD, ...CARD_WORDS }).partial(asMask(CARD_WORDS));
export type NewCaseRequest = z.infer<typeof NewCaseRequest>;

/**
 * What can be corrected later; what is not given stays as it is. `version` is the one the
 * correction was made on.
 */
export const CaseCorrection = z
  .object({
    ...CARD,
    ...CARD_WORDS,
    waitsFor: text(200),
    waitsKind: z.enum(['', 'part', 'owner', 'timer']),
  })
  .partial()
  .extend({ version: z.number().int().min(1).max(2_147_483_647) });
export type CaseCorrection = z.infer<typeof CaseCorrection>;

/** Every name of an object, marked. */
function asMask<T extends object>(fields: T): { [K in keyof T]: true } {
  return Object.fromEntries(Object.keys(fields).map((name) => [name, true])) as {
    [K in keyof T]: true;
  };
}

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
  readonly waitsKind: string;
  readonly unitType: string;
  readonly accessories: string;
  readonly stuckInside: string;
  readonly causeOfDeath: string;
  readonly earlierVisitors: string;
  readonly mediaNote: string;
  readonly batch: string;
  /** Codes that the workshop wrote down for this unit. */
  readonly codes: readonly UnitCode[];
  /** How the last unit of this model came apart; empty where none did. */
  readonly template: readonly OpenUpStep[];
  readonly openedAt: string;
  readonly board: { readonly id: string; readonly content: Board } | null;
  readonly entries: readonly Entry[];
  /** Entries that this version cannot read: kept, and not shown. */
  readonly unreadable: number;
}

async function view(db: Database, { openedAt, boardId, ...row }: CaseRow): Promise<CaseView> {
  const [board, { entries, unreadable }, codes, template] = await Promise.all([
    boardId ? findBoard(db, boardId) : undefined,
    readEntries(db, row.id),
    unitCodes(db, row.unitType, row.unitModel),
    templateFor(db, row),
  ]);
  return {
    ...row,
    unreadable,
    codes,
    template,
    openedAt: openedAt.toISOString(),
    board: board ? { id: board.id, content: board.content } : null,
    entries,
  };
}

/** The steps in which the last unit of this model was opened. */
async function templateFor(
  db: Database,
  { id, unitModel }: Pick<CaseRow, 'id' | 'unitModel'>,
): Promise<readonly OpenUpStep[]> {
  const earlier = await openedBefore(db, unitModel, id);
  return earlier ? playJournal(await entriesOf(db, earlier), undefined).steps : [];
}

export async function openCase(db: Database, request: NewCaseRequest): Promise<Outcome<CaseView>> {
  if (request.boardId && !(await findBoard(db, request.boardId)))
    return {
      ok: false,
      why: 'refused',
      detail: 'the board sheet is not here; expected the id of a stored board',
    };
  const row = await insertCase(db, { id: v7(), ...request });
  return { ok: true, value: await view(db, row) };
}

export async function caseView(db: Database, id: string): Promise<CaseView | undefined> {
  const row = await findCase(db, id);
  return row && view(db, row);
}

export async function caseViewByNumber(
  db: Database,
  number: number,
): Promise<CaseView | undefined> {
  const row = await findCaseByNumber(db, number);
  return row && view(db, row);
}

export async function correctCase(
  db: Database,
  id: string,
  { version, ...change }: CaseCorrection,
): Promise<Outcome<CaseView>> {
  if (change.boardId && !(await findBoard(db, change.boardId)))
    return {
      ok: false,
      why: 'refused',
      detail: 'the board sheet is not here; expected the id of a stored board',
    };
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

/**
 * Adds an entry to a case's journal. The same entry sent twice is stored once and answered the
 * same. The rules are checked in the same transaction that stores it, with the case locked.
 */
export async function addEntry(
  db: Database,
  caseId: string,
  entry: Entry,
): Promise<Outcome<{ created: boolean }>> {
  return db.transaction(async (tx) => {
    const row = await lockCase(tx, caseId);
    if (!row) return { ok: false, why: 'missing', detail: 'no such case' };
    const owner = await entryById(tx, entry.id);
    if (owner !== undefined && owner.caseId !== caseId)
      return { ok: false, why: 'clash', detail: 'this entry id belongs to another case' };
    if (owner !== undefined)
      return owner.entry && isSameEntry(owner.entry, entry)
        ? { ok: true, value: { created: false } }
        : { ok: false, why: 'clash', detail: 'another entry is stored under this id' };
    const board = row.boardId ? await findBoard(tx, row.boardId) : undefined;
    const objection = entryObjection(
      entry.body,
      await entriesOf(tx, caseId),
      board && indexBoard(board.content),
      unitModelOf(row.unitType, await unitCodes(tx, row.unitType, row.unitModel)),
    );
    if (objection) return { ok: false, why: 'refused', detail: objection };
    await insertEntry(tx, caseId, entry);
    return { ok: true, value: { created: true } };
  });
}

/**
 * Whether two entries say the same; how their fields are ordered does not count, nor the moment.
 */
function isSameEntry(one: Entry, other: Entry): boolean {
  return isDeepStrictEqual(one.body, JSON.parse(JSON.stringify(other.body)));
}

/** One line of the docket. */
export interface DocketLine {
  readonly number: number;
  readonly title: string;
  readonly unitModel: string;
  readonly serial: string;
  readonly owner: string;
  readonly batch: string;
  readonly openedAt: string;
  readonly promisedOn: string | null;
  readonly waitsFor: string;
  readonly waitsKind: string;
  readonly state: 'open' | 'waiting' | 'closed';
  readonly lastEntryAt: string | null;
  readonly urgency: Urgency;
  /** Bench minutes so far. */
  readonly minutes: number;
  /** Where work was left. */
  readonly pausedAt: string | null;
  readonly timers: readonly DocketTimer[];
  readonly progress: Pick<Progress, 'pads' | 'nextAction' | 'nextStage'>;
}

/** A running timer as the docket shows it. endsAt: null where daylight decides. */
export interface DocketTimer {
  readonly title: string;
  readonly what: string;
  readonly hours: number;
  readonly daylightHours: number;
  readonly endsAt: string | null;
  readonly due: boolean;
}

/** All cases, the most urgent first. */
export async function docket(db: Database, now = new Date()): Promise<readonly DocketLine[]> {
  const rows = await listCases(db);
  const [entries, boards] = await Promise.all([
    entriesOfAll(
      db,
      rows.map(({ id }) => id),
    ),
    listBoards(db),
  ]);
  const indices = new Map(boards.map(({ id, content }) => [id, indexBoard(content)]));
  const lines = rows.map((row) =>
    docketLine(
      row,
      entries.get(row.id) ?? [],
      row.boardId ? indices.get(row.boardId) : undefined,
      now,
    ),
  );
  return lines.sort((a, b) => b.urgency.score - a.urgency.score || b.number - a.number);
}

const DAY = 86_400_000;

function docketLine(
  row: CaseRow,
  own: readonly Entry[],
  index: BoardIndex | undefined,
  now: Date,
): DocketLine {
  const journal = playJournal(own, index);
  const { pads, nextAction, nextStage, minutesToGo } = caseProgress(index, journal);
  const { number, title, unitModel, serial, owner, batch, promisedOn, waitsFor, waitsKind } = row;
  const state = journal.closed ? 'closed' : waitsFor ? 'waiting' : 'open';
  const timers = docketTimers(journal, now);
  const today = now.toISOString().slice(0, 10);
  const urgency = urgencyOf({
    state,
    promisedInDays: promisedOn
      ? Math.round((Date.parse(promisedOn) - Date.parse(today)) / DAY)
      : undefined,
    ageDays: (now.getTime() - row.openedAt.getTime()) / DAY,
    timerDue: !journal.closed && timers.some(({ due }) => due),
    paused: journal.pausedAt !== undefined,
    minutesToGo,
  });
  return {
    number,
    title,
    unitModel,
    serial,
    owner,
    batch,
    promisedOn,
    waitsFor,
    waitsKind,
    state,
    urgency,
    timers,
    openedAt: row.openedAt.toISOString(),
    lastEntryAt: own.at(-1)?.madeAt ?? null,
    minutes: Math.round(benchMinutes(journal.moments)),
    pausedAt: journal.pausedAt?.body.where ?? null,
    progress: { pads, nextAction, nextStage },
  };
}

function docketTimers(journal: Journal, now: Date): readonly DocketTimer[] {
  return journal.timers
    .filter(({ done }) => !done)
    .map((timer) => {
      const end = timerEnd(timer);
      const { what, title, hours } = timer.entry.body;
      return {
        title,
        what,
        hours,
        daylightHours: timer.daylightHours,
        endsAt: end === undefined ? null : new Date(end).toISOString(),
        due: isTimerDue(timer, now.getTime()),
      };
    });
}
