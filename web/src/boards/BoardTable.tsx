import { format } from 'date-fns/format';
import { useState } from 'react';
import { Button, ButtonLink } from '../ui/Button';
import type { BoardLine } from './board-line';
import style from './Boards.module.css';

const FILES = [
  ['sheet', 'bench sheet'],
  ['cir', 'deck'],
  ['json', 'JSON'],
  ['ipc', 'test netlist'],
  ['csv', 'parts list'],
] as const;

/** The sheets that are here; those set aside on demand. */
export function BoardTable({
  boards,
  onArchive,
}: {
  boards: readonly BoardLine[];
  onArchive: (board: BoardLine) => void;
}) {
  const [all, setAll] = useState(false);
  const aside = boards.filter(({ archived }) => archived).length;
  return (
    <>
      <div className={style.wide}>
        <table className={style.table}>
          <thead>
            <tr>
              <th scope="col">sheet</th>
              <th scope="col">parts</th>
              <th scope="col">nets</th>
              <th scope="col">take out as</th>
              <th scope="col">
                <span className="visually-hidden">set aside</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {boards
              .filter(({ archived }) => all || !archived)
              .map((board) => (
                <Row key={board.id} board={board} onArchive={() => onArchive(board)} />
              ))}
          </tbody>
        </table>
      </div>
      {aside > 0 && (
        <p>
          <Button look="quiet" onClick={() => setAll(!all)}>
            {all ? 'Hide what is set aside' : `Show ${aside} set aside`}
          </Button>
        </p>
      )}
    </>
  );
}

function Row({ board, onArchive }: { board: BoardLine; onArchive: () => void }) {
  const { id, title, sourceName, createdAt, parts, nets, archived, version } = board;
  return (
    <tr>
      <th scope="row">
        {parts === null ? title : <a href={`/boards/${id}`}>{title}</a>}
        <small>
          {version > 1 && `version ${version}, `}
          {sourceName}, {format(new Date(createdAt), 'd MMM yyyy')}
          {archived && ', set aside'}
          {parts === null && ', cannot be read by this version: kept as it is'}
        </small>
      </th>
      <td>{parts}</td>
      <td>{nets}</td>
      <td>
        <span className={style.files}>
          {parts !== null &&
            FILES.map(([ending, words]) => (
              <a key={ending} href={`/api/boards/${id}/file.${ending}`}>
                {words}
              </a>
            ))}
        </span>
      </td>
      <td className={style.acts}>
        {parts !== null && (
          <ButtonLink look="quiet" href={`/boards/new?from=${id}`} label={`Copy ${title}`}>
            Copy
          </ButtonLink>
        )}
        <Button
          look="quiet"
          onClick={onArchive}
          aria-label={archived ? `Take ${title} back` : `Set ${title} aside`}
          title="A sheet set aside is not offered for new cases; those worked on it keep it."
        >
          {archived ? 'Take back' : 'Set aside'}
        </Button>
      </td>
    </tr>
  );
}
