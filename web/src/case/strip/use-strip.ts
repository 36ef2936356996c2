import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { indexBoard, scratchBoard, type BoardIndex } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import type { CaseState } from '../use-case';
import { carryOut, itemText, stripText, takeBack } from './actions';
import { completions } from './completion';
import { parseStrip, type ProposedPoints, type StripLine } from './grammar';
import { itemWords } from './item-words';

/** What the strip says instead of what it understood. */
export interface StripNote {
  readonly text: string;
  readonly bad: boolean;
}

/** A line of the strip while it is typed. */
export interface StripState {
  readonly text: string;
  readonly index: BoardIndex;
  readonly line: StripLine;
  readonly note: StripNote | undefined;
  /** How the last word can go on. */
  readonly ways: readonly string[];
  readonly type: (text: string) => void;
  /** Puts one of the ways in the place of what was begun; the next of them when asked again. */
  readonly complete: (way?: string) => boolean;
  /** Files a line: as a rule the one that stands there. instrument: what took its reading. */
  readonly enter: (text: string, instrument?: string) => void;
  readonly undo: () => void;
  /** Says something in the place of what was understood. */
  readonly say: (note: StripNote) => void;
  /** An earlier line; −1 the one before, 1 the one after. */
  readonly recall: (step: -1 | 1) => void;
}

/** How many earlier lines are kept in reach. */
const MOST_EARLIER = 60;

/** The line of the strip: what was typed, what it means, and what Enter does with it. */
export function useStripLine(
  state: CaseState,
  list: readonly ProposedPoints[],
  chance: (ref: string) => number,
): StripState {
  const { index: sheet, model, journal } = state;
  const [text, setText] = useState('');
  const [note, setNote] = useState<StripNote>();
  const [back, setBack] = useState(0);
  /** The line whose doubts were told: Enter once more files it. */
  const [told, setTold] = useState<string>();
  const [cycle, setCycle] = useState<{ from: number; words: readonly string[]; at: number }>();
  // Without a sheet the board is what is typed, and what is proposed: a bare value has to have its
  // point.
  const points = list.map(({ at, to }) => `${`${at} ${to}`.trim()} 1`).join('; ');
  const index = useMemo(
    () => sheet ?? indexBoard(scratchBoard(`${points}; ${text}`, LIBRARY)),
    [sheet, points, text],
  );
  const context = useMemo(
    () => ({ index, hasSheet: sheet !== undefined, list, model, chance }),
    [index, sheet, list, model, chance],
  );
  const line = useMemo(() => parseStrip(context, text), [context, text]);
  const open = useMemo(() => completions(context, text), [context, text]);
  const earlier = useMemo(
    () =>
      journal.standing
        .filter(({ body }) => body.kind === 'reading')
        .slice(-MOST_EARLIER)
        .map(stripText),
    [journal.standing],
  );

  const set = useCallback((next: string): void => {
    setText(next);
    setNote(undefined);
    setTold(undefined);
    setCycle(undefined);
  }, []);

  const enter = (own: string, instrument?: string): void => {
    if (own.trim() === '') return;
    const line = parseStrip(context, own);
    if (!line.ok) {
      const { understood, expected } = line;
      return setNote({
        text: `Understood: ${understood || 'nothing yet'}. Expected: ${expected}.`,
        bad: true,
      });
    }
    const doubts = line.items.flatMap((item) =>
      'doubt' in item && item.doubt ? [item.doubt] : [],
    );
    if (doubts.length > 0 && told !== own) {
      setTold(own);
      return setNote({ text: `${doubts.join('; ')}. Enter once more files it.`, bad: true });
    }
    const [first] = line.items;
    let last = '';
    let filed = 0;
    for (const item of line.items) {
      const outcome = carryOut(state, item, instrument);
      if (!outcome.ok) {
        // What is done already leaves the line, or the next Enter would do it twice.
        if (filed > 0) set(line.items.slice(filed).map(itemText).join('; '));
        const before = filed > 0 ? ` (${filed} filed before it)` : '';
        return setNote({ text: `Not filed${before}: ${outcome.why}.`, bad: true });
      }
      last = outcome.words;
      filed += 1;
    }
    set('');
    setBack(0);
    const words =
      line.items.length > 1
        ? `Filed: ${line.items.length} at once`
        : last === 'Filed'
          ? `Filed: ${itemWords(first!, index)}`
          : last;
    const undone = first!.kind === 'back' ? 'again files it once more' : 'Ctrl+Z takes it back';
    setNote({ text: `${words}. ${undone}.`, bad: false });
  };

  const undo = (): void => {
    const outcome = takeBack(state);
    setNote(
      outcome.ok
        ? { text: `${outcome.words}.`, bad: false }
        : { text: `Not taken back: ${outcome.why}.`, bad: false },
    );
  };

  const recall = (step: -1 | 1): void => {
    const to = Math.min(earlier.length, Math.max(0, back - step));
    set(to === 0 ? '' : earlier[earlier.length - to]!);
    setBack(to);
  };

  const complete = (way?: string): boolean => {
    const { from, words } = cycle ?? open;
    const at = way === undefined ? (cycle ? (cycle.at + 1) % words.length : 0) : words.indexOf(way);
    if (words.length === 0 || at < 0) return false;
    const whole = `${text.slice(0, from)}${words[at]!.toLowerCase()}${way === undefined ? '' : ' '}`;
    set(whole);
    if (way === undefined) setCycle({ from, words, at });
    return true;
  };

  // What was filed meanwhile is no longer what was told.
  const filed = useRef(journal.standing.length);
  useEffect(() => {
    if (filed.current !== journal.standing.length) setTold(undefined);
    filed.current = journal.standing.length;
  }, [journal.standing.length]);

  return {
    text,
    index,
    line,
    note,
    ways: cycle?.words ?? open.words,
    type: set,
    complete,
    enter,
    undo,
    say: setNote,
    recall,
  };
}
