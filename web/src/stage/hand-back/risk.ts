import { failsWithin, isWet, USUAL_FIGURES } from '@hanzai/core/survey';
import { lifeHours } from '@hanzai/core/part';
import { stillSuspect } from '../../case/after-repair';
import { caseHazards } from '../../case/unit';
import { oddsWords } from '../../case/wording';
import type { PaperOf } from './technical';

/** Running hours that a risk is told for: some months of use, and some years. */
const HOURS = [500, 2000] as const;
/** Same-aged parts named at once; more are a number. */
const NAMED = 5;

/** What remains at risk when the unit goes back, and when: each a sentence. */
export function remainsAtRisk(of: PaperOf): readonly string[] {
  const { journal, index } = of;
  const suspect = stillSuspect(journal, index);
  const named = [
    ...suspect.slice(0, NAMED),
    ...(suspect.length > NAMED ? [`${suspect.length - NAMED} more`] : []),
  ].join(', ');
  return [
    ...(named === '' ? [] : [`Of the same age as what failed, and still the old ones: ${named}.`]),
    ...whenWords(of, suspect),
    ...lineFilterWords(of),
  ];
}

/**
 * When capacitors that stayed are likely to follow: by heat and hours, from figures that are
 * stated.
 */
function whenWords({ index, view }: PaperOf, suspect: readonly string[]): string[] {
  const wet = suspect.filter((ref) =>
    (index?.replaceable.get(ref) ?? []).some((part) => part.kind === 'capacitor' && isWet(part)),
  );
  if (wet.length === 0) return [];
  const { ratedHours, ratedCelsius, celsius } = USUAL_FIGURES;
  const hoursSoFar = view.hoursRun ?? USUAL_FIGURES.hoursSoFar;
  const life = lifeHours(ratedHours, ratedCelsius, celsius);
  const anyOf = (hours: number): number =>
    1 - (1 - failsWithin(life, hoursSoFar, hours)) ** wet.length;
  const [soon, later] = HOURS.map((hours) => `${oddsWords(anyOf(hours))} within ${hours} hours`);
  return [
    `Of the ${wet.length} capacitors among them one fails of age about ${soon} of running, ${later} (reckoned for ${hoursSoFar} hours so far at ${celsius} °C; from memory of bench practice).`,
  ];
}

/** A line filter that nobody has said is not there, and in which nothing was replaced. */
function lineFilterWords({ model, index, journal }: PaperOf): string[] {
  const filter = caseHazards(model, index, journal).find(({ key }) => /line-filter$/.test(key));
  if (!filter) return [];
  const away = journal.acknowledged.some(
    ({ hazard, notHere }) => hazard === filter.key && notHere === true,
  );
  const renewed = journal.ledger.some(
    ({ action, ref, note }) =>
      action === 'fitted' &&
      /line.?filter|X2|X1/i.test(
        `${note} ${(index?.replaceable.get(ref) ?? []).map(({ role }) => role ?? '').join(' ')}`,
      ),
  );
  return away || renewed
    ? []
    : [
        'The line-filter capacitor across its mains was not replaced here: an old paper one can crack, smoke and burn on any day it is plugged in. Unplug it when nobody is there.',
      ];
}
