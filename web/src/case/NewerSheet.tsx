import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { z } from 'zod';
import { ask, whyNot, withBody } from '../store/answers';
import { newerThan, versionsQuery } from '../store/sheet-versions';
import { checkBoard } from '@hanzai/core/board';
import type { LineUp } from '../workers/engine-messages';
import { beliefChanges, lineUpOn } from './belief-on';
import { engineRequest, type Circumstances } from './engine-request';
import { percent } from './wording';
import { Button } from '../ui/Button';
import { Notice } from '../ui/Notice';
import type { CaseState } from './use-case';

function changeWords(before: LineUp, after: LineUp): string {
  const moved = beliefChanges(before, after).map(
    ({ ref, before: was, after: is }) => `${ref} ${percent(was)} → ${percent(is)}`,
  );
  const lost = Object.keys(before.expected).filter((id) => !after.expected[id]).length;
  const odd = after.unexplained.length;
  return [
    moved.length > 0 ? `It would change ${moved.join(', ')}.` : 'The line-up would stay as it is.',
    lost > 0
      ? `${lost} ${lost === 1 ? 'reading has' : 'readings have'} no point on it any more.`
      : '',
    odd > before.unexplained.length
      ? `${odd} ${odd === 1 ? 'reading' : 'readings'} it would not explain.`
      : '',
  ]
    .filter(Boolean)
    .join(' ');
}

/**
 * A newer version of the sheet than the one that the case is traced on, with what is different, and
 * the press that moves the case to it. Nothing where there is none.
 */
export function NewerSheet({
  state,
  before,
  circumstances,
}: {
  state: CaseState;
  /** The belief on the sheet that the case has; undefined until it is there, and where nobody asks. */
  before?: LineUp | undefined;
  circumstances?: Circumstances;
}) {
  const { view, journal } = state;
  const id = view.board?.id ?? '';
  const { data: versions = [] } = useQuery({ ...versionsQuery(id), enabled: id !== '' });
  const [failure, setFailure] = useState<string>();
  const [asking, setAsking] = useState(false);
  const [told, setTold] = useState<string>();
  const newer = newerThan(id, versions);
  if (!newer || journal.closed) return null;

  async function move(): Promise<void> {
    try {
      const change = { boardId: newer!.newest.id, version: view.version };
      await ask(`/api/cases/${view.id}`, z.unknown(), withBody('PATCH', change));
      setFailure(undefined);
      await state.reload();
    } catch (error) {
      setFailure(whyNot(error));
    }
  }

  /** The belief on the newer sheet, beside that on the one that the case has. */
  async function preview(): Promise<void> {
    setAsking(true);
    try {
      const checked = checkBoard(await ask(`/api/boards/${newer!.newest.id}`, z.unknown()));
      if (!checked.ok) throw new Error('this version of Hanzai cannot read that sheet');
      const request = engineRequest(1, journal, circumstances ?? { look: {} });
      const after = await lineUpOn(checked.value, request);
      setTold(changeWords(before!, after));
      setFailure(undefined);
    } catch (error) {
      setFailure(whyNot(error));
    } finally {
      setAsking(false);
    }
  }

  const { changes, newest } = newer;
  const shown = changes.slice(0, 5).join('; ');
  return (
    <Notice look="attention" title={`Version ${newest.version} of this sheet is stored.`}>
      {shown}
      {changes.length > 5 && `; and ${changes.length - 5} more`}. Readings stay; what they say is
      worked out anew.{' '}
      <Button look="quiet" onClick={() => void move()}>
        Move this case to it
      </Button>
      {circumstances && (
        <Button
          look="quiet"
          disabled={before === undefined || asking}
          onClick={() => void preview()}
        >
          {asking ? 'Working it out' : 'What would it change?'}
        </Button>
      )}
      {told && <span role="status"> {told}</span>}
      {failure && <span role="alert"> {failure}</span>}
    </Notice>
  );
}
