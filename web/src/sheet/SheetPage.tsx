import { useEffect, useState } from 'react';
import { format } from 'date-fns/format';
import { z } from 'zod';
import { Board, checkBoard, writeSheet } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { Band } from '../case/Band';
import { readEntries, SentCase } from '../case/case-view';
import { playJournal } from '../case/journal';
import { sheetFromCase } from '../case/sheet-from-case';
import { ask, whyNot, withBody } from '../store/answers';
import { SheetVersion } from '../store/sheet-versions';
import { Fold } from '../ui/Fold';
import { Keys } from '../ui/Keys';
import { Notice } from '../ui/Notice';
import { Rows } from '../ui/Rows';
import { SheetBench, type SheetStart } from './SheetBench';
import style from './SheetPage.module.css';

/** The case that somebody came from, to go back to. */
const caseInAddress = (): string | undefined =>
  /^\d+$/.exec(new URLSearchParams(window.location.search).get('case') ?? '')?.[0];

/** The board that a new sheet begins as a copy of. */
const copiedInAddress = (): string | undefined =>
  z.uuid().safeParse(new URLSearchParams(window.location.search).get('from')).data;

async function storedText(id: string, title: (was: string) => string): Promise<string> {
  const checked = checkBoard(await ask(`/api/boards/${id}`, z.unknown()));
  if (!checked.ok) throw new Error('this version of Hanzai cannot read the sheet');
  const board = Board.parse(checked.value);
  return writeSheet({ ...board, title: title(board.title).slice(0, 200) }, LIBRARY);
}

/** What a case without a sheet has named so far, as the beginning of one. */
async function textFromCase(number: string): Promise<string> {
  const sent = await ask(`/api/cases/by-number/${number}`, SentCase);
  const { entries } = readEntries(sent.entries);
  return sent.boardId === null
    ? sheetFromCase(sent.unitModel, playJournal(entries, undefined))
    : '';
}

/** Back to the case, which from now on is traced on the sheet where it had none; or to the sheet. */
async function leave(stored: string, forCase: string | undefined): Promise<void> {
  if (forCase === undefined) return window.location.assign(`/boards/${stored}`);
  try {
    const sent = await ask(`/api/cases/by-number/${forCase}`, SentCase);
    const change = { boardId: stored, version: sent.version };
    if (sent.boardId === null)
      await ask(`/api/cases/${sent.id}`, z.unknown(), withBody('PATCH', change));
  } catch {
    // The sheet is stored; the case does not have it yet, and can choose it in Take in.
    return window.location.assign(`/boards/${stored}?case=${forCase}`);
  }
  window.location.assign(`/case/${forCase}/trace`);
}

/** A stored sheet on the sheet bench, with its versions; without an id a new one. */
export function SheetPage({ id }: { id: string }) {
  const [start, setStart] = useState<SheetStart>();
  const forCase = caseInAddress();
  const [versions, setVersions] = useState<readonly SheetVersion[]>([]);
  const [failure, setFailure] = useState<string>();

  useEffect(() => {
    void (async () => {
      try {
        const copied = copiedInAddress();
        if (id === '' && copied)
          return setStart({ text: await storedText(copied, (was) => `${was}, copy`), fresh: true });
        if (id === '')
          return setStart({
            text: forCase ? await textFromCase(forCase) : '',
            forCase,
            section: new URLSearchParams(window.location.search).get('section') ?? undefined,
          });
        const [text, known] = await Promise.all([
          storedText(id, (was) => was),
          ask(`/api/boards/${id}/versions`, z.array(SheetVersion)),
        ]);
        setVersions(known);
        const { version = 1 } = known.find((one) => one.id === id) ?? {};
        setStart({
          text,
          of: id,
          version,
          versions: known,
          forCase,
        });
      } catch (error) {
        setFailure(whyNot(error));
      }
    })();
  }, [id, forCase]);

  const [newest] = versions;
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
      {start && <SheetBench start={start} onStored={(stored) => void leave(stored, forCase)} />}
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
