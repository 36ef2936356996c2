import { useMemo, useState } from 'react';
import { z } from 'zod';
import { nameKey, writeSheet } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import type { CaseState } from '../../case/use-case';
import { SheetBench } from '../../sheet/SheetBench';
import { ask, whyNot, withBody } from '../../store/answers';
import { Button } from '../../ui/Button';
import { Notice } from '../../ui/Notice';
import type { LineUp } from '../../workers/engine-messages';
import style from './SheetDrawer.module.css';

/** Above this belief a part is in question. */
const IN_QUESTION = 0.04;

/**
 * The text of the sheet beside the map: what is found while one traces is written down there, stored
 * as the next version, and the case goes on with it at once.
 */
export default function SheetDrawer({
  state,
  lineUp,
  onClose,
}: {
  state: CaseState;
  lineUp: LineUp | undefined;
  onClose: () => void;
}) {
  const { view } = state;
  const board = view.board!;
  const [text] = useState(() => writeSheet(board.content, LIBRARY));
  const [failure, setFailure] = useState<string>();
  const suspects = useMemo(
    () =>
      new Set(
        (lineUp?.entries ?? [])
          .filter(({ probability }) => probability >= IN_QUESTION)
          .map(({ ref }) => nameKey(ref)),
      ),
    [lineUp],
  );

  async function goOn(stored: string): Promise<void> {
    try {
      const change = { boardId: stored, version: view.version };
      await ask(`/api/cases/${view.id}`, z.unknown(), withBody('PATCH', change));
      await state.reload();
      onClose();
    } catch (error) {
      setFailure(`The sheet is stored. This case stays with the one before: ${whyNot(error)}`);
    }
  }
  return (
    <aside className={style.drawer} aria-label="The sheet, to write on">
      <header>
        <Button look="quiet" onClick={onClose}>
          Close
        </Button>
      </header>
      {failure && (
        <Notice look="attention" live>
          {failure}
        </Notice>
      )}
      <SheetBench
        start={{ text, of: board.id, forCase: String(view.number) }}
        onStored={(id) => void goOn(id)}
        beside
        suspects={suspects}
      />
    </aside>
  );
}
