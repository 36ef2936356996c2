import { useCallback, useState } from 'react';
import { ReadingKind } from '@hanzai/core/instrument';
import { keep, readKept } from '../../store/kept';
import { Limits } from '../../workers/engine-messages';

const KEY = 'hanzai-what-may-be-proposed';

/** Everything may be proposed. */
export const NO_LIMITS: Limits = {
  kinds: [...ReadingKind.options],
  power: 'any',
  side: 'any',
  open: false,
  solder: true,
};

/** Whether something is held back. */
export function isLimited(limits: Limits): boolean {
  return JSON.stringify(limits) !== JSON.stringify(NO_LIMITS);
}

/** What the browser keeps; everything where it keeps nothing, or nothing that can be read. */
function kept(): Limits {
  try {
    return Limits.parse(JSON.parse(readKept(KEY) ?? 'null'));
  } catch {
    return NO_LIMITS;
  }
}

/** What may be proposed at this bench: it stays so for the next case, too. */
export function useLimits(): readonly [Limits, (limits: Limits) => void] {
  const [limits, setLimits] = useState(kept);
  const change = useCallback((next: Limits) => {
    setLimits(next);
    keep(KEY, JSON.stringify(next));
  }, []);
  return [limits, change];
}
