import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { z } from 'zod';
import { boardChanges, checkBoard, type Board } from '@hanzai/core/board';
import { ask, whyNot } from '../store/answers';
import type { SheetVersion } from '../store/sheet-versions';
import { store } from '../store/store';
import { Field } from '../ui/Field';
import { Rows } from '../ui/Rows';

const Choice = z.object({ id: z.uuid(), title: z.string() });
const MOST_LINES = 200;

async function boardAt(id: string): Promise<Board> {
  const checked = checkBoard(await ask(`/api/boards/${id}`, z.unknown()));
  if (!checked.ok) throw new Error('this version of Hanzai cannot read that sheet');
  return checked.value;
}

/** The sheet that is written, held against another version of it or against another board. */
export function Compare({
  board,
  versions,
  here,
}: {
  board: Board;
  /** Of this sheet; none where it is not stored yet. */
  versions: readonly SheetVersion[];
  here: string | undefined;
}) {
  const { queries } = store();
  const [id, setId] = useState('');
  const { data: others = [] } = useQuery(
    { queryKey: ['boards'], queryFn: () => ask('/api/boards', z.array(Choice)) },
    queries,
  );
  const { data: other, error } = useQuery(
    { queryKey: ['board', id], queryFn: () => boardAt(id), enabled: id !== '' },
    queries,
  );
  const changes = useMemo(() => (other ? boardChanges(other, board) : undefined), [other, board]);
  const own = new Set(versions.map((one) => one.id));
  return (
    <section aria-label="Compare">
      <Field id="compare-with" label="What is different here from">
        <select id="compare-with" value={id} onChange={(event) => setId(event.target.value)}>
          <option value="">choose a version or a board</option>
          {versions.map((one) => (
            <option key={one.id} value={one.id}>
              version {one.version}
              {one.id === here ? ', as it is stored' : ''}
            </option>
          ))}
          {others
            .filter((one) => !own.has(one.id))
            .map((one) => (
              <option key={one.id} value={one.id}>
                {one.title}
              </option>
            ))}
        </select>
      </Field>
      {error && <p role="alert">{whyNot(error)}</p>}
      {changes && (
        <p role="status">
          {changes.length === 0
            ? 'Nothing: both say the same.'
            : changes.length === 1
              ? 'One thing:'
              : `${changes.length} things:`}
        </p>
      )}
      <Rows>
        {(changes ?? []).slice(0, MOST_LINES).map((line) => (
          <li key={line}>
            <span>{line}</span>
          </li>
        ))}
      </Rows>
      {(changes?.length ?? 0) > MOST_LINES && <p>and {changes!.length - MOST_LINES} more</p>}
    </section>
  );
}
