import {
  forwardRef,
  useEffect,
  useId,
  useImperativeHandle,
  useMemo,
  useRef,
  type KeyboardEvent,
} from 'react';
import Gauge from 'lucide-react/icons/gauge';
import Mic from 'lucide-react/icons/mic';
import { GrammarSheet } from './GrammarSheet';
import type { Circumstances } from '../engine-request';
import type { CaseState } from '../use-case';
import { WithWay } from '../WithWay';
import { pointsText } from '../wording';
import type { ProposedPoints } from './grammar';
import { StripSays } from './StripSays';
import { sayAloud, useSpeech } from './use-speech';
import { useMeaning } from './use-meaning';
import { usePracticeLine } from './use-practice-line';
import { useStripLine } from './use-strip';
import style from './Strip.module.css';

export interface StripHandle {
  readonly focus: () => void;
  /** Puts a point in front of the cursor, for a value to follow; or a whole line. */
  readonly place: (text: string, goesOn?: boolean) => void;
}

interface Props {
  readonly state: CaseState;
  /** The readings that bare values are taken for, in their order; none where no one is proposed. */
  readonly list?: readonly ProposedPoints[];
  /** Where given, it is said before Enter who would lead after the value. */
  readonly circumstances?: Circumstances;
  /** How likely a part is guilty. */
  readonly chance?: (ref: string) => number;
  /** Whether a lone level files at once, without Enter: in a list that is gone through. */
  readonly instant?: boolean;
  readonly disabled?: boolean;
  /** What a meter on the line shows and holds, to be filed with the space bar. */
  readonly latched?: Latched | undefined;
  /** Takes what the meter shows now, at rest or not; where there is one. */
  readonly onTake?: (() => void) | undefined;
  /** Asks for a meter to be put on the line; where there is none yet. */
  readonly onMeter?: (() => void) | undefined;
  /** Whether the cursor is in it when the page opens: where readings are what one came for. */
  readonly ready?: boolean;
}

/** A value that a meter holds: as it is typed, and whose it is. A new one is a new object. */
export interface Latched {
  readonly text: string;
  readonly instrument: string;
}

const NO_LIST: readonly ProposedPoints[] = [];
const CERTAIN = (): number => 1;

/**
 * The line that takes readings, lines of the ledger and words in shorthand. It says what it
 * understood while one types; Enter files.
 */
export const Strip = forwardRef<StripHandle, Props>(function Strip(
  {
    state,
    list = NO_LIST,
    circumstances,
    chance = CERTAIN,
    instant = false,
    disabled = false,
    latched,
    onTake,
    onMeter,
    ready = false,
  },
  handle,
) {
  const strip = useStripLine(state, list, chance);
  const { text, line, note, ways, type } = strip;
  const input = useRef<HTMLInputElement>(null);
  const waysId = useId();
  const [proposal] = list;
  const practice = usePracticeLine(state.practice, strip, proposal);
  const speech = useSpeech((heard) => {
    type(heard);
    input.current?.focus();
    sayAloud(heard);
  });
  const typed = useMemo(() => {
    const [item] = line.ok && line.items.length === 1 ? line.items : [];
    return item?.kind === 'reading' ? item : undefined;
  }, [line]);
  const meaning = useMeaning(state, circumstances, typed);

  useImperativeHandle(handle, () => ({
    focus: () => input.current?.focus(),
    place: (point, goesOn = true) => {
      type(goesOn ? `${point} ` : point);
      input.current?.focus();
    },
  }));

  // Not on a touch screen, where it would bring a keyboard over half of the page.
  useEffect(() => {
    if (ready && matchMedia('(hover: hover)').matches) input.current?.focus();
  }, [ready]);

  // What was typed before the page came alive is not lost.
  useEffect(() => {
    const early = input.current?.value ?? '';
    if (early !== '') type(early);
  }, [type]);

  /** What stands in the line is what the meter put there. */
  const held = latched !== undefined && text === latched.text ? latched.instrument : undefined;
  // It goes into an empty line, or in the place of what it put there before.
  const placed = useRef('');
  useEffect(() => {
    const now = input.current?.value ?? '';
    if (!latched || (now !== '' && now !== placed.current)) return;
    placed.current = latched.text;
    type(latched.text);
  }, [latched, type]);
  const enter = (): void => (practice ? practice.enter() : strip.enter(text, held));

  function onKey(event: KeyboardEvent<HTMLInputElement>): void {
    if (event.key === 'Enter') enter();
    else if (event.key === ' ' && held !== undefined) {
      event.preventDefault();
      enter();
    } else if (event.key === ' ' && text === '' && onTake) {
      event.preventDefault();
      onTake();
    } else if (event.key === 'Escape') {
      // The second Escape leaves the line: then the keys of the page are heard.
      if (text === '') input.current?.blur();
      type('');
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      strip.recall(event.key === 'ArrowUp' ? -1 : 1);
      event.preventDefault();
    } else if (event.key === 'Tab' && !event.shiftKey && strip.complete()) event.preventDefault();
    else if (event.key === 'z' && (event.ctrlKey || event.metaKey) && text === '') {
      event.preventDefault();
      strip.undo();
    }
  }

  return (
    <div className={style.strip}>
      <label className={style.label} htmlFor="strip">
        Reading
      </label>
      <div className={style.field}>
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
            practice
              ? 'a point: vm   p5 p9 ohms   c6   u7.3   or a line such as  c3 off   condemn c3'
              : proposal
                ? `value for ${pointsText(state.index, proposal.at, proposal.to)}, or a line such as  vm 8.6   f1 beep   c3 off`
                : 'vm 8.6   f1 beep   r13 220   c6 1.03 esr   c3 off   note flux under u7'
          }
          aria-describedby={`strip-says ${waysId}`}
          onChange={(event) => {
            const next = event.target.value;
            if (
              instant &&
              !practice &&
              proposal?.kind === 'logic' &&
              text === '' &&
              /^[01pz]$/i.test(next)
            )
              strip.enter(next);
            else type(next);
          }}
          onKeyDown={onKey}
          onPaste={(event) => {
            // A column that was copied elsewhere: one line after the other.
            const lines = event.clipboardData
              .getData('text')
              .split(/\r?\n/)
              .filter((one) => one.trim());
            if (lines.length < 2) return;
            event.preventDefault();
            type([text.trim(), ...lines.map((one) => one.trim())].filter(Boolean).join('; '));
          }}
        />
        {speech.can && !disabled && (
          <button
            type="button"
            className={style.icon}
            aria-pressed={speech.listening}
            aria-label={speech.listening ? 'Stop listening' : 'Say a reading'}
            title={speech.listening ? 'Listening …' : 'Say it: see six one point oh three E S R'}
            onClick={speech.listening ? speech.stop : speech.listen}
          >
            <Mic size={20} aria-hidden />
          </button>
        )}
        {onMeter && !disabled && (
          <button
            type="button"
            className={style.icon}
            aria-label="Take readings from a meter"
            title="Take readings from a meter"
            onClick={onMeter}
          >
            <Gauge size={20} aria-hidden />
          </button>
        )}
        <GrammarSheet
          index={state.index}
          onPick={(example) => {
            type(example);
            input.current?.focus();
          }}
        />
      </div>
      <div className={style.aside}>
        <output
          id="strip-says"
          className={`${style.says} ${note?.bad ? style.bad : ''}`}
          aria-live="polite"
        >
          {note ? (
            <WithWay words={note.text} />
          ) : speech.failure ? (
            speech.failure
          ) : text.trim() === '' ? (
            practice ? (
              'Type a point and press Enter: the meter of the exercise shows what is there.'
            ) : (
              'Type what the meter shows and press Enter.'
            )
          ) : practice?.says ? (
            practice.says
          ) : (
            <StripSays line={line} index={strip.index} expect={state.expect} meaning={meaning} />
          )}
        </output>
        <p id={waysId} className={style.ways} hidden={ways.length === 0 || note !== undefined}>
          <kbd>Tab</kbd>
          {ways.map((way) => (
            <button
              key={way}
              type="button"
              tabIndex={-1}
              onClick={() => {
                strip.complete(way);
                input.current?.focus();
              }}
            >
              {way.toLowerCase()}
            </button>
          ))}
        </p>
      </div>
    </div>
  );
});
