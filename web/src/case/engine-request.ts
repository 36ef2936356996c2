import { useMemo } from 'react';
import type { AssessRequest, EngineReading } from '../workers/engine-messages';
import { writtenPoints } from './written-points';
import type { Journal } from './journal';
import { guidedFactorsOf } from './guided-factors';
import { ageFactorsOf, bothFactors, lookFactorsOf, saidFactorsOf, templateDone } from './unit';
import { useLearned } from '../patterns/use-patterns';
import type { CaseState } from './use-case';

/** What the engine has to know beside readings. */
export type Circumstances = Pick<AssessRequest, 'look' | 'access' | 'limits'>;

/** Something that multiplies the odds of parts before any reading, with where it is from. */
export interface OddsSource {
  readonly title: string;
  /** By designator; parts that it does not move are left out. */
  readonly factors: Readonly<Record<string, number>>;
}

/** What multiplies the rate table's odds in this case, each source by itself. */
export function useOddsSources({
  index,
  model,
  journal,
  view,
  practice,
}: CaseState): readonly OddsSource[] {
  // An exercise is drawn by the rate table alone.
  const learned = useLearned(practice ? undefined : view.board?.id);
  return useMemo(
    () => [
      { title: 'closed cases', factors: learned?.factors ?? {} },
      { title: 'the age of the unit', factors: ageFactorsOf(index, view) },
      { title: 'what was said of the unit', factors: saidFactorsOf(index, model, journal) },
      { title: 'what was seen on the board', factors: lookFactorsOf(index, journal) },
      { title: 'guided checks', factors: guidedFactorsOf(journal) },
    ],
    [index, model, journal, view, learned],
  );
}

/** What the engine is told beside readings, and how far the unit is open. */
export function useCircumstances(state: CaseState): Circumstances {
  const sources = useOddsSources(state);
  const {
    journal,
    view: { template },
  } = state;
  return useMemo(
    () => ({
      look: sources.map(({ factors }) => factors).reduce(bothFactors),
      ...(template.length > 0
        ? { access: { template: [...template], done: templateDone(template, journal) } }
        : {}),
    }),
    [sources, journal, template],
  );
}

/** All that the engine is told of a case as it stands. */
export function engineRequest(
  ticket: number,
  journal: Journal,
  circumstances: Circumstances,
): AssessRequest {
  return {
    ticket,
    readings: engineReadings(journal),
    absent: [...journal.absent],
    skips: journal.skips.map(({ body: { setup, quantity, at, to, why } }) => ({
      setup,
      kind: quantity,
      at,
      to,
      why,
    })),
    ...(journal.meters.size > 0
      ? {
          meters: Object.fromEntries(
            [...journal.meters].map(([kind, { profile }]) => [kind, profile]),
          ),
        }
      : {}),
    ...circumstances,
  };
}

/** The readings that speak of the board as it is now, as the engine takes them. */
export function engineReadings(journal: Journal): EngineReading[] {
  return asEngineReadings(journal.readings.filter(({ current }) => current));
}

/** Readings as the engine takes them. */
export function asEngineReadings(readings: Journal['readings']): EngineReading[] {
  return readings.map(({ entry, measurement: m, value, absent }) => ({
    id: entry.id,
    setup: m.setup,
    kind: m.kind,
    ...writtenPoints(m),
    value,
    absent: [...(absent ?? [])],
    ...(m.meter ? { meter: m.meter } : {}),
  }));
}
