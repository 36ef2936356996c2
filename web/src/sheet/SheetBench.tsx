import { history } from '@codemirror/commands';
import { lintGutter, linter } from '@codemirror/lint';
import { EditorView } from '@codemirror/view';
import CodeMirror, { type ReactCodeMirrorRef } from '@uiw/react-codemirror';
import { lazy, Suspense, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { z } from 'zod';
import {
  boardChanges,
  indexBoard,
  nameKey,
  readSheetLines,
  sheetRemarks,
  sheetSummary,
  withPartLine,
  type Board,
  type PartReport,
} from '@hanzai/core/board';
import { LIBRARY, OTHER_CHIPS, SERIES_74 } from '@hanzai/data';
import { Drawing } from '../drawing/Drawing';
import { ask, whyNot, withBody } from '../store/answers';
import { Button } from '../ui/Button';
import { Drawers } from '../ui/Drawers';
import { Notice } from '../ui/Notice';
import type { SheetVersion } from '../store/sheet-versions';
import { Compare } from './Compare';
import { dropDraft, keepDraft, readDraft } from './draft';
import { PartsTable } from './PartsTable';
import { Remarks, type Remark } from './Remarks';
import { RenameForm } from './RenameForm';
import { RingForm } from './RingForm';
import { SectionDialog } from './SectionDialog';
import { sheetExtensions } from './sheet-language';
import { diagnosticsOf, lineOf, partAt } from './sheet-places';
import style from './SheetBench.module.css';
import tab from '../ui/Tab.module.css';

export interface SheetStart {
  readonly text: string;
  /** The board that this becomes the next version of; undefined for a sheet of its own. */
  readonly of?: string;
  readonly version?: number;
  /** The number of the case that it is written for. */
  readonly forCase?: string | undefined;
  /** The versions of the sheet, the newest first. */
  readonly versions?: readonly SheetVersion[];
  /** A section of the library that is offered at once. */
  readonly section?: string | undefined;
  /** A text that what was typed here before must not take the place of. */
  readonly fresh?: boolean;
  /** As it was read from a file of another program. */
  readonly report?: readonly PartReport[];
  readonly notes?: readonly string[];
}

const PhotoBench = lazy(() =>
  import('../board-face/PhotoBench').then((module) => ({ default: module.PhotoBench })),
);

const Stored = z.object({ id: z.uuid(), version: z.number().int() });

const CHIPS = [
  ...SERIES_74.map(({ number }) => `74LS${number}`),
  ...OTHER_CHIPS.map(({ number }) => number),
];

const EXAMPLE = `title Lamp board
J1 12V in: 1=VIN 2=0
F1 VIN V12 T1A
C1 V12 0 100u 25V electrolytic
R1 V12 LAMP 680
D1 LAMP 0 LED
see lamp-lit "the lamp is lit": amps D1 0.005..
`;

/** The sheet bench: the text of a sheet and its drawing, side by side, each drawn as the other is typed. */
export function SheetBench({
  start,
  onStored,
  beside = false,
  suspects,
}: {
  start: SheetStart;
  onStored: (id: string) => void;
  /** Beside a drawing that is there already: the text alone. */
  beside?: boolean;
  /** Parts in question, by nameKey. */
  suspects?: ReadonlySet<string>;
}) {
  const key = start.of ?? 'new';
  const [text, setText] = useState(start.text);
  const [draftAt, setDraftAt] = useState<string>();
  const [unkept, setUnkept] = useState(false);
  const [face, setFace] = useState<'circuit' | 'board'>('circuit');
  const [choosing, setChoosing] = useState(start.section !== undefined);
  const [busy, setBusy] = useState(false);
  const [refusal, setRefusal] = useState<string>();
  const editor = useRef<ReactCodeMirrorRef>(null);
  const before = useMemo(() => readSheetLines(start.text, LIBRARY).board, [start.text]);

  // What was typed here before and not stored comes back, unless a file was just read.
  useEffect(() => {
    const draft = start.report || start.fresh ? undefined : readDraft(key);
    if (!draft || draft.text === start.text) return;
    setText(draft.text);
    setDraftAt(draft.at);
  }, [key, start]);

  const shown = useDeferredValue(text);
  const reading = useMemo(() => readSheetLines(shown, LIBRARY), [shown]);
  const { board, issues, lines } = reading;
  const latest = useRef<Board>(board);
  useEffect(() => {
    latest.current = board;
  }, [board]);
  const index = useMemo(() => (board.parts.length > 0 ? indexBoard(board) : undefined), [board]);
  const [cursor, setCursor] = useState(1);
  const at = useMemo(() => partAt(lines, board, cursor), [board, lines, cursor]);
  const remarks = useMemo((): readonly Remark[] => {
    const found: Remark[] = issues.map(({ line, what, expected }) => ({
      line,
      what,
      remedy: `expected ${expected}`,
      stops: true,
    }));
    for (const { ref, what, remedy } of sheetRemarks(board))
      found.push({
        line: ref === undefined ? undefined : lines.get(nameKey(ref)),
        what,
        remedy,
        stops: false,
      });
    return found.sort((a, b) => (a.line ?? 0) - (b.line ?? 0));
  }, [board, issues, lines]);
  const changes = useMemo(() => boardChanges(before, board), [before, board]);

  const extensions = useMemo(
    () => [
      history(),
      lintGutter(),
      linter((view) => diagnosticsOf(view), { delay: 250 }),
      ...sheetExtensions(() => latest.current, CHIPS),
    ],
    [],
  );

  function change(next: string): void {
    setText(next);
    setRefusal(undefined);
    setUnkept(!keepDraft(key, next));
  }

  function goTo(line: number | undefined): void {
    const view = editor.current?.view;
    if (!view || line === undefined || line > view.state.doc.lines) return;
    const { from } = view.state.doc.line(line);
    view.dispatch({
      selection: { anchor: from },
      effects: EditorView.scrollIntoView(from, { y: 'center' }),
    });
    view.focus();
  }

  async function store(): Promise<void> {
    setBusy(true);
    try {
      const stored = await ask(
        '/api/boards',
        Stored,
        withBody('POST', {
          fileName: `${board.title.slice(0, 190) || 'sheet'}.sheet`,
          text,
          ...(start.of ? { of: start.of } : {}),
        }),
      );
      dropDraft(key);
      onStored(stored.id);
    } catch (error) {
      setRefusal(whyNot(error));
    } finally {
      setBusy(false);
    }
  }

  const Frame = beside ? 'div' : 'main';
  const stopping = issues.length;
  const isSame = changes.length === 0 && start.of !== undefined;
  return (
    <Frame className={beside ? style.beside : style.bench}>
      <section className={style.write} aria-label="Write">
        <header className={style.head}>
          <h1>{board.title}</h1>
          <p role="status">{sheetSummary(board)}</p>
        </header>
        {draftAt && (
          <Notice look="attention" title="Your unsaved lines are here again.">
            <Button
              look="quiet"
              onClick={() => {
                dropDraft(key);
                setText(start.text);
                setDraftAt(undefined);
              }}
            >
              Start from the stored one instead
            </Button>
          </Notice>
        )}
        {unkept && (
          <Notice look="attention">
            This browser keeps nothing: store the sheet before you leave the page.
          </Notice>
        )}
        <div className={style.editor}>
          <CodeMirror
            ref={editor}
            value={text}
            onChange={change}
            onUpdate={({ state, selectionSet }) => {
              if (selectionSet) setCursor(state.doc.lineAt(state.selection.main.head).number);
            }}
            extensions={extensions}
            height="100%"
            theme="none"
            basicSetup={{ autocompletion: false, highlightSelectionMatches: true }}
          />
        </div>
        <footer className={style.foot}>
          <Button
            look="main"
            disabled={busy || stopping > 0 || isSame || board.parts.length === 0}
            onClick={() => void store()}
          >
            {!start.of
              ? 'Store the sheet'
              : start.version === undefined
                ? 'Store as the next version'
                : `Store as version ${start.version + 1}`}
          </Button>
          <span>
            {stopping > 0
              ? `${stopping} ${stopping === 1 ? 'line' : 'lines'} to mend first`
              : isSame
                ? 'as it is stored'
                : start.of
                  ? `${changes.slice(0, 3).join('; ')}${changes.length > 3 ? `; and ${changes.length - 3} more` : ''}`
                  : ''}
          </span>
          <Button onClick={() => setChoosing(true)}>Put a section in</Button>
          {board.parts.length === 0 && text.trim() === '' && (
            <Button onClick={() => change(EXAMPLE)}>Put the example in</Button>
          )}
        </footer>
        <SectionDialog
          board={board}
          open={choosing}
          first={start.section}
          onClose={() => setChoosing(false)}
          onInsert={(added) => {
            change(`${text.trimEnd()}\n\n${added}`.trimStart());
            setChoosing(false);
          }}
        />
        {refusal && (
          <Notice look="attention" live>
            {refusal}
          </Notice>
        )}
      </section>
      {beside && (
        <div className={style.below}>
          <Drawers
            label="Beside the text"
            drawers={[
              {
                key: 'ring',
                label: 'Ring through',
                content: (
                  <RingForm
                    text={text}
                    board={board}
                    forCase={start.forCase}
                    {...(suspects && { suspects })}
                    onChange={change}
                  />
                ),
              },
            ]}
          />
        </div>
      )}
      {!beside && (
        <section className={style.see} aria-label="Drawing and remarks">
          {index && (
            <div className={style.faces} role="group" aria-label="Faces of the sheet">
              {(['circuit', 'board'] as const).map((one) => (
                <button
                  key={one}
                  className={tab.tab}
                  type="button"
                  aria-pressed={face === one}
                  onClick={() => setFace(one)}
                >
                  {one === 'circuit' ? 'Circuit' : 'Board and picture'}
                </button>
              ))}
            </div>
          )}
          {index && face === 'board' ? (
            <Suspense fallback={null}>
              <PhotoBench text={text} board={board} boardId={start.of} onChange={change} />
            </Suspense>
          ) : index ? (
            <Drawing
              title="Drawing"
              scope="click a part or a net to go to its line"
              index={index}
              at={at}
              onPick={(name) => goTo(lines.get(nameKey(name)) ?? lineOf(text, name))}
            />
          ) : (
            <div className={style.empty}>
              <h2>Nothing drawn yet</h2>
              <p>
                One line one part, for example <code>C1 VM 0 470u 16V</code> or{' '}
                <code>U3 74LS14 1=RSTRC 2=RES 14=P5 7=0</code>. Write <code>?</code> for a value or
                an end that you do not know.
              </p>
            </div>
          )}
          <div className={style.below}>
            <Drawers
              label="Beside the drawing"
              first="remarks"
              drawers={[
                {
                  key: 'remarks',
                  label:
                    remarks.length > 0 ? `To look at: ${remarks.length}` : 'Nothing to look at',
                  content: (
                    <Remarks
                      remarks={remarks}
                      onGo={goTo}
                      board={board}
                      onMend={(ref, line) => change(withPartLine(text, ref, line))}
                      report={start.report}
                      notes={start.notes}
                    />
                  ),
                },
                {
                  key: 'table',
                  label: 'Table of parts',
                  content: <PartsTable text={text} onChange={change} onGo={goTo} />,
                },
                {
                  key: 'ring',
                  label: 'Ring through',
                  content: (
                    <RingForm text={text} board={board} forCase={start.forCase} onChange={change} />
                  ),
                },
                {
                  key: 'rename',
                  label: 'Find, rename',
                  content: <RenameForm text={text} onRename={change} onGo={goTo} />,
                },
                {
                  key: 'compare',
                  label: 'Compare',
                  content: (
                    <Compare board={board} versions={start.versions ?? []} here={start.of} />
                  ),
                },
              ]}
            />
          </div>
        </section>
      )}
    </Frame>
  );
}
