import { MAX_ISSUES, type ReadResult } from '../issue';
import { nameKey } from '../nets';
import { Board } from '../schema';
import { asWritten, withStandIns } from './not-known';

/**
 * Reads Board JSON, the lossless form. Checks it against the schema and that no designator is there
 * twice.
 */
export function readBoardJson(source: string): ReadResult<Board> {
  let raw: unknown;
  try {
    raw = JSON.parse(source);
  } catch (error) {
    return {
      ok: false,
      issues: [
        {
          what: `not JSON (${(error as Error).message.slice(0, 120)})`,
          expected: 'a Board JSON file, "format": "hanzai-board"',
        },
      ],
    };
  }
  return checkBoard(raw);
}

/** Checks a value that claims to be a board, for example one that came in a request. */
export function checkBoard(raw: unknown): ReadResult<Board> {
  const parsed = Board.safeParse(withStandIns(raw));
  if (!parsed.success) {
    const issues = parsed.error.issues.slice(0, MAX_ISSUES).map((issue) => ({
      what: `${issue.path.join('.') || 'the file'}: ${issue.message}`,
      expected: 'what docs/formats/board.md says',
    }));
    return { ok: false, issues };
  }
  const seen = new Set<string>();
  for (const part of parsed.data.parts) {
    const key = nameKey(part.ref);
    if (seen.has(key))
      return {
        ok: false,
        issues: [{ what: `${part.ref} is there twice`, expected: 'each designator once' }],
      };
    seen.add(key);
  }
  if (parsed.data.parts.length === 0)
    return {
      ok: false,
      issues: [{ what: 'the board has no parts', expected: 'at least one part' }],
    };
  return { ok: true, value: parsed.data, notes: [] };
}

/** Writes a board as Board JSON, two blanks an indent, a newline at the end. */
export function writeBoardJson(board: Board): string {
  return `${JSON.stringify({ ...board, parts: board.parts.map(asWritten) }, null, 2)}\n`;
}
