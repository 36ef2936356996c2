import { clip } from '../deck-elements';
import type { FileIssue } from '../../issue';

/** An atom or a list of them. Lists know the line that they begin on. */
export type Expression = string | ExpressionList;
export interface ExpressionList {
  readonly line: number;
  readonly items: Expression[];
}

/** Deeper than this no netlist goes, and a reader that calls itself would run out of stack. */
const MOST_DEPTH = 200;

/** Reads one parenthesised expression; text in double quotes is one atom, `\"` a quote in it. */
export function parseExpression(
  source: string,
):
  | { readonly ok: true; readonly root: ExpressionList }
  | { readonly ok: false; readonly issue: FileIssue } {
  const fail = (line: number, what: string, expected: string) =>
    ({ ok: false, issue: { line, what, expected } }) as const;
  const open: ExpressionList[] = [];
  let root: ExpressionList | undefined;
  let line = 1;
  const token = /\n|[()]|"(?:[^"\\]|\\[\s\S])*"|"|[^\s()"]+/g;
  for (const [text] of source.matchAll(token)) {
    if (text === '\n') {
      line += 1;
      continue;
    }
    const within = open.at(-1);
    if (text === '(') {
      if (root) return fail(line, 'a second list begins', 'the end of the file');
      if (open.length >= MOST_DEPTH)
        return fail(line, `lists more than ${MOST_DEPTH} deep`, 'a netlist');
      const list = { line, items: [] };
      within?.items.push(list);
      open.push(list);
    } else if (text === ')') {
      const closed = open.pop();
      if (!closed) return fail(line, 'a ) without its (', 'a ( before it');
      if (open.length === 0) root = closed;
    } else if (!within) return fail(line, `"${clip(text)}" outside of the list`, 'a ( first');
    else if (text === '"') return fail(line, 'a text without its closing quote', 'a " at its end');
    else {
      line += text.split('\n').length - 1;
      within.items.push(
        text.startsWith('"') ? text.slice(1, -1).replace(/\\([\s\S])/g, '$1') : text,
      );
    }
  }
  if (open.length > 0)
    return fail(open[0]!.line, 'a ( that is never closed', `${open.length} more ) at the end`);
  return root ? { ok: true, root } : fail(1, 'nothing in the file', 'a list in parentheses');
}

/** The lists in a list whose first atom is this word. */
export function listsNamed({ items }: ExpressionList, word: string): ExpressionList[] {
  return items.filter(
    (item): item is ExpressionList => typeof item !== 'string' && item.items[0] === word,
  );
}

/** The text behind a word, as `10k` in `(value 10k)`; empty where it is not there. */
export function textOf(list: ExpressionList, word: string): string {
  const found = listsNamed(list, word)[0]?.items[1];
  return typeof found === 'string' ? found : '';
}
