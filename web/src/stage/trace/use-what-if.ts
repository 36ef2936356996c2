import { useEffect, useState } from 'react';
import { engineReadings } from '../../case/engine-request';
import type { CaseState } from '../../case/use-case';
import type { WhatIfAnswer } from '../../workers/engine-messages';

/**
 * What the meter would show on the board with faults put on it, at each reading taken and on each
 * net. faults: `L2:open`, two joined by ` + `, empty for a sound board; undefined asks nothing.
 */
export function useWhatIf(state: CaseState, faults: string | undefined): WhatIfAnswer | undefined {
  const { engine, journal } = state;
  const [answer, setAnswer] = useState<{ readonly to: string; readonly said: WhatIfAnswer }>();
  useEffect(() => {
    if (!engine || faults === undefined) return;
    let stale = false;
    const readings = engineReadings(journal);
    engine.door.whatIf({ faults, readings, absent: [...journal.absent] }).then(
      (said) => !stale && setAnswer({ to: faults, said }),
      (error: unknown) =>
        !stale && setAnswer({ to: faults, said: { ok: false, why: String(error) } }),
    );
    return () => {
      stale = true;
    };
  }, [engine, journal, faults]);
  return answer && answer.to === faults ? answer.said : undefined;
}
