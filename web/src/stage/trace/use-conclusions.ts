import { useEffect, useState } from 'react';
import { engineReadings } from '../../case/engine-request';
import type { CaseState } from '../../case/use-case';
import { askAgain } from '../../workers/ask-again';
import type { ReadingConclusion } from '../../workers/engine-messages';

const NONE: Readonly<Record<string, ReadingConclusion>> = {};

/**
 * By reading, whether it says what it seems to say; those across no single part are left out. The
 * last answer stands until the next has come.
 */
export function useConclusions({
  engine,
  journal,
}: CaseState): Readonly<Record<string, ReadingConclusion>> {
  const [found, setFound] = useState(NONE);
  const key = JSON.stringify(engineReadings(journal).filter(({ setup }) => setup === 'off'));
  useEffect(() => {
    if (!engine || key === '[]') return undefined;
    let wanted = true;
    askAgain(
      () => engine.door.conclude({ readings: JSON.parse(key) as unknown }),
      () => wanted,
    ).then(
      (answer) => wanted && answer && setFound(answer),
      // Without it a reading stands as it did.
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [engine, key]);
  return found;
}
