import { useMemo } from 'react';
import { sequencesOf, type Sequence } from '@hanzai/core/bench';
import { measurementKey, type Measurement } from '@hanzai/core/instrument';
import type { Journal, TakenReading } from '../../case/journal';
import { writtenPoints } from '../../case/written-points';
import type { ProposedPoints } from '../../case/strip/grammar';
import type { CaseState } from '../../case/use-case';

/** One reading of a list, with what was read there since the last repair. */
export interface SequenceStep extends ProposedPoints {
  readonly key: string;
  readonly measurement: Measurement;
  readonly taken: TakenReading | undefined;
}

export interface RunningSequence {
  readonly sequence: Sequence;
  readonly steps: readonly SequenceStep[];
  /** Those that are not read yet, in order. */
  readonly left: readonly SequenceStep[];
}

/** The steps of a list as they stand. */
export function stepsOf({ measurements }: Sequence, journal: Journal): readonly SequenceStep[] {
  const taken = new Map(
    journal.readings
      .filter(({ current }) => current)
      .map((reading) => [measurementKey(reading.measurement), reading]),
  );
  return measurements.map((measurement) => {
    const key = measurementKey(measurement);
    const { setup, kind } = measurement;
    return { setup, kind, ...writtenPoints(measurement), key, measurement, taken: taken.get(key) };
  });
}

/** A ready list of this board that is being gone through; undefined where none is. */
export function useSequence(
  { index, journal }: CaseState,
  name: string | undefined,
): RunningSequence | undefined {
  return useMemo(() => {
    const sequence = index && sequencesOf(index).find((one) => one.name === name);
    if (!sequence) return undefined;
    const steps = stepsOf(sequence, journal);
    return { sequence, steps, left: steps.filter(({ taken }) => taken === undefined) };
  }, [index, journal, name]);
}
