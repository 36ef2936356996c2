import { measurementWords } from '@hanzai/core/training';
import type { PracticeLink } from '../practice-link';
import type { ProposedPoints } from './grammar';
import type { StripState } from './use-strip';

/** The strip of an exercise: points are typed, the meter gives the value. */
export interface PracticeLine {
  /** What Enter would do; undefined where the strip itself says. */
  readonly says: string | undefined;
  readonly enter: () => void;
}

/** Undefined where the case is none. */
export function usePracticeLine(
  practice: PracticeLink | undefined,
  { text, line, enter, say, type }: StripState,
  proposed: ProposedPoints | undefined,
): PracticeLine | undefined {
  if (!practice) return undefined;
  const points = text.trim() === '' ? undefined : practice.points(text);
  const isCommand = line.ok && line.items.every(({ kind }) => kind !== 'reading');
  const hasValue = line.ok && !isCommand && !points?.ok;
  const measure = async (): Promise<void> => {
    const done = await practice.measure(text, proposed);
    if (done.ok) {
      type('');
      say({ text: `Read: ${done.words}. It stands in the readings.`, bad: false });
    } else say({ text: `Not read: ${done.why}.`, bad: true });
  };
  return {
    says: points?.ok
      ? `Enter puts the probes there: ${measurementWords(points.measurement)}`
      : hasValue
        ? 'The meter of the exercise gives the value: type the point alone.'
        : undefined,
    enter: () => {
      if (practice.busy) say({ text: 'The bench is still busy.', bad: true });
      else if (isCommand && !points?.ok) enter(text);
      else if (hasValue)
        say({
          text: 'The meter of the exercise gives the value: type the point alone.',
          bad: true,
        });
      else if (text.trim() !== '' || proposed) void measure();
    },
  };
}
