import {
  checkBoard,
  countParts,
  indexBoard,
  readBoardFile,
  writeSheet,
  type Board,
  type FileIssue,
  type PartReport,
} from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';

/** Reads a board file that anybody may have made. */
export interface FileTask {
  readonly task: 'file';
  readonly fileName: string;
  readonly text: string;
  /** Whether the board is wanted as a bench sheet too. */
  readonly asSheet?: boolean;
}

export type ReadFile =
  | {
      readonly ok: true;
      readonly board: Board;
      readonly parts: number;
      readonly nets: number;
      readonly notes: readonly string[];
      readonly report?: readonly PartReport[];
      /** As a bench sheet, where that was asked for. */
      readonly sheet?: string;
    }
  | { readonly ok: false; readonly issues: readonly FileIssue[] };

/** A sheet of more parts is not of one board of this trade, and no screen could draw it. */
export const MOST_PARTS = 5000;

export function readFile({ fileName, text, asSheet }: FileTask): ReadFile {
  const result = readBoardFile(fileName, text, LIBRARY);
  if (!result.ok) return result;
  // What a reader lets through must also fit the schema: a board that could not be read back would
  // block whoever lists it.
  const checked = checkBoard(result.value);
  if (!checked.ok) return checked;
  const board = checked.value;
  if (board.parts.length > MOST_PARTS)
    return {
      ok: false,
      issues: [
        {
          what: `the sheet has ${board.parts.length} parts`,
          expected: `at most ${MOST_PARTS}: leave away what does not belong to the fault`,
        },
      ],
    };
  const { nets } = indexBoard(board);
  return {
    ok: true,
    board,
    parts: countParts(board),
    nets: nets.length,
    notes: result.notes,
    ...(result.report ? { report: result.report } : {}),
    ...(asSheet ? { sheet: writeSheet(board, LIBRARY) } : {}),
  };
}
