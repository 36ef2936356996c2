import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { indexBoard } from '@hanzai/core/board';
import { resolveMeasurement, type ReadingValue } from '@hanzai/core/instrument';
import { LEVELS, readPoints, type Action } from '@hanzai/core/training';
import { v7 } from 'uuid';
import type { Entry } from '../case/entry';
import type { PracticeLink, PracticeMeasured } from '../case/practice-link';
import type { ProposedPoints } from '../case/strip/grammar';
import { useCaseOf, type CaseState } from '../case/use-case';
import { valueText } from '../case/wording';
import type { PracticeStand } from '../workers/practice-room';
import { openPracticeBench, type PracticeBench } from './bench';
import {
  actionOf,
  hasSheet,
  passedBy,
  passedByDeed,
  practiceObjection,
  practiceView,
  readEntry,
  takeOf,
} from './practice-case';
import type { PracticeRun } from './run';
import { tourOf } from './tour';

export const practiceHome = (id: string): string => `/practice/${id}`;

export interface PracticeCase {
  readonly state: CaseState;
  readonly bench: PracticeBench | undefined;
}

const nothing = async (): Promise<void> => undefined;

/**
 * An exercise as the state of a case: the same screens work on it. change: keeps what became of it.
 */
export function usePracticeCase(
  run: PracticeRun,
  change: (how: (run: PracticeRun) => PracticeRun) => void,
): PracticeCase {
  const [stand, setStand] = useState<PracticeStand>();
  const [failure, setFailure] = useState<string>();
  const [busy, setBusy] = useState(false);
  const [bench, setBench] = useState<PracticeBench>();
  const begun = useRef(run);
  const newest = useRef(run);
  newest.current = run;
  const index = useMemo(() => indexBoard(run.board), [run.board]);

  useEffect(() => {
    const own = openPracticeBench(setFailure);
    const { board, seed, level, within, closed } = begun.current;
    // Done again from the start: the same bench stands there as when it was left.
    const actions = newest.current.actions.map(({ action }) => action);
    own.door.open({ board, seed, level, within, closed, actions }).then(
      (opened) =>
        typeof opened === 'string' ? setFailure(opened) : (setStand(opened), setBench(own)),
      (error: unknown) => setFailure(String((error as Error).message ?? error)),
    );
    return () => {
      setBench(undefined);
      own.close();
    };
  }, []);

  /** One action after the other: the bench is played again in this order. */
  const act = useCallback(
    async (action: Action): Promise<{ value?: ReadingValue; words?: string }> => {
      if (!bench) return {};
      const { stand: now, ...answer } = await bench.door.act(action);
      setStand(now);
      change((was) => ({
        ...was,
        actions: [
          ...was.actions,
          { action, ...(answer.words === undefined ? {} : { words: answer.words }) },
        ],
      }));
      return answer;
    },
    [bench, change],
  );

  const keep = useCallback(
    (entry: Entry): void => {
      const passed = passedBy(entry.body, newest.current.entries, index);
      change((was) => ({ ...was, entries: [...was.entries, entry] }));
      const action = actionOf(entry.body, newest.current.entries);
      if (passed) void act({ do: 'pass', words: passed });
      if (action) void act(action);
    },
    [change, act, index],
  );
  const isOver = run.result !== undefined;
  const isReady = bench !== undefined;
  const objects = useCallback<typeof practiceObjection>(
    (body, ...rest) => {
      if (isOver) return 'the exercise is over';
      // What its bench does not do would be missing from it.
      if (!isReady && actionOf(body, newest.current.entries))
        return 'the bench is still being set up: a moment';
      return practiceObjection(body, ...rest);
    },
    [isOver, isReady],
  );
  const view = useMemo(() => practiceView(run), [run]);
  const own = useCaseOf({
    view,
    entries: run.entries,
    keep,
    reload: nothing,
    objects,
  });

  const measure = useCallback(
    async (text: string, proposed: ProposedPoints | undefined): Promise<PracticeMeasured> => {
      if (newest.current.result) return { ok: false, why: 'the exercise is over' };
      const found =
        text.trim() === '' && proposed
          ? resolveMeasurement(index, proposed.setup, proposed.kind, proposed.at, proposed.to)
          : readPoints(index, text);
      if (!found.ok) return { ok: false, why: `${found.what}; expected ${found.expected}` };
      const { measurement } = found;
      setBusy(true);
      try {
        const passed = passedBy(readEntry(measurement, 0), newest.current.entries, index);
        if (passed) await act({ do: 'pass', words: passed });
        const { value, words: mishap } = await act(takeOf(measurement));
        if (value === undefined)
          return { ok: false, why: mishap ?? 'the meter shows nothing steady there' };
        const body = readEntry(measurement, value);
        const entry: Entry = { id: v7(), madeAt: new Date().toISOString(), body };
        change((was) => ({ ...was, entries: [...was.entries, entry] }));
        const words = `${body.kind === 'reading' ? body.typed : ''}: ${valueText(measurement.kind, value)}`;
        return { ok: true, words, kind: measurement.kind };
      } catch (error) {
        return { ok: false, why: String((error as Error).message ?? error) };
      } finally {
        setBusy(false);
      }
    },
    [index, act, change],
  );

  const ask = useCallback<PracticeLink['ask']>(
    (help, net = '') => {
      setBusy(true);
      act({ do: 'help', help, net })
        .catch((error: unknown) => setFailure(String((error as Error).message ?? error)))
        .finally(() => setBusy(false));
    },
    [act],
  );

  const attend = useCallback<PracticeLink['attend']>(
    (deed) => {
      if (newest.current.result) return;
      setBusy(true);
      const passed = passedByDeed(deed, newest.current.entries, index);
      (passed ? act({ do: 'pass', words: passed }).then(() => act(deed)) : act(deed))
        .catch((error: unknown) => setFailure(String((error as Error).message ?? error)))
        .finally(() => setBusy(false));
    },
    [act, index],
  );
  const points = useCallback((text: string) => readPoints(index, text), [index]);
  const deeds = useMemo(
    () =>
      run.actions.flatMap(({ action, words }) =>
        action.do === 'help' || words === undefined ? [] : [words],
      ),
    [run.actions],
  );

  const said = useMemo(
    () =>
      run.actions.flatMap(({ action, words }) =>
        action.do === 'help' && words !== undefined
          ? [{ asked: action.help, net: action.net, words }]
          : [],
      ),
    [run.actions],
  );
  const practice: PracticeLink = {
    help: run.help,
    minutes: stand?.minutes,
    boardTitle: run.board.title,
    level: run.closed
      ? `the readings of case ${run.closed.number} where they were taken`
      : `level ${run.level}: ${LEVELS[run.level - 1]!.words}${run.within && `, around ${run.within}`}`,
    complaint: stand?.complaint ?? '',
    damage: stand?.damage ?? [],
    said,
    tour: run.tour ? tourOf(run.entries, index) : undefined,
    failure,
    busy: busy || (!bench && failure === undefined),
    bench: index,
    hasSheet: hasSheet(run),
    deeds,
    points,
    attend,
    ask,
    measure,
  };
  return { state: { ...own, home: practiceHome(run.id), practice }, bench };
}
