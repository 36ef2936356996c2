import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import type { UnitModel } from '@hanzai/core/block';
import { indexBoard, type Board, type BoardIndex } from '@hanzai/core/board';
import type { ReadingKind } from '@hanzai/core/instrument';
import { v7 } from 'uuid';
import { caseQuery } from '../store/case-query';
import { store } from '../store/store';
import type { CaseView } from './case-view';
import { openEngine, type EngineLink } from './engine-link';
import type { Entry, EntryBody } from './entry';
import type { Expect } from './expectation';
import { playJournal, type Journal, type MeterInUse } from './journal';
import { kindOf } from './kinds';
import type { PracticeLink } from './practice-link';
import { caseProgress, type Progress } from './progress';
import { entryObjection } from './rules';
import { PENDING, readAnswers, solveHere, type Solved } from './solved';
import { unitModelOf } from './unit';

export interface CaseState {
  /** The path of its pages: `/case/1013`; a stage comes after it. */
  readonly home: string;
  /** The exercise behind it, where it is no case of the workshop. */
  readonly practice: PracticeLink | undefined;
  readonly view: CaseView;
  readonly index: BoardIndex | undefined;
  /** The model of its unit; undefined where its kind was not chosen. */
  readonly model: UnitModel | undefined;
  readonly entries: readonly Entry[];
  readonly journal: Journal;
  /** What circuits say of the case, worked out beside the page. */
  readonly solved: Solved;
  /** What stands to be proven, what is next, what stands against closing. */
  readonly progress: Progress;
  /** What a sound board shows at a point, the parts that are off now being off. */
  readonly expect: Expect;
  /** The engine at work on its board; undefined while it is being started, or without a board. */
  readonly engine: EngineLink | undefined;
  /** Why the engine does not work; undefined where it does. */
  readonly engineFailure: string | undefined;
  /**
   * Appends an entry to the journal: on screen at once, in the outbox, then sent. Returns why not
   * where a rule forbids it. picture: the file that the entry is about.
   */
  readonly append: (body: EntryBody, picture?: Blob) => string | undefined;
  readonly reload: () => Promise<void>;
}

/** What was loaded of a case, or why it was not. */
export interface LoadedCase {
  readonly view: CaseView | undefined;
  readonly failure: Error | null;
  readonly retry: () => void;
}

/** Loads a case by its number, and loads it again whenever somebody adds to it. */
export function useLoadedCase(number: number): LoadedCase {
  const { queries } = store();
  const { data, error, refetch } = useQuery(caseQuery(queries, number), queries);
  return { view: data, failure: error, retry: () => void refetch() };
}

/**
 * The state of one case in the browser: what the server has, what it confirmed since, and what
 * still waits in the outbox.
 */
export function useCase(view: CaseView): CaseState {
  const { outbox, queries } = store();
  const { waiting, stored } = useSyncExternalStore(outbox.subscribe, outbox.snapshot);
  const entries = useMemo(() => {
    const all = new Map(view.entries.map((entry) => [entry.id, entry]));
    const own = waiting.flatMap(({ caseId, entry }) => (caseId === view.id ? [entry] : []));
    for (const entry of [...(stored.get(view.id) ?? []), ...own])
      if (!all.has(entry.id)) all.set(entry.id, entry);
    return [...all.values()];
  }, [view.id, view.entries, waiting, stored]);
  const keep = useCallback(
    (entry: Entry, picture?: Blob): void =>
      void outbox.add({ id: entry.id, caseId: view.id, entry, ...(picture ? { picture } : {}) }),
    [outbox, view.id],
  );
  const reload = useCallback(
    () => queries.refetchQueries({ queryKey: ['case', view.number] }),
    [queries, view.number],
  );
  const source = { view, entries, keep, reload, objects: entryObjection };
  return { ...useCaseOf(source), home: `/case/${view.number}`, practice: undefined };
}

/** Where a case is from and where its entries go. */
export interface CaseSource {
  readonly view: CaseView;
  readonly entries: readonly Entry[];
  readonly keep: (entry: Entry, picture?: Blob) => void;
  readonly reload: () => Promise<void>;
  /** Why an entry may not be made. */
  readonly objects: typeof entryObjection;
}

/** The state of a case, whatever it is from. */
export function useCaseOf({
  view,
  entries,
  keep,
  reload,
  objects,
}: CaseSource): Omit<CaseState, 'home' | 'practice'> {
  const content = view.board?.content;
  const index = useMemo(() => content && indexBoard(content), [content]);
  const journal = useMemo(() => playJournal(entries, index), [entries, index]);
  const model = useMemo(() => unitModelOf(view.unitType, view.codes), [view.unitType, view.codes]);
  const { engine, engineFailure } = useEngineLink(content);
  const solved = useSolved(engine, index, entries, journal);
  const progress = useMemo(
    () => caseProgress(index, journal, solved, true),
    [index, journal, solved],
  );
  const absent = journal.absent.join();
  const metersKey = JSON.stringify([...journal.meters]);
  const meters = useMemo(
    () => new Map(JSON.parse(metersKey) as [ReadingKind, MeterInUse][]),
    [metersKey],
  );
  const expect = useCallback<Expect>(
    async (setup, kind, at, to) =>
      engine?.door.expect({
        setup,
        kind,
        at,
        to,
        absent: absent === '' ? [] : absent.split(','),
        ...ownMeter(meters, kind),
      }),
    [engine, absent, meters],
  );
  const append = useCallback(
    (body: EntryBody, picture?: Blob): string | undefined => {
      const objection = objects(body, entries, index, model, () => solved);
      if (objection) return objection;
      const entry: Entry = { id: v7(), madeAt: new Date().toISOString(), body };
      keep(entry, picture);
      return undefined;
    },
    [entries, index, model, solved, keep, objects],
  );
  return {
    view,
    index,
    model,
    entries,
    journal,
    solved,
    progress,
    expect,
    engine,
    engineFailure,
    append,
    reload,
  };
}

const ownMeter = (meters: Journal['meters'], kind: string) => {
  const own = meters.get(kind as ReadingKind);
  return own ? { meter: own.profile } : {};
};

/** Starts the engine for a board, once for all stages of a case. */
function useEngineLink(board: Board | undefined): Pick<CaseState, 'engine' | 'engineFailure'> {
  const [engine, setEngine] = useState<EngineLink>();
  const [engineFailure, setFailure] = useState<string>();
  // A page that the browser kept and shows again has let go of its request.
  const [shown, setShown] = useState(0);
  useEffect(() => {
    const again = ({ persisted }: PageTransitionEvent): void =>
      void (persisted && setShown((n) => n + 1));
    window.addEventListener('pageshow', again);
    return () => window.removeEventListener('pageshow', again);
  }, []);
  useEffect(() => {
    if (!board) return undefined;
    const fail = (error: unknown): void =>
      setFailure(
        `the engine stopped: ${String((error as Error).message ?? error)}; reload the page to start it again`,
      );
    const opening = openEngine(board, fail);
    let closed = false;
    opening.then((own) => {
      if (!closed) setEngine(own);
    }, fail);
    return () => {
      closed = true;
      setEngine(undefined);
      void opening.then((own) => own.close(), fail);
    };
  }, [board, shown]);
  return { engine, engineFailure };
}

/**
 * What circuits say of the case as it stands now; while that is being worked out, nothing that has
 * to wait for it is allowed.
 */
function useSolved(
  engine: EngineLink | undefined,
  index: BoardIndex | undefined,
  entries: readonly Entry[],
  journal: Journal,
): Solved {
  const [answer, setAnswer] = useState<{ to: readonly Entry[]; solved: Solved }>();
  const newest = useRef(entries);
  newest.current = entries;
  useEffect(() => {
    if (!engine || !index) return;
    engine.door.stand(entries).then(
      (written) => {
        if (newest.current === entries)
          setAnswer({ to: entries, solved: readAnswers(index, written) });
      },
      // The engine's own failure is told where it is used.
      () => undefined,
    );
  }, [engine, index, entries]);
  const withoutBoard = useMemo(() => solveHere(undefined, journal), [journal]);
  if (!index) return withoutBoard;
  if (answer?.to === entries) return answer.solved;
  // The proof of a moment ago goes on being shown; what it would allow waits for the new one, but
  // where nothing came that it could rest on.
  if (!answer) return PENDING;
  const { proof, power } = answer.solved;
  const fresh = entries.slice(answer.to.length);
  return { ...PENDING, proof, ...(fresh.some(bearsOnPower) ? {} : { power }) };
}

/** Whether an entry may change what the ohms say of power: work on the board, or ohms. */
function bearsOnPower({ body }: Entry): boolean {
  const { ledger, gate } = kindOf(body.kind);
  return ledger !== undefined || body.kind === 'retract' || gate?.(body) === 'meter';
}
