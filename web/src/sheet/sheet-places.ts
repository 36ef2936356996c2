import type { Diagnostic } from '@codemirror/lint';
import type { EditorView } from '@codemirror/view';
import { nameKey, readSheetLines, sheetRemarks, type Board } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { drawnRef } from '../drawing/drawn';

/** The part whose line is the last at or above the cursor: its area is drawn. */
export function partAt(
  lines: ReadonlyMap<string, number>,
  board: Board,
  cursor: number,
): string | undefined {
  let best: { readonly ref: string; readonly line: number } | undefined;
  for (const { ref } of board.parts) {
    const line = lines.get(nameKey(ref));
    if (line !== undefined && line <= cursor && line >= (best?.line ?? 0)) best = { ref, line };
  }
  return best && drawnRef(best.ref);
}

/** The line on which a net is named first. */
export function lineOf(text: string, net: string): number | undefined {
  const at = text.split('\n').findIndex((line) =>
    line
      .toLowerCase()
      .split(/[\s=]+/)
      .includes(net.toLowerCase()),
  );
  return at < 0 ? undefined : at + 1;
}

/** What is wrong with lines, at their places in the editor. */
export function diagnosticsOf(view: EditorView): Diagnostic[] {
  const { doc } = view.state;
  const { board, issues, lines } = readSheetLines(doc.toString(), LIBRARY);
  const at = (
    line: number | undefined,
    message: string,
    severity: 'error' | 'warning',
  ): Diagnostic[] => {
    if (line === undefined || line > doc.lines) return [];
    const { from, to } = doc.line(line);
    return [{ from, to, message, severity }];
  };
  return [
    ...issues.flatMap(({ line, what, expected }) =>
      at(line, `${what}; expected ${expected}`, 'error'),
    ),
    ...sheetRemarks(board).flatMap(({ ref, what, remedy }) =>
      ref === undefined ? [] : at(lines.get(nameKey(ref)), `${what}: ${remedy}`, 'warning'),
    ),
  ];
}
