import { format } from 'date-fns/format';
import { useCallback, useState } from 'react';
import { PrintedLabels, type Label } from '../stock/Labels';
import { Button } from '../ui/Button';
import type { CaseView } from './case-view';

/** A label for the unit itself: whose case it is, what must not be forgotten, and the way to it. */
export function unitLabel(
  view: Pick<
    CaseView,
    'number' | 'title' | 'unitModel' | 'serial' | 'owner' | 'batch' | 'stuckInside' | 'openedAt'
  >,
  origin: string,
): Label {
  const { number, title, unitModel, serial, owner, batch, stuckInside, openedAt } = view;
  return {
    title: `Case ${number}`,
    lines: [
      unitModel,
      serial && `no. ${serial}`,
      title,
      owner,
      batch && `batch ${batch}`,
      stuckInside && `inside: ${stuckInside}`,
      format(new Date(openedAt), 'd MMM yyyy'),
    ].filter(Boolean),
    code: `${origin}/case/${number}`,
  };
}

export function UnitLabel({ view }: { view: CaseView }) {
  const [printing, setPrinting] = useState<readonly Label[]>();
  const done = useCallback(() => setPrinting(undefined), []);
  return (
    <>
      <Button onClick={() => setPrinting([unitLabel(view, window.location.origin)])}>
        Print the unit’s label
      </Button>
      {printing && <PrintedLabels labels={printing} onDone={done} />}
    </>
  );
}
