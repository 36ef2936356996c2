import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { z } from 'zod';
import { ask, whyNot, withBody } from '../store/answers';
import { newerThan, versionsQuery } from '../store/sheet-versions';
import { Button } from '../ui/Button';
import { Notice } from '../ui/Notice';
import type { CaseState } from './use-case';

/**
 * A newer version of the sheet than the one that the case is traced on, with what is different, and
 * the press that moves the case to it. Nothing where there is none.
 */
export function NewerSheet({ state }: { state: CaseState }) {
  const { view, journal } = state;
  const id = view.board?.id ?? '';
  const { data: versions = [] } = useQuery({ ...versionsQuery(id), enabled: id !== '' });
  const [failure, setFailure] = useState<string>();
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
      {failure && <span role="alert"> {failure}</span>}
    </Notice>
  );
}
