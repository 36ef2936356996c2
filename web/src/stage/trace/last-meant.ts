import type { BoardIndex } from '@hanzai/core/board';
import type { Journal } from '../../case/journal';
import { oddsWords, pointsText, valueText, weightWords } from '../../case/wording';
import type { LineUp } from '../../workers/engine-messages';

/**
 * What the newest reading meant, in one sentence; empty before the first, and while its line-up is not
 * there yet.
 */
export function lastMeant(index: BoardIndex, journal: Journal, lineUp: LineUp | undefined): string {
  const last = journal.readings.findLast(({ current }) => current);
  const expected = last && lineUp?.expected[last.entry.id];
  if (!last || !lineUp || !expected) return '';
  const { body } = last.entry;
  const read = `${pointsText(index, body.at, body.to)} ${valueText(body.quantity, body.value)}`;
  const judged = expected.within ? 'is in band' : `is off, sound ${expected.display}`;
  const [leader] = lineUp.entries;
  if (!leader) return `${read} ${judged}.`;
  const weight = leader.weights.find(({ id }) => id === last.entry.id)?.decibans ?? 0;
  const says = Math.abs(weight) < 1 ? 'says nothing of' : `${weightWords(weight)}:`;
  return `${read} ${judged}; ${says} ${leader.ref}, now ${oddsWords(leader.probability)}.`;
}
