import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { indexBoard, type BoardIndex } from '@hanzai/core/board';
import type { UnitModel } from '@hanzai/core/block';
import { Predictor } from '@hanzai/core/diagnosis';
import { v7 } from 'uuid';
import type { CaseView } from '../server/case/service';
import type { Entry, EntryBody } from './entry';
import { expectations, type Expect } from './expectation';
import { playJournal, type Journal } from './journal';
import { MOST_FAILURES, Outbox, sendEntry } from './outbox';
import { caseProgress, type Progress } from './progress';
import { entryObjection } from './rules';
import { unitModelOf } from './unit';

const RETRY_MILLISECONDS = 3000;

export interface Refusal {
  readonly entry: Entry;
  readonly detail: string;
}

export interface CaseState {
  readonly view: CaseView;
  readonly index: BoardIndex | undefined;
  /** The model of its unit; undefined where its kind was not chosen. */
  readonly model: UnitModel | undefined;
  readonly entries: readonly Entry[];
  readonly journal: Journal;
  /** What stands to be proven, what is next, what stands against closing. */
  readonly progress: Progress;
  /**
   * What a sound board shows at a point, the parts that are off now being off; undefined where
   * there is no such point.
   */
  readonly expect: Expect;
  /** Entries kept in this browser only, so far. */
  readonly waiting: number;
  /** False where this browser lets nothing be kept: what waits is lost with the page. */
  readonly keeps: boolean;
  /** False while the server cannot be reached. */
  readonly reachable: boolean;
  readonly refusals: readonly Refusal[];
  /**
   * Files an entry: on screen at once, in the outbox, then sent. Returns why not where a rule
   * forbids it.
   */
  readonly file: (body: EntryBody) => string | undefined;
  readonly dismiss: (id: string) => void;
  readonly reload: () => Promise<void>;
}

/**
 * The state of one case in the browser: what the server confirmed plus what still waits in the
 * outbox.
 */
export function useCase(initial: CaseView): CaseState {
  const [view, setView] = useState(initial);
  const [pending, setPending] = useState<readonly Entry[]>([]);
  const [reachable, setReachable] = useState(true);
  const [refusals, setRefusals] = useState<readonly Refusal[]>([]);
  const outbox = useRef<Outbox | undefined>(undefined);
  const queue = useRef<Entry[]>([]);
  const sending = useRef(false);
  const failures = useRef(new Map<string, number>());
  const [keeps, setKeeps] = useState(true);

  const content = view.board?.content;
  const index = useMemo(() => content && indexBoard(content), [content]);
  const entries = useMemo(() => {
    const stored = new Set(view.entries.map(({ id }) => id));
    return [...view.entries, ...pending.filter(({ id }) => !stored.has(id))];
  }, [view.entries, pending]);
  const journal = useMemo(() => playJournal(entries, index), [entries, index]);
  const model = useMemo(() => unitModelOf(view.unitType, view.codes), [view.unitType, view.codes]);
  const predictor = useMemo(() => index && new Predictor(index), [index]);
  const progress = useMemo(
    () => caseProgress(index, journal, predictor, true),
    [index, journal, predictor],
  );
  const absent = journal.absent.join();
  const expect = useMemo(
    () => expectations(index, predictor, absent === '' ? [] : absent.split(',')),
    [index, predictor, absent],
  );

  const flush = useCallback(async () => {
    if (sending.current) return;
    sending.current = true;
    try {
      while (queue.current.length > 0) {
        const entry = queue.current[0]!;
        const result = await sendEntry(initial.id, entry);
        setReachable(result.state !== 'unreachable');
        if (result.state === 'unreachable') return;
        if (result.state === 'failed') {
          const times = (failures.current.get(entry.id) ?? 0) + 1;
          failures.current.set(entry.id, times);
          if (times < MOST_FAILURES) return;
        }
        queue.current.shift();
        if (result.state === 'stored')
          setView((v) =>
            v.entries.some(({ id }) => id === entry.id)
              ? v
              : { ...v, entries: [...v.entries, entry] },
          );
        else setRefusals((list) => [...list, { entry, detail: result.detail }]);
        setPending((list) => list.filter(({ id }) => id !== entry.id));
        // A refused entry stays in the outbox until the person has seen why.
        if (result.state === 'stored') await outbox.current?.remove(entry.id);
      }
    } finally {
      sending.current = false;
    }
  }, [initial.id]);

  const reload = useCallback(async () => {
    try {
      const response = await fetch(`/api/cases/${initial.id}`);
      if (response.ok) setView((await response.json()) as CaseView);
    } catch {
      setReachable(false);
    }
  }, [initial.id]);

  useEffect(() => {
    const box = (outbox.current = new Outbox(initial.id));
    box
      .waiting()
      .catch(() => (setKeeps(false), [] as readonly Entry[]))
      .then((kept) => {
        const stored = new Set(initial.entries.map(({ id }) => id));
        const left = kept.filter(
          ({ id }) => !stored.has(id) && !queue.current.some((q) => q.id === id),
        );
        for (const entry of kept) if (stored.has(entry.id)) void box.remove(entry.id);
        queue.current = [...left, ...queue.current];
        setPending((list) => [...left, ...list]);
        void flush();
      });
    const timer = setInterval(() => void flush(), RETRY_MILLISECONDS);
    const wake = (): void => void flush();
    const focus = (): void => void (queue.current.length === 0 && reload());
    window.addEventListener('online', wake);
    window.addEventListener('focus', focus);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', wake);
      window.removeEventListener('focus', focus);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once a case; `initial` does not change under a mounted island
  }, []);

  const file = useCallback(
    (body: EntryBody): string | undefined => {
      const objection = entryObjection(body, entries, index, model);
      if (objection) return objection;
      const entry: Entry = { id: v7(), madeAt: new Date().toISOString(), body };
      queue.current.push(entry);
      setPending((list) => [...list, entry]);
      void outbox.current
        ?.add(entry)
        .catch(() => setKeeps(false))
        .then(() => flush());
      return undefined;
    },
    [entries, index, model, flush],
  );
  // What only this page holds is gone with it.
  const atRisk = !keeps && pending.length > 0;
  useEffect(() => {
    if (!atRisk) return undefined;
    const warn = (event: BeforeUnloadEvent): void => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [atRisk]);

  const dismiss = useCallback((id: string) => {
    setRefusals((list) => list.filter(({ entry }) => entry.id !== id));
    void outbox.current?.remove(id);
  }, []);
  return {
    view,
    index,
    model,
    entries,
    journal,
    progress,
    expect,
    waiting: pending.length,
    keeps,
    reachable,
    refusals,
    file,
    dismiss,
    reload,
  };
}
