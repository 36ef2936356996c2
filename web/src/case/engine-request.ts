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

/** What the eye found on the board and what was said of the unit, and how far it is open. */
export function useCircumstances({ index, model, journal, view }: CaseState): Circumstances {
  const { template, board } = view;
  const learned = useLearned(board?.id);
  return useMemo(
    () => ({
      look: [
        saidFactorsOf(index, model, journal),
        guidedFactorsOf(journal),
        ageFactorsOf(index, view),
        // What closed cases taught of its parts.
        learned?.factors ?? {},
      ].reduce(bothFactors, lookFactorsOf(index, journal)),
      ...(template.length > 0
        ? { access: { template: [...template], done: templateDone(template, journal) } }
        : {}),
    }),
    [index, model, journal, view, template, learned],
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
