import { useCallback, useState } from 'react';
import { format } from 'date-fns/format';
import type { CaseState } from '../../case/use-case';
import { PrintedLabels, type Label } from '../../stock/Labels';
import { Button } from '../../ui/Button';

/** A label for the bag of every part that came off: what it was, of which case, and the way back to it. */
export function bagLabels(
  { view, journal }: Pick<CaseState, 'view' | 'journal'>,
  origin: string,
): readonly Label[] {
  return journal.ledger
    .filter(({ action }) => action === 'removed')
    .map(({ ref, value, note, entry }) => ({
      title: `${view.number} ${ref}`,
      lines: [value, note, view.unitModel, format(new Date(entry.madeAt), 'd MMM yyyy')].filter(
        Boolean,
      ),
      code: `${origin}/case/${view.number}/repair#${encodeURIComponent(ref)}`,
    }));
}

export function BagLabels({ state }: { state: CaseState }) {
  const [printing, setPrinting] = useState<readonly Label[]>();
  const done = useCallback(() => setPrinting(undefined), []);
  if (!state.journal.ledger.some(({ action }) => action === 'removed')) return null;
  return (
    <>
      <Button onClick={() => setPrinting(bagLabels(state, window.location.origin))}>
        Print bag labels
      </Button>
      {printing && <PrintedLabels labels={printing} onDone={done} />}
    </>
  );
}
