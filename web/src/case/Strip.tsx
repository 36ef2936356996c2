import {
  forwardRef,
  useEffect,
  useImperativeHandle,
  useMemo,
  useRef,
  useState,
  type KeyboardEvent,
} from 'react';
import { indexBoard, scratchBoard, type BoardIndex, type Setup } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import {
  parseReadingValue,
  parseShorthand,
  pointText,
  tidyShorthand,
  type Measurement,
  type ReadingKind,
  type ReadingValue,
} from '@hanzai/core/instrument';
import { KIND_WORDS, pointsText, setupWords, shorthandAround, valueText } from './wording';
import type { Expect, Expectation } from './expectation';
import { WithWay } from './WithWay';
import style from './Strip.module.css';

/** Where a bare value belongs. */
export interface ProposedPoints {
  readonly setup: Setup;
  readonly kind: ReadingKind;
  readonly at: string;
  readonly to: string;
}

export interface StripHandle {
  readonly focus: () => void;
  /** Puts a point in front of the cursor, for a value to follow. */
  readonly place: (text: string) => void;
}

interface Props {
  /** Undefined where there is no sheet: a reading then stands at the point that it names. */
  readonly index: BoardIndex | undefined;
  readonly recent: readonly string[];
  /** The reading that a bare value is taken for. */
  readonly proposal: ProposedPoints | undefined;
  readonly expect: Expect;
  /** Files a reading; returns why not where it may not be filed. */
  readonly onFile: (
    measurement: Measurement,
    value: ReadingValue,
    typed: string,
  ) => string | undefined;
  /**
   * Takes the last reading back; returns what it was, or undefined where there is none to take
   * back.
   */
  readonly onRetract: () => string | undefined;
  readonly disabled?: boolean;
  /** Whether the cursor is in it when the page opens: where readings are what one came for. */
  readonly ready?: boolean;
}

/**
 * The line that takes readings in shorthand. It says what it understood while one types; Enter
 * files.
 */
export const Strip = forwardRef<StripHandle, Props>(function Strip(
  { index: sheet, recent, proposal, expect, onFile, onRetract, disabled = false, ready = false },
  handle,
) {
  const [text, setText] = useState('');
  const [back, setBack] = useState(0);
  const [note, setNote] = useState<{ text: string; bad: boolean }>();
  const input = useRef<HTMLInputElement>(null);
  const full = useMemo(() => completed(text, proposal), [text, proposal]);
  const index = useMemo(() => sheet ?? indexBoard(scratchBoard(full, LIBRARY)), [sheet, full]);
  const parsed = useMemo(() => parseShorthand(index, full), [index, full]);

  useImperativeHandle(handle, () => ({
    focus: () => input.current?.focus(),
    place: (point) => {
      setText(`${point} `);
      input.current?.focus();
    },
  }));

  // Not on a touch screen, where it would bring a keyboard over half of the page.
  useEffect(() => {
    if (ready && matchMedia('(hover: hover)').matches) input.current?.focus();
  }, [ready]);

  // What was typed before the page came alive is not lost.
  useEffect(() => setText((kept) => kept || (input.current?.value ?? '')), []);

  const where = parsed.ok ? parsed.reading.measurement : undefined;
  const sound = useExpectation(expect, where);

  function enter(): void {
    if (text.trim() === '') return;
    if (!parsed.ok) {
      setNote({
        text: `Understood: ${parsed.understood || 'nothing yet'}. Expected: ${parsed.expected}.`,
        bad: true,
      });
      return;
    }
    const { measurement, value } = parsed.reading;
    const objection = onFile(measurement, value, full);
    if (objection) {
      setNote({ text: `Not filed: ${objection}.`, bad: true });
      return;
    }
    setNote({
      text: `Filed: ${describe(index, measurement, value)}. Ctrl+Z takes it back.`,
      bad: false,
    });
    setText('');
    setBack(0);
  }

  function onKey(event: KeyboardEvent<HTMLInputElement>): void {
    if (event.key === 'Enter') enter();
    else if (event.key === 'Escape') {
      // The second Escape leaves the line: then the keys of the page are heard.
      if (text === '') input.current?.blur();
      setText('');
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      const step = Math.min(recent.length, Math.max(0, back + (event.key === 'ArrowUp' ? 1 : -1)));
      setBack(step);
      setText(step === 0 ? '' : recent[recent.length - step]!);
      event.preventDefault();
    } else if (event.key === 'z' && (event.ctrlKey || event.metaKey) && text === '') {
      event.preventDefault();
      const taken = onRetract();
      setNote({
        text: taken === undefined ? 'There is no reading to take back.' : `Taken back: ${taken}.`,
        bad: false,
      });
    }
  }

  return (
    <div className={style.strip}>
      <label className={style.label} htmlFor="strip">
        Reading
      </label>
      <input
        id="strip"
        ref={input}
        className={style.input}
        value={text}
        disabled={disabled}
        autoComplete="off"
        autoCapitalize="off"
        spellCheck={false}
        placeholder={
          proposal
            ? `value for ${pointsText(sheet, proposal.at, proposal.to)}, or a line such as  vm 8.6   f1 beep   r13 220`
            : 'vm 8.6   f1 beep   r13 220   c6 1.03 esr'
        }
        aria-describedby="strip-says"
        onChange={(event) => {
          setText(event.target.value);
          setNote(undefined);
        }}
        onKeyDown={onKey}
      />
      <output
        id="strip-says"
        className={`${style.says} ${note?.bad ? style.bad : ''}`}
        aria-live="polite"
      >
        {note ? (
          <WithWay words={note.text} />
        ) : text.trim() === '' ? (
          'Type what the meter shows and press Enter.'
        ) : parsed.ok ? (
          <Understood
            index={index}
            measurement={parsed.reading.measurement}
            value={parsed.reading.value}
            sound={sound}
          />
        ) : (
          `${parsed.understood ? `${parsed.understood} … ` : ''}expected: ${parsed.expected}`
        )}
      </output>
    </div>
  );
});

/** What a sound board shows at a point, once the engine has said so. */
function useExpectation(expect: Expect, where: Measurement | undefined): Expectation | undefined {
  const [answer, setAnswer] = useState<{ to: Measurement; shown: Expectation | undefined }>();
  useEffect(() => {
    if (!where) return undefined;
    let wanted = true;
    const { setup, kind } = where;
    expect(setup, kind, pointText(where.at), pointText(where.to)).then(
      (shown) => wanted && setAnswer({ to: where, shown }),
      // Without an engine nothing is expected; that it stopped is told elsewhere.
      () => undefined,
    );
    return () => {
      wanted = false;
    };
  }, [expect, where]);
  return answer && answer.to === where ? answer.shown : undefined;
}

function describe(index: BoardIndex, m: Measurement, value: ReadingValue): string {
  return `${pointsText(index, pointText(m.at), pointText(m.to))}, ${KIND_WORDS[m.kind]}, ${valueText(m.kind, value)}`;
}

function Understood({
  index,
  measurement: m,
  value,
  sound,
}: {
  index: BoardIndex;
  measurement: Measurement;
  value: ReadingValue;
  sound: Expectation | undefined;
}) {
  return (
    <>
      <strong>{valueText(m.kind, value)}</strong>{' '}
      {pointsText(index, pointText(m.at), pointText(m.to))} · {KIND_WORDS[m.kind]},{' '}
      {setupWords(m.setup)}
      {sound && (
        <>
          {' '}
          · sound: {sound.display}
          {sound.band && ` (${sound.band})`}
        </>
      )}{' '}
      · <kbd>Enter</kbd> files
    </>
  );
}

/** A bare value is meant for the proposed points. */
function completed(text: string, proposal: ProposedPoints | undefined): string {
  const word = tidyShorthand(text);
  if (!proposal || word === '' || /\s/.test(word)) return text;
  const value = parseReadingValue(proposal.kind, word);
  if (!value.ok) return text;
  const [before, after] = shorthandAround(proposal.kind, proposal.setup, proposal.at, proposal.to);
  return `${before} ${word} ${after}`.trim();
}
