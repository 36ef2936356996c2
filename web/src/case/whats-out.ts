import { settingsOf } from '@hanzai/core/adjust';
import type { Journal } from './journal';
import { adjustmentsOf } from './kind/adjusting';

/** Degrees within which a setting is as it was found. */
const AS_FOUND_DEGREES = 0.5;

/**
 * Everything of a unit that is not where it belongs, in a few words each: parts off, pieces off,
 * things left in it, settings that were moved.
 */
export function whatIsOut(journal: Journal): readonly string[] {
  const pieces = journal.steps
    .filter(({ what, back, count }) => what !== 'empty-hole' && back < count)
    .reduce((sum, { back, count }) => sum + count - back, 0);
  const { found, touches } = adjustmentsOf(journal);
  const moved = settingsOf(found, touches).filter(
    ({ degrees }) => Math.abs(degrees) > AS_FOUND_DEGREES,
  );
  return [
    ...(journal.missing.length > 0 ? [`off the board: ${journal.missing.join(', ')}`] : []),
    ...(journal.inside.length > 0
      ? [`still in the unit: ${journal.inside.map(({ body }) => body.what).join(', ')}`]
      : []),
    ...(pieces > 0 ? [`${pieces} ${pieces === 1 ? 'piece' : 'pieces'} of the case off`] : []),
    ...moved.map(({ ref, degrees }) => `${ref} ${Math.round(Math.abs(degrees))}° from as found`),
  ];
}
