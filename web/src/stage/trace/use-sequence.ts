import { useMemo } from 'react';
import { sequencesOf, type Sequence } from '@hanzai/core/bench';
import type { BoardIndex } from '@hanzai/core/board';
import { measurementKey, type Measurement } from '@hanzai/core/instrument';
import { acrossEsr, surveyOrder } from '@hanzai/core/survey';
import { oncePer } from '@hanzai/core/once-per';
import type { Journal, TakenReading } from '../../case/journal';
import { writtenPoints } from '../../case/written-points';
import type { ProposedPoints } from '../../case/strip/grammar';
import type { CaseState } from '../../case/use-case';

/** One reading of a list, with what was read there since the last repair. */
export interface SequenceStep extends ProposedPoints {
  readonly key: string;
  readonly measurement: Measurement;
  readonly taken: TakenReading | undefined;
  /** Passed over, for a reason that was given. */
  readonly isSkipped: boolean;
}

export interface RunningSequence {
  readonly sequence: Sequence;
  readonly steps: readonly SequenceStep[];
  /** Those that are not read yet, in order. */
  readonly left: readonly SequenceStep[];
}

/** The list of every capacitor's ESR, in an order that saves hand movement. */
export const SURVEY = 'survey';

/** The ready lists of a board, its capacitors among them. */
export const listsOf = oncePer((index: BoardIndex): readonly Sequence[] => {
  const capacitors = surveyOrder(index);
  const survey: Sequence = {
    name: SURVEY,
    title: 'every capacitor, ESR',
    before: 'power off, the stores empty; the leads held together and zeroed',
    measurements: capacitors.map((part) => acrossEsr(index, part)),
  };
  return [...(capacitors.length > 0 ? [survey] : []), ...sequencesOf(index)];
});

/** The steps of a list as they stand. */
export function stepsOf({ measurements }: Sequence, journal: Journal): readonly SequenceStep[] {
  const taken = new Map(
    journal.readings
      .filter(({ current }) => current)
      .map((reading) => [measurementKey(reading.measurement), reading]),
  );
  const pointsOf = (at: string, to: string): string => `${at}|${to}`;
  return measurements.map((measurement) => {
    const key = measurementKey(measurement);
    const { setup, kind } = measurement;
    const points = writtenPoints(measurement);
    const isSkipped = journal.skips.some(
      ({ body }) =>
        body.quantity === kind &&
        body.setup === setup &&
        pointsOf(body.at, body.to) === pointsOf(points.at, points.to),
    );
    return { setup, kind, ...points, key, measurement, taken: taken.get(key), isSkipped };
  });
}

/** A ready list of this board that is being gone through; undefined where none is. */
export function useSequence(
  { index, journal }: CaseState,
  name: string | undefined,
): RunningSequence | undefined {
  return useMemo(() => {
    const sequence = index && listsOf(index).find((one) => one.name === name);
    if (!sequence) return undefined;
    const steps = stepsOf(sequence, journal);
    return { sequence, steps, left: steps.filter(({ taken, isSkipped }) => !taken && !isSkipped) };
  }, [index, journal, name]);
}
