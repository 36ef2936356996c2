import { playJournal } from '../../case/journal';
import type { Entry, EntryBody } from '../../case/entry';
import type { CaseCorrection, NewCaseRequest } from '../../case/case-card';
import type { CaseAnswer } from '../../case/case-view';
import type { OpenUpStep } from '@hanzai/core/bench';
import { isDeepStrictEqual } from 'node:util';
import { v7 } from 'uuid';
import { boardContent, boardIsHere } from '../board/repository';
import { entryRefusal, type Person } from '../../people/role';
import type { Database } from '../db/client';
import type { Outcome } from '../outcome';
import { judge, summarise } from '../reckoning/pool';
import type { SentBoard } from '../reckoning/tasks';
import { unitCodes } from '../unit/service';
import {
  casesWithoutSummary,
  entriesOf,
  entryById,
  findCase,
  findCaseByNumber,
  insertCase,
  insertEntry,
  lockCase,
  openedBefore,
  readEntries,
  storeSummary,
  updateCase,
  type CaseRow,
} from './repository';

/** A case as the browser gets it, its board sheet by its id alone. */
async function view(db: Database, { openedAt, ...row }: CaseRow): Promise<CaseAnswer> {
  // One after the other: within a transaction there is one connection.
  const { entries, unreadable } = await readEntries(db, row.id);
  const codes = await unitCodes(db, row.unitType, row.unitModel);
  const template = await templateFor(db, row);
  return {
    ...row,
    unreadable,
    codes: [...codes],
    template: [...template],
    openedAt: openedAt.toISOString(),
    entries,
  };
}

const NO_BOARD = {
  ok: false,
  why: 'refused',
  detail: 'the board sheet is not here; expected the id of a stored board',
} as const;

/** The board of a case as it is stored: who needs it reads it. */
async function boardFor(
  db: Database,
  { boardId }: Pick<CaseRow, 'boardId'>,
): Promise<SentBoard | undefined> {
  return boardId ? { id: boardId, content: await boardContent(db, boardId) } : undefined;
}

/** Makes the summary of a case anew from its journal. */
export async function renewSummary(db: Database, row: CaseRow): Promise<void> {
  const entries = await entriesOf(db, row.id);
  const board = await boardFor(db, row);
  const codes = [...(await unitCodes(db, row.unitType, row.unitModel))];
  const { unitType } = row;
  await storeSummary(db, row.id, await summarise({ entries, board, unitType, codes }));
}

/** Makes the summaries that are missing. Returns how many. */
export async function completeSummaries(db: Database): Promise<number> {
  const rows = await casesWithoutSummary(db);
  for (const row of rows) await renewSummary(db, row);
  return rows.length;
}

/** The steps in which the last unit of this model was opened. */
async function templateFor(
  db: Database,
  { id, unitModel }: Pick<CaseRow, 'id' | 'unitModel'>,
): Promise<readonly OpenUpStep[]> {
  const earlier = await openedBefore(db, unitModel, id);
  return earlier ? playJournal(await entriesOf(db, earlier), undefined).steps : [];
}

export async function openCase(
  db: Database,
  request: NewCaseRequest,
): Promise<Outcome<CaseAnswer>> {
  if (request.boardId && !(await boardIsHere(db, request.boardId))) return NO_BOARD;
  return db.transaction(async (tx) => {
    const row = await insertCase(tx, { id: v7(), ...request });
    await renewSummary(tx, row);
    return { ok: true, value: await view(tx, row) };
  });
}

export async function caseView(db: Database, id: string): Promise<CaseAnswer | undefined> {
  const row = await findCase(db, id);
  return row && view(db, row);
}

export async function caseViewByNumber(
  db: Database,
  number: number,
): Promise<CaseAnswer | undefined> {
  const row = await findCaseByNumber(db, number);
  return row && view(db, row);
}

export async function correctCase(
  db: Database,
  id: string,
  { version, ...change }: CaseCorrection,
): Promise<Outcome<CaseAnswer>> {
  if (change.boardId && !(await boardIsHere(db, change.boardId))) return NO_BOARD;
  const corrected = await db.transaction(async (tx) => {
    const row = await updateCase(tx, id, version, change);
    // Another sheet, or another kind of unit, makes another case of the same journal.
    if (row && ('boardId' in change || 'unitType' in change)) await renewSummary(tx, row);
    return row && view(tx, row);
  });
  if (corrected) return { ok: true, value: corrected };
  const current = await findCase(db, id);
  return current
    ? {
        ok: false,
        why: 'clash',
        detail: `somebody changed this case meanwhile (version ${current.version}, yours ${version}); reload and enter your change again`,
      }
    : { ok: false, why: 'missing', detail: 'no such case' };
}

const TAKEN = {
  ok: false,
  why: 'clash',
  detail: 'another entry is stored under this id',
} as const;

/**
 * Adds an entry to a case's journal. The same entry sent twice is stored once and answered the
 * same. The rules are checked, and the docket's line is renewed, in the transaction that stores it,
 * with the case locked. by: who makes it; left out where nobody signs in. closed: the entry was stored,
 * and the case is closed now.
 */
export async function addEntry(
  db: Database,
  caseId: string,
  entry: Entry,
  by?: Person,
): Promise<Outcome<{ created: boolean; closed: boolean }>> {
  const refusal = by && personRefusal(by, entry.body);
  if (refusal !== undefined) return { ok: false, why: 'refused', detail: refusal };
  return db.transaction(async (tx) => {
    const row = await lockCase(tx, caseId);
    if (!row) return { ok: false, why: 'missing', detail: 'no such case' };
    const owner = await entryById(tx, entry.id);
    if (owner !== undefined && owner.caseId !== caseId)
      return { ok: false, why: 'clash', detail: 'this entry id belongs to another case' };
    if (owner !== undefined)
      return owner.entry && isSameEntry(owner.entry, entry)
        ? { ok: true, value: { created: false, closed: false } }
        : TAKEN;
    const judged = await judge({
      body: entry.body,
      entry,
      entries: await entriesOf(tx, caseId),
      board: await boardFor(tx, row),
      unitType: row.unitType,
      codes: await unitCodes(tx, row.unitType, row.unitModel),
    });
    if ('objection' in judged) return { ok: false, why: 'refused', detail: judged.objection };
    // Another workshop's, which is not to be seen from here.
    if (!(await insertEntry(tx, caseId, entry, judged.epoch, by?.name))) return TAKEN;
    await storeSummary(tx, caseId, judged.summary);
    return { ok: true, value: { created: true, closed: judged.summary.closed } };
  });
}

/** Why this person may not make this entry; undefined where he may. */
function personRefusal({ name, role }: Person, body: EntryBody): string | undefined {
  if (body.kind === 'acknowledge' && body.who !== name)
    return `a hazard is acknowledged in one's own name: ${name}`;
  return entryRefusal(role, body.kind);
}

/**
 * Whether two entries say the same; how their fields are ordered does not count, nor the moment.
 */
function isSameEntry(one: Entry, other: Entry): boolean {
  return isDeepStrictEqual(one.body, JSON.parse(JSON.stringify(other.body)));
}
