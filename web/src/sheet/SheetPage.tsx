import { useEffect, useState } from 'react';
import { format } from 'date-fns/format';
import { z } from 'zod';
import { Board, checkBoard, writeSheet } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { Band } from '../case/Band';
import { ask, whyNot } from '../store/answers';
import { SheetVersion } from '../store/sheet-versions';
import { Fold } from '../ui/Fold';
import { Keys } from '../ui/Keys';
import { Notice } from '../ui/Notice';
import { Rows } from '../ui/Rows';
import { SheetBench, type SheetStart } from './SheetBench';
import style from './SheetPage.module.css';

/** A stored sheet on the sheet bench, with its versions; without an id a new one. */
export function SheetPage({ id }: { id: string }) {
  const [start, setStart] = useState<SheetStart | undefined>(id === '' ? { text: '' } : undefined);
  const [versions, setVersions] = useState<readonly SheetVersion[]>([]);
  const [failure, setFailure] = useState<string>();

  useEffect(() => {
    if (id === '') return;
    void (async () => {
      try {
        const [content, known] = await Promise.all([
          ask(`/api/boards/${id}`, z.unknown()),
          ask(`/api/boards/${id}/versions`, z.array(SheetVersion)),
        ]);
        const checked = checkBoard(content);
        if (!checked.ok) return setFailure('this version of Hanzai cannot read the sheet');
        setVersions(known);
        const { version = 1 } = known.find((one) => one.id === id) ?? {};
        setStart({ text: writeSheet(Board.parse(checked.value), LIBRARY), of: id, version });
      } catch (error) {
        setFailure(whyNot(error));
      }
    })();
  }, [id]);

  const [newest] = versions;
  // The case that somebody came from, to go back to.
  const forCase = /^\d+$/.exec(new URLSearchParams(window.location.search).get('case') ?? '')?.[0];
  return (
    <>
      <Band here="boards">
        {forCase && <a href={`/case/${forCase}/trace`}>Back to case {forCase}</a>}
      </Band>
      {failure && <Notice look="attention">{failure}</Notice>}
      {newest && newest.id !== id && (
        <Notice
          look="attention"
          title={`This is an older version. The newest is ${newest.version}:`}
        >
          <a href={`/boards/${newest.id}`}>open it</a>
        </Notice>
      )}
      {versions.length > 1 && (
        <div className={style.versions}>
          <Fold>
            <summary>{versions.length} versions</summary>
            <Rows>
              {versions.map((one) => (
                <li key={one.id}>
                  <span>
                    <a href={`/boards/${one.id}`}>Version {one.version}</a>
                    {one.id === id && ', this one'}
                    <small>
                      {format(new Date(one.createdAt), 'd MMM yyyy, HH:mm')} by {one.madeBy}
                      {one.changes.length > 0 && `: ${one.changes.slice(0, 6).join('; ')}`}
                    </small>
                  </span>
                </li>
              ))}
            </Rows>
          </Fold>
        </div>
      )}
      {start && (
        <SheetBench
          start={start}
          onStored={(stored) =>
            window.location.assign(forCase ? `/case/${forCase}/trace` : `/boards/${stored}`)
          }
        />
      )}
      <Keys
        keys={[
          ['Ctrl+Space', 'what may come next'],
          ['Ctrl+Z', 'undo'],
          ['Ctrl+F', 'find'],
          ['Esc, Tab', 'out of the editor'],
          ['?', 'these keys (outside of the editor)'],
        ]}
      />
    </>
  );
}
