import { benchMinutes } from '@hanzai/core/bench';
import { indexBoard } from '@hanzai/core/board';
import { Diagnoser } from '@hanzai/core/diagnosis';
import { withinBand } from '@hanzai/core/instrument';
import { RATES } from '@hanzai/data';
import { playJournal } from '../../case/journal';
import type { CaseView } from './service';

/** What the report needs beyond the journal: the engine's words on the readings that led to the verdict. */
export interface ReportFigures {
  /** By entry id: what a sound board shows, whether the reading was in its band, and its weight for the condemned part, decibans. */
  readonly readings: Readonly<Record<string, { readonly expected: string; readonly within: boolean; readonly weight: number | null }>>;
  readonly weightFor: string | null;
  readonly minutes: number;
}

/** Works the figures out from the readings before the repair (all of them where nothing was fitted). */
export function reportFigures(view: CaseView): ReportFigures {
  const index = view.board ? indexBoard(view.board.content) : undefined;
  const journal = playJournal(view.entries, index);
  const minutes = benchMinutes(journal.moments);
  if (!index) return { readings: {}, weightFor: null, minutes };
  const repaired = journal.ledger.some(({ action }) => action === 'fitted');
  const readings = repaired ? journal.readings.filter(({ current }) => !current) : journal.readings;
  const belief = new Diagnoser(index, RATES).believe(readings);
  const verdict = journal.condemned[0]?.body.ref;
  const part = belief.byPart.find(({ ref }) => ref === verdict);
  const rows = readings.map(({ entry }, i): [string, ReportFigures['readings'][string]] => {
    const shown = belief.expected[i]!;
    const within = withinBand(entry.body.value, shown);
    return [entry.id, { expected: shown.display, within, weight: part?.weights[i] ?? null }];
  });
  return { readings: Object.fromEntries(rows), weightFor: verdict ?? null, minutes };
}
