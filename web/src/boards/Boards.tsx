import { lazy, Suspense, useState } from 'react';
import { z } from 'zod';
import { Band } from '../case/Band';
import { ask, whyNot, withBody } from '../store/answers';
import { Keys } from '../ui/Keys';
import { ButtonLink } from '../ui/Button';
import { Notice } from '../ui/Notice';
import type { SheetStart } from '../sheet/SheetBench';
import type { BoardLine } from './board-line';
import { BoardImport } from './BoardImport';
import { BoardTable } from './BoardTable';
import style from './Boards.module.css';

const SheetBench = lazy(() =>
  import('../sheet/SheetBench').then((module) => ({ default: module.SheetBench })),
);

/** Board sheets: what is here, import and export, setting aside. */
export function Boards({ boards, forCase }: { boards: readonly BoardLine[]; forCase: string }) {
  const [list, setList] = useState(boards);
  const [failure, setFailure] = useState<string>();
  const [looking, setLooking] = useState<SheetStart>();

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

  if (looking)
    return (
      <>
        <Band here="boards" />
        <Suspense fallback={null}>
          <SheetBench
            start={looking}
            onStored={(id) =>
              window.location.assign(forCase ? `/case/${forCase}/take-in` : `/boards/${id}`)
            }
          />
        </Suspense>
      </>
    );
  return (
    <>
      <Band here="boards" />
      <main className={style.page}>
        <section>
          <h1>Board sheets</h1>
          <p className={style.write}>
            <ButtonLink look="main" href="/boards/new">
              Write a sheet
            </ButtonLink>{' '}
            one line one part, drawn as you type
          </p>
          {failure && (
            <Notice look="attention" live>
              {failure}
            </Notice>
          )}
          {list.length === 0 ? (
            <Notice>
              None yet. Write one, or import a file on the right; the example there is one to try.
            </Notice>
          ) : (
            <BoardTable boards={list} onArchive={(board) => void archive(board)} />
          )}
        </section>
        <BoardImport
          forCase={forCase}
          onImported={(board) => setList((now) => [board, ...now])}
          onLook={setLooking}
        />
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
