import {
  BOARD_FORMATS,
  checkBoard,
  countParts,
  readBoardFile,
  type FileIssue,
} from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { v7 } from 'uuid';
import type { Database } from '../db/client';
import { findBoard, insertBoard, listBoards } from './repository';

/** A stored board as it is offered for choice. parts: as people count them. */
export interface BoardChoice {
  readonly id: string;
  readonly title: string;
  readonly parts: number;
}

export async function boardChoices(db: Database): Promise<readonly BoardChoice[]> {
  return (await listBoards(db)).map(({ id, title, content }) => ({
    id,
    title,
    parts: countParts(content),
  }));
}

export type ImportResult =
  | {
      readonly ok: true;
      readonly id: string;
      readonly title: string;
      readonly parts: number;
      readonly notes: readonly string[];
    }
  | { readonly ok: false; readonly issues: readonly FileIssue[] };

/**
 * Reads a board file and keeps the board. Nothing is stored where anything in the file is wrong.
 */
export async function importBoard(
  db: Database,
  fileName: string,
  text: string,
): Promise<ImportResult> {
  const result = readBoardFile(fileName, text, LIBRARY);
  if (!result.ok) return result;
  // What a reader lets through must also fit the schema: a board that could not be read back would
  // block every list of boards.
  const checked = checkBoard(result.value);
  if (!checked.ok) return checked;
  const id = v7();
  await insertBoard(db, { id, sourceName: fileName, content: checked.value });
  return {
    ok: true,
    id,
    title: checked.value.title,
    parts: countParts(checked.value),
    notes: result.notes,
  };
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
  const stored = format && (await findBoard(db, id));
  if (!stored) return undefined;
  const name =
    stored.title
      .replace(/[^\w-]+/g, '-')
      .replace(/^-|-$/g, '')
      .slice(0, 60) || 'board';
  return { fileName: `${name}.${ending}`, text: format.write(stored.content, LIBRARY) };
}
