import { useEffect, useState } from 'react';
import type { SheetWorth } from '@hanzai/core/diagnosis';
import type { CaseState } from '../../case/use-case';
import type { LineUp } from '../../workers/engine-messages';

/** So many suspects are held against each other, each with a chance of more than this. */
const LEADING = { most: 5, from: 0.03 } as const;

const NONE: readonly SheetWorth[] = [];

/** What more of the sheet would tell the leading suspects apart; asked once a line-up has settled. */
export function useSheetWorth(
  { engine, journal }: CaseState,
  lineUp: LineUp | undefined,
): readonly SheetWorth[] {
  const [worth, setWorth] = useState(NONE);
  const settled = lineUp && lineUp.refining === undefined ? lineUp : undefined;
  const suspects = (settled?.entries ?? [])
    .filter(({ probability, modes }) => probability >= LEADING.from && modes.length > 0)
    .slice(0, LEADING.most)
    .map(({ modes }) => modes[0]!);
  const key = suspects.join('|');
  useEffect(() => {
    if (!engine || suspects.length < 2) return setWorth(NONE);
    let stale = false;
    engine.door.worth({ suspects, absent: [...journal.absent] }).then(
      (found) => !stale && setWorth(found),
      () => !stale && setWorth(NONE),
    );
    return () => {
      stale = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for the suspects by value
  }, [engine, key, journal.absent]);
  return worth;
}
