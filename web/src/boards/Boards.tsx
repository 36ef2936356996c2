import { useState } from 'react';
import { z } from 'zod';
import { Band } from '../case/Band';
import { ask, whyNot, withBody } from '../store/answers';
import { Keys } from '../ui/Keys';
import { Notice } from '../ui/Notice';
import type { BoardLine } from './board-line';
import { BoardImport } from './BoardImport';
import { BoardTable } from './BoardTable';
import style from './Boards.module.css';

/** Board sheets: what is here, import and export, setting aside. */
export function Boards({ boards, forCase }: { boards: readonly BoardLine[]; forCase: string }) {
  const [list, setList] = useState(boards);
  const [failure, setFailure] = useState<string>();

  async function archive({ id, archived }: BoardLine): Promise<void> {
    setFailure(undefined);
    try {
      const change = withBody('PATCH', { archived: !archived });
      await ask(`/api/boards/${id}`, z.unknown(), change);
      setList((now) =>
        now.map((board) => (board.id === id ? { ...board, archived: !archived } : board)),
      );
    } catch (error) {
      setFailure(whyNot(error));
    }
  }

  return (
    <>
      <Band here="boards" />
      <main className={style.page}>
        <section>
          <h1>Board sheets</h1>
          {failure && (
            <Notice look="attention" live>
              {failure}
            </Notice>
          )}
          {list.length === 0 ? (
            <Notice>
              None yet. Import a circuit deck or Board JSON on the right; the example there is one
              to try.
            </Notice>
          ) : (
            <BoardTable boards={list} onArchive={(board) => void archive(board)} />
          )}
        </section>
        <BoardImport forCase={forCase} onImported={(board) => setList((now) => [board, ...now])} />
      </main>
      <Keys
        keys={[
          ['Tab, Enter', 'to a file and take it out'],
          ['?', 'these keys'],
        ]}
      />
    </>
  );
}
