/**
 * One thing wrong with a file, with its place and what would put it right. `line` counts from 1.
 */
export interface FileIssue {
  readonly line?: number;
  readonly what: string;
  readonly expected: string;
}

/** What became of one part of a foreign file. */
export interface PartReport {
  readonly ref: string;
  /** box: a black box with pins; skipped: not on the board. */
  readonly became: 'understood' | 'box' | 'skipped';
  readonly as: string;
  readonly why?: string;
}

/**
 * The outcome of reading a file: the value with remarks on what was skipped, or everything that is
 * wrong (at most MAX_ISSUES).
 */
export type ReadResult<T> =
  | {
      readonly ok: true;
      readonly value: T;
      readonly notes: readonly string[];
      /** What became of each part of a file of another program. */
      readonly report?: readonly PartReport[];
    }
  | { readonly ok: false; readonly issues: readonly FileIssue[] };

/** A reader gives up after this many issues: nobody mends a file from the twenty-first message. */
export const MAX_ISSUES = 20;

/**
 * One line of text for an issue: `line 14: U7 has 13 nets; expected 14, one for each pin of
 * 74LS86`.
 */
export function describeIssue(issue: FileIssue): string {
  const place = issue.line === undefined ? '' : `line ${issue.line}: `;
  return `${place}${issue.what}; expected ${issue.expected}`;
}
