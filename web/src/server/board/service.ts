import {
  boardChanges,
  BOARD_FORMATS,
  type Board,
  type FileIssue,
  type PartReport,
} from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { v7 } from 'uuid';
import type { BoardChoice } from '../../case/board-choice';
import type { Database } from '../db/client';
import { readUntrusted } from '../reckoning/pool';
import { boardVersion, findBoard, insertBoard, listBoards } from './repository';

/** Boards that may be chosen: those that can be read and were not set aside. */
export async function boardChoices(db: Database): Promise<readonly BoardChoice[]> {
  return (await listBoards(db)).flatMap(({ id, title, parts, archivedAt }) =>
    parts === null || archivedAt ? [] : [{ id, title, parts }],
  );
}

export type ImportResult =
  | {
      readonly ok: true;
      readonly id: string;
      readonly title: string;
      readonly parts: number;
      readonly nets: number;
      readonly notes: readonly string[];
      readonly version: number;
      readonly changes: readonly string[];
    }
  | { readonly ok: false; readonly issues: readonly FileIssue[] }
  /** The version that it was made from is not the newest one any more, or is not here. */
  | { readonly ok: false; readonly stale: string };

/**
 * Reads a board file and keeps the board. Nothing is stored where anything in the file is wrong. It
 * is read in a thread of its own, within limits of time and memory.
 */
export async function importBoard(
  db: Database,
  fileName: string,
  text: string,
  of?: string,
): Promise<ImportResult> {
  const read = await readUntrusted({ fileName, text });
  if (!read.ok) return read;
  const { board: content, parts, nets, notes } = read;
  const id = v7();
  let next: { sheet: string; version: number; changes: readonly string[] } | undefined;
  if (of !== undefined) {
    const [known, before] = [await boardVersion(db, of), await findBoard(db, of)];
    if (!known || !before)
      return { ok: false, stale: 'the sheet that this is a version of is not here' };
    if (!known.newest) return { ok: false, stale: NEWER };
    const changes = boardChanges(before.content, content);
    next = { sheet: known.sheet, version: known.version + 1, changes };
  }
  try {
    await insertBoard(db, { id, sourceName: fileName, content, parts, nets, ...next });
  } catch (error) {
    // Two who store the next version at once: the second is told.
    if (isTwice(error)) return { ok: false, stale: NEWER };
    throw error;
  }
  const { version = 1, changes = [] } = next ?? {};
  return { ok: true, id, title: content.title, parts, nets, notes, version, changes };
}

const NEWER = 'somebody has stored a newer version meanwhile: open it, and put your lines into it';

/** PostgreSQL's unique_violation. */
function isTwice(error: unknown): boolean {
  const { code, cause } = error as { code?: string; cause?: { code?: string } };
  return (code ?? cause?.code) === '23505';
}

export type Preview =
  | {
      readonly ok: true;
      readonly title: string;
      /** As a bench sheet. */
      readonly text: string;
      readonly parts: number;
      readonly nets: number;
      readonly notes: readonly string[];
      readonly report: readonly PartReport[];
    }
  | { readonly ok: false; readonly issues: readonly FileIssue[] };

/** What a board file says, as a bench sheet. Nothing is stored. */
export async function previewBoard(fileName: string, text: string): Promise<Preview> {
  const read = await readUntrusted({ fileName, text, asSheet: true });
  if (!read.ok) return read;
  const { board, parts, nets, notes, report = [], sheet = '' } = read;
  return { ok: true, title: board.title, text: sheet, parts, nets, notes, report };
}

/**
 * A board written in one of the formats, by its ending without the dot; undefined where board or
 * format is unknown.
 */
export async function exportBoard(
  db: Database,
  id: string,
  ending: string,
): Promise<{ fileName: string; text: string } | undefined> {
  const format = BOARD_FORMATS[`.${ending}`];
  const stored = format?.write && (await findBoard(db, id));
  if (!stored || !format.write) return undefined;
  const name =
    stored.title
      .replace(/[^\w-]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 60) || 'board';
  // A bench sheet is read again as it is written: that is for a thread.
  if (ending === 'sheet') {
    const text = JSON.stringify(stored.content);
    const read = await readUntrusted({ fileName: 'stored.json', text, asSheet: true });
    return read.ok ? { fileName: `${name}.sheet`, text: read.sheet ?? '' } : undefined;
  }
  return { fileName: `${name}.${ending}`, text: format.write(stored.content, LIBRARY) };
}

/** A board as a deck. */
export const boardDeck = (content: Board): string =>
  BOARD_FORMATS['.cir']!.write!(content, LIBRARY);
