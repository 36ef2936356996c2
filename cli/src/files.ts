import { readFileSync } from 'node:fs';
import {
  describeIssue,
  indexBoard,
  readBoardFile,
  type BoardIndex,
  type FileIssue,
} from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { InputError } from './arguments';

/** Reads a text file or says why not. */
export function readText(file: string): string {
  try {
    return readFileSync(file, 'utf8');
  } catch (error) {
    throw new InputError(
      `${file}: cannot be read (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'})`,
    );
  }
}

/** The issues of a file, one a line, each with the file's name. */
export function issueLines(file: string, issues: readonly FileIssue[]): string {
  return issues.map((issue) => `${file}: ${describeIssue(issue)}`).join('\n');
}

/** Reads and indexes a board file; remarks on what was skipped go to standard error. */
export function loadBoard(file: string): BoardIndex {
  const result = readBoardFile(file, readText(file), LIBRARY);
  if (!result.ok) throw new InputError(issueLines(file, result.issues));
  for (const note of result.notes.slice(0, 20)) process.stderr.write(`${file}: note: ${note}\n`);
  return indexBoard(result.value);
}
