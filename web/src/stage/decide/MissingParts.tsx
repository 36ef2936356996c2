import { useMemo } from 'react';
import { placeOf } from '@hanzai/core/bench';
import type { BoardIndex } from '@hanzai/core/board';
import { specOfParts } from '@hanzai/core/part';
import { rankLots } from '../../stock/rank';
import { freeOf, type Lot } from '../../stock/stock';
import { useStock } from '../../stock/use-stock';
import { oddsWords } from '../../case/wording';
import { Notice } from '../../ui/Notice';
import type { Suspect } from './standing';

/** A suspect with this chance is worth a look into the drawer before the unit is opened. */
const LIKELY = 0.05;

/** Suspects that nothing free in stock would do for. */
export function missingFor(
  suspects: readonly Suspect[],
  lots: readonly Lot[],
  index: BoardIndex,
  now: number,
): readonly Suspect[] {
  return suspects.filter(({ ref, probability }) => {
    const parts = index.replaceable.get(ref);
    if (!parts || probability < LIKELY) return false;
    return !rankLots(specOfParts(parts), lots, placeOf(index, parts), now).some(
      ({ lot, verdict }) => verdict !== 'no' && freeOf(lot) > 0,
    );
  });
}

/** What will be missing for what is likely: said before anything is opened for it. */
export function MissingParts({
  suspects,
  index,
}: {
  suspects: readonly Suspect[];
  index: BoardIndex;
}) {
  const { lots } = useStock();
  const missing = useMemo(
    () => (lots.length === 0 ? [] : missingFor(suspects, lots, index, Date.now())),
    [suspects, lots, index],
  );
  if (missing.length === 0) return null;
  return (
    <Notice title="Not in stock:">
      {missing
        .map(({ ref, title, probability }) => `${ref} (${title}, ${oddsWords(probability)})`)
        .join('; ')}
      . Order before it is opened, or decide for another course.
    </Notice>
  );
}
