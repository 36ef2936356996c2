import { useEffect, useRef, useState, type ChangeEvent } from 'react';
import { z } from 'zod';
import { describeIssue, isPinList, type FileIssue } from '@hanzai/core/board';
import type { SheetStart } from '../sheet/SheetBench';
import { askAsPage, withBody } from '../store/answers';
import { Button, ButtonLink } from '../ui/Button';
import { Field } from '../ui/Field';
import { TextField } from '../ui/TextField';
import { Notice } from '../ui/Notice';
import type { BoardLine } from './board-line';
import style from './Boards.module.css';

interface Answer {
  readonly good: boolean;
  readonly text: string;
  readonly issues: readonly FileIssue[];
  readonly notes: readonly string[];
  readonly id?: string;
}

/** What the server says of a file: the sheet, or everything that is wrong. */
interface Imported {
  readonly id?: string;
  readonly title?: string;
  readonly parts?: number;
  readonly nets?: number;
  readonly notes?: readonly string[];
  readonly detail?: string;
  readonly issues?: readonly FileIssue[];
}

const Read = z.object({
  text: z.string(),
  notes: z.array(z.string()),
  report: z.array(
    z.object({
      ref: z.string(),
      became: z.enum(['understood', 'box', 'skipped']),
      as: z.string(),
      why: z.string().exactOptional(),
    }),
  ),
});

/** Whether a file says all that a board is: forms of ours, and lists that name what they leave out. */
function isOurs(name: string, content: string): boolean {
  if (/\.csv$/i.test(name)) return !isPinList(content);
  return /\.(cir|json|ipc|sheet)$/i.test(name);
}

/** Largest file that can be read, bytes. */
const MOST_BYTES = 20_000_000;
/** Longer texts are not shown for editing. */
const MOST_SHOWN = 200_000;

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

/** Reads a sheet from a file or from text. What cannot be read says where and what to mend. */
export function BoardImport({
  forCase,
  onImported,
  onLook,
}: {
  forCase: string;
  onImported: (board: BoardLine) => void;
  /** Opens what was read on the sheet bench, before anything is stored. */
  onLook: (start: SheetStart) => void;
}) {
  const [text, setText] = useState('');
  const [fileName, setFileName] = useState('pasted.cir');
  const [busy, setBusy] = useState(false);
  const [answer, setAnswer] = useState<Answer>();
  const area = useRef<HTMLTextAreaElement>(null);
  // What was typed before the page came to life counts too.
  useEffect(() => setText((kept) => kept || (area.current?.value ?? '')), []);

  const refuse = (words: string, issues: readonly FileIssue[] = []): void =>
    setAnswer({ good: false, text: words, issues, notes: [] });

  async function pick(event: ChangeEvent<HTMLInputElement>): Promise<void> {
    const file = event.target.files?.[0];
    if (!file) return;
    setAnswer(undefined);
    if (file.size > MOST_BYTES)
      return refuse(
        `${file.name} has ${(file.size / 1e6).toFixed(1)} MB; at most 20 MB can be read.`,
      );
    setFileName(file.name);
    const content = await file.text();
    setText(content.length > MOST_SHOWN ? '' : content);
    // What another program wrote is looked at first: it never says everything.
    await (isOurs(file.name, content) ? send : look)(file.name, content);
  }

  /** Sends the file to a door and hands its answer on; what stands against it is told here. */
  async function ask(
    door: string,
    name: string,
    content: string,
    onAnswer: (result: unknown) => boolean,
  ): Promise<void> {
    setBusy(true);
    try {
      const response = await askAsPage(door, withBody('POST', { fileName: name, text: content }));
      const result: unknown = await response.json();
      if (response.ok && onAnswer(result)) return;
      const { detail, issues } = result as Imported;
      refuse(detail ?? 'The file was not taken.', issues);
    } catch {
      refuse('The workshop server does not answer; the text is still here. Try again in a moment.');
    } finally {
      setBusy(false);
    }
  }

  const send = (name: string, content: string): Promise<void> =>
    ask('/api/boards', name, content, (result) => {
      take(name, result as Imported);
      return true;
    });

  /** On the sheet bench, before anything is stored. */
  const look = (name: string, content: string): Promise<void> =>
    ask('/api/boards/read', name, content, (result) => {
      const read = Read.safeParse(result);
      if (read.success) onLook(read.data);
      return read.success;
    });

  function take(sourceName: string, result: Imported): void {
    const { id = '', title = '', parts = 0, nets = 0, notes = [] } = result;
    setAnswer({ good: true, text: `“${title}” is in: ${parts} parts.`, issues: [], notes, id });
    const createdAt = new Date().toISOString();
    onImported({ id, title, sourceName, parts, nets, createdAt, archived: false, version: 1 });
  }

  return (
    <section className={style.import}>
      <h2>Import</h2>
      <p>
        A bench sheet (.sheet), a circuit deck (.cir), Board JSON (.json), a test netlist (.ipc), a
        parts list or pin list (.csv), or a netlist of a schematic editor (.net, .tdx).
      </p>
      <TextField
        id="board-file"
        label="From a file"
        type="file"
        accept=".sheet,.cir,.json,.ipc,.csv,.net,.tdx"
        onChange={(event) => void pick(event)}
      />
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
            disabled={busy || text.trim() === ''}
            onClick={() => void look(fileName, text)}
            title="On the sheet bench, before anything is stored"
          >
            Look at it first
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
      {answer && <Told answer={answer} forCase={forCase} />}
    </section>
  );
}

function Told({ answer, forCase }: { answer: Answer; forCase: string }) {
  return (
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
            <ButtonLink href={`/case/new?board=${answer.id ?? ''}`}>Open a case on it</ButtonLink>
          )}
        </p>
      )}
    </Notice>
  );
}
