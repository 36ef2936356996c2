import { useEffect, useRef, useState, type ChangeEvent } from 'react';
import { describeIssue, type FileIssue } from '@hanzai/core/board';
import { Button, ButtonLink } from '../ui/Button';
import { Field } from '../ui/Field';
import { Keys } from '../ui/Keys';
import { Masthead } from '../ui/Masthead';
import { Notice } from '../ui/Notice';
import style from './Boards.module.css';

export interface BoardLine {
  readonly id: string;
  readonly title: string;
  readonly sourceName: string;
  readonly parts: number;
  readonly nets: number;
  readonly createdAt: string;
}

interface Answer {
  readonly good: boolean;
  readonly text: string;
  readonly issues: readonly FileIssue[];
  readonly notes: readonly string[];
  readonly id?: string;
}

const EXAMPLE = `Lamp board
V1 VIN 0 DC 12
XF1 VIN V12 FUSE
*@ F1 rating=T1A
C1 V12 0 100u
*@ C1 kind=electrolytic volt=25 esr=0.2
R1 V12 LAMP 680
D1 LAMP 0 DL
.model DL D (IS=1e-18 N=1.8 RS=2)
.end
`;

/** Board sheets: what is here, import and export. */
export function Boards({ boards, forCase }: { boards: readonly BoardLine[]; forCase: string }) {
  const [text, setText] = useState('');
  const [fileName, setFileName] = useState('pasted.cir');
  const [busy, setBusy] = useState(false);
  const [answer, setAnswer] = useState<Answer>();
  const area = useRef<HTMLTextAreaElement>(null);
  // What was typed before the page came to life counts too.
  useEffect(() => setText((kept) => kept || (area.current?.value ?? '')), []);

  async function pick(event: ChangeEvent<HTMLInputElement>): Promise<void> {
    const file = event.target.files?.[0];
    if (!file) return;
    setAnswer(undefined);
    if (file.size > 20_000_000)
      return setAnswer({
        good: false,
        text: `${file.name} has ${(file.size / 1e6).toFixed(1)} MB; at most 20 MB can be read.`,
        issues: [],
        notes: [],
      });
    setFileName(file.name);
    const content = await file.text();
    setText(content.length > 200_000 ? '' : content);
    await send(file.name, content);
  }

  async function send(name: string, content: string): Promise<void> {
    setBusy(true);
    try {
      const response = await fetch('/api/boards', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ fileName: name, text: content }),
      });
      const result = (await response.json()) as {
        id?: string;
        title?: string;
        parts?: number;
        notes?: string[];
        detail?: string;
        issues?: FileIssue[];
      };
      if (response.ok)
        setAnswer({
          good: true,
          text: `“${result.title}” is in: ${result.parts} parts.`,
          issues: [],
          notes: result.notes ?? [],
          ...(result.id ? { id: result.id } : {}),
        });
      else
        setAnswer({
          good: false,
          text: result.detail ?? 'The file was not taken.',
          issues: result.issues ?? [],
          notes: [],
        });
    } catch {
      setAnswer({
        good: false,
        text: 'The workshop server does not answer; the text is still here. Try again in a moment.',
        issues: [],
        notes: [],
      });
    } finally {
      setBusy(false);
    }
  }

  return (
    <>
      <Masthead here="boards" />
      <main className={style.page}>
        <section>
          <h1>Board sheets</h1>
          {boards.length === 0 ? (
            <Notice>
              None yet. Import a circuit deck or Board JSON on the right; the example there is one
              to try.
            </Notice>
          ) : (
            <table className={style.table}>
              <thead>
                <tr>
                  <th scope="col">sheet</th>
                  <th scope="col">parts</th>
                  <th scope="col">nets</th>
                  <th scope="col">take out as</th>
                </tr>
              </thead>
              <tbody>
                {boards.map((board) => (
                  <tr key={board.id}>
                    <th scope="row">
                      {board.title}
                      <small>
                        {board.sourceName}, {board.createdAt.slice(0, 10)}
                      </small>
                    </th>
                    <td>{board.parts}</td>
                    <td>{board.nets}</td>
                    <td>
                      <span className={style.files}>
                        {[
                          ['cir', 'deck'],
                          ['json', 'JSON'],
                          ['ipc', 'test netlist'],
                          ['csv', 'parts list'],
                        ].map(([ending, words]) => (
                          <a key={ending} href={`/api/boards/${board.id}/file.${ending}`}>
                            {words}
                          </a>
                        ))}
                      </span>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </section>
        <section className={style.import}>
          <h2>Import</h2>
          <p>
            A circuit deck (.cir), Board JSON (.json), a test netlist (.ipc) or a parts list (.csv).
          </p>
          <Field id="board-file" label="From a file">
            <input
              id="board-file"
              type="file"
              accept=".cir,.json,.ipc,.csv"
              onChange={(event) => void pick(event)}
            />
          </Field>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              if (text.trim() !== '') void send(fileName, text);
            }}
          >
            <Field
              id="board-text"
              label="Or as text"
              hint="The first line is the title. Nets by name, ground is 0."
            >
              <textarea
                ref={area}
                id="board-text"
                className={style.text}
                value={text}
                spellCheck={false}
                placeholder={EXAMPLE}
                onChange={(event) => setText(event.target.value)}
              />
            </Field>
            <div className={style.buttons}>
              <Button look="main" type="submit" disabled={busy || text.trim() === ''}>
                {busy ? 'Reading …' : 'Import the text'}
              </Button>
              <Button
                onClick={() => {
                  setFileName('example.cir');
                  setText(EXAMPLE);
                }}
              >
                Put the example in
              </Button>
            </div>
          </form>
          {answer && (
            <Notice look={answer.good ? 'good' : 'attention'} live>
              {answer.text}
              {answer.issues.length > 0 && (
                <ul>
                  {answer.issues.map((issue) => (
                    <li key={describeIssue(issue)}>{describeIssue(issue)}</li>
                  ))}
                </ul>
              )}
              {answer.notes.length > 0 && <p>{answer.notes.slice(0, 6).join('; ')}</p>}
              {answer.good && (
                <p>
                  {forCase ? (
                    <ButtonLink href={`/case/${forCase}/take-in`}>
                      Back to case {forCase}, choose it there
                    </ButtonLink>
                  ) : (
                    <ButtonLink href={`/case/new?board=${answer.id ?? ''}`}>
                      Open a case on it
                    </ButtonLink>
                  )}
                </p>
              )}
            </Notice>
          )}
        </section>
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
