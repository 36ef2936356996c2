import { indexBoard } from '@hanzai/core/board';
import type { CaseView } from '../case/case-view';
import { changesMade } from '../case/after-repair';
import { playJournal } from '../case/journal';
import { kindOf } from '../case/kinds';
import type { ClosedSource, RealReading } from './run';

/**
 * What a closed case gives for an exercise: the parts whose replacement ended it, and what was read
 * before the first repair. Why it gives none, in words.
 */
export function closedSource(view: CaseView): ClosedSource | string {
  if (!view.board) return 'the case has no sheet: there is nothing to compute the rest from';
  const index = indexBoard(view.board.content);
  const journal = playJournal(view.entries, index);
  if (!journal.closed) return 'the case is still open';
  const parts = changesMade(journal).flatMap(({ kind, ref }) => (kind === 'fitted' ? [ref] : []));
  if (parts.length === 0) return 'no part was replaced in it: what was wrong is not known';
  const repair = journal.standing.findIndex(({ body }) => kindOf(body.kind).repairs);
  const before = new Set(journal.standing.slice(0, repair).map(({ id }) => id));
  const readings = journal.readings.flatMap(({ entry, isSimulated }): RealReading[] => {
    const { setup, quantity, at, to, value } = entry.body;
    return before.has(entry.id) && !isSimulated ? [{ setup, kind: quantity, at, to, value }] : [];
  });
  const complaint =
    journal.symptoms.map(({ body }) => body.text).join('; ') ||
    view.complaint ||
    'It is not right, and nobody can say how.';
  return { number: view.number, parts: [...new Set(parts)], readings, complaint };
}
