import { BOARD_FORMATS, type FileIssue } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { v7 } from 'uuid';
import type { BoardChoice } from '../../case/board-choice';
import type { Database } from '../db/client';
import { readUntrusted } from '../reckoning/pool';
import { findBoard, insertBoard, listBoards } from './repository';

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
    }
  | { readonly ok: false; readonly issues: readonly FileIssue[] };

/**
 * Reads a board file and keeps the board. Nothing is stored where anything in the file is wrong. It
 * is read in a thread of its own, within limits of time and memory.
 */
export async function importBoard(
  db: Database,
  fileName: string,
  text: string,
): Promise<ImportResult> {
  const read = await readUntrusted({ fileName, text });
  if (!read.ok) return read;
  const { board: content, parts, nets, notes } = read;
  const id = v7();
  await insertBoard(db, { id, sourceName: fileName, content, parts, nets });
  return { ok: true, id, title: content.title, parts, nets, notes };
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
  return { fileName: `${name}.${ending}`, text: format.write(stored.content, LIBRARY) };
}
