import { useEffect, useState } from 'react';
import type { Measurement, ReadingValue } from '@hanzai/core/instrument';
import type { ReadingMeaning } from '../../workers/engine-messages';
import { engineRequest, type Circumstances } from '../engine-request';
import type { CaseState } from '../use-case';
import { writtenPoints } from '../written-points';

/** How long nothing is typed before it is asked what a value would mean. */
const STILL_MILLISECONDS = 250;

/** A reading that is typed and not filed. */
export interface TypedReading {
  readonly measurement: Measurement;
  readonly value: ReadingValue;
}

/**
 * Who would lead after a reading that is not filed yet; undefined while that is not known, and where
 * no engine is asked.
 */
export function useMeaning(
  { engine, journal }: CaseState,
  circumstances: Circumstances | undefined,
  typed: TypedReading | undefined,
): ReadingMeaning | undefined {
  const [answer, setAnswer] = useState<{ to: string; meaning: ReadingMeaning | undefined }>();
  const m = typed?.measurement;
  const reading = m && {
    id: 'typed',
    setup: m.setup,
    kind: m.kind,
    ...writtenPoints(m),
    value: typed.value,
    absent: [...journal.absent],
  };
  const key = reading && circumstances ? JSON.stringify(reading) : '';
  useEffect(() => {
    if (!engine || !circumstances || !reading) return undefined;
    let wanted = true;
    const timer = setTimeout(() => {
      const { readings, absent, look } = engineRequest(0, journal, circumstances);
      engine.door.meaning({ readings: [...readings, reading], absent, look }).then(
        (meaning) => wanted && setAnswer({ to: key, meaning }),
        // That the engine stopped is told elsewhere.
        () => undefined,
      );
    }, STILL_MILLISECONDS);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for the reading by value
  }, [engine, journal, circumstances, key]);
  return answer && answer.to === key ? answer.meaning : undefined;
}
