import { benchMinutes } from '@hanzai/core/bench';
import { indexBoard } from '@hanzai/core/board';
import { Diagnoser } from '@hanzai/core/diagnosis';
import { withinBand } from '@hanzai/core/instrument';
import { RATES } from '@hanzai/data';
import { playJournal } from '../../case/journal';
import type { CaseView } from './service';

/**
 * What the report needs beyond the journal: the engine's words on the readings that led to the
 * verdict.
 */
export interface ReportFigures {
  /**
   * By entry id: what a sound board shows, whether the reading was in its band, and its weight for
   * the condemned part, decibans.
   */
  readonly readings: Readonly<
    Record<
      string,
      { readonly expected: string; readonly within: boolean; readonly weight: number | null }
    >
  >;
  readonly weightFor: string | null;
  readonly minutes: number;
}

/** Reports kept: what was worked out is asked for again with every look at the page. */
const MOST_KEPT = 50;
const kept = new Map<string, ReportFigures>();
/**
 * Others get their turn after so long, milliseconds: the engine shares the service's one thread.
 */
const TURN = 20;

/**
 * Works the figures out from the readings before the repair (all of them where nothing was fitted),
 * in turns with whatever else the service has to do. Cost: as the first belief of a search; kept
 * until the case has a new entry.
 */
export async function reportFigures(view: CaseView): Promise<ReportFigures> {
  const key = `${view.id}|${view.board?.id}|${view.entries.length}|${view.entries.at(-1)?.id}`;
  let figures = kept.get(key);
  if (figures) return figures;
  figures = await workOut(view);
  if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!);
  kept.set(key, figures);
  return figures;
}

async function workOut(view: CaseView): Promise<ReportFigures> {
  const index = view.board ? indexBoard(view.board.content) : undefined;
  const journal = playJournal(view.entries, index);
  const minutes = benchMinutes(journal.moments);
  if (!index) return { readings: {}, weightFor: null, minutes };
  const repaired = journal.ledger.some(({ action }) => action === 'fitted');
  const readings = repaired ? journal.readings.filter(({ current }) => !current) : journal.readings;
  const diagnoser = new Diagnoser(index, RATES);
  await inTurns(diagnoser.prepare(readings));
  const belief = diagnoser.believe(readings);
  const verdict = journal.condemned[0]?.body.ref;
  const part = belief.byPart.find(({ ref }) => ref === verdict);
  const rows = readings.map(({ entry }, i): [string, ReportFigures['readings'][string]] => {
    const shown = belief.expected[i]!;
    const within = withinBand(entry.body.value, shown);
    return [entry.id, { expected: shown.display, within, weight: part?.weights[i] ?? null }];
  });
  return { readings: Object.fromEntries(rows), weightFor: verdict ?? null, minutes };
}

/** Walks through long work, letting everything else that waits go first every so often. */
async function inTurns(steps: Iterator<unknown>): Promise<void> {
  let since = performance.now();
  while (!steps.next().done) {
    if (performance.now() - since < TURN) continue;
    await new Promise((resolve) => setImmediate(resolve));
    since = performance.now();
  }
}
