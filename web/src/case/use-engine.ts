import { proxy, wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Board } from '@hanzai/core/board';
import type { EngineApi } from '../workers/engine.worker';
import type { AssessRequest, EngineEvent, LineUp, NextStep } from '../workers/engine-messages';
import { writtenPoints } from './file-reading';
import type { Journal } from './journal';

export interface EngineState {
  readonly lineUp: LineUp | undefined;
  readonly next: NextStep | undefined;
  /** Share of the planning done, 0 to 1; undefined when nothing is under way. */
  readonly busy: number | undefined;
  readonly failure: string | undefined;
  /** Milliseconds from the reading to the new line-up on the last change. */
  readonly latency: number | undefined;
}

/** What the engine has to know beside readings. */
export type Circumstances = Pick<AssessRequest, 'look' | 'access'>;

/** Keeps a worker with the core at work on the board and feeds it the readings that speak of the board as it is now. */
export function useEngine(board: Board | undefined, journal: Journal, circumstances: Circumstances): EngineState {
  const remote = useRef<Remote<EngineApi> | undefined>(undefined);
  const ticket = useRef(0);
  const [ready, setReady] = useState(false);
  const [state, setState] = useState<EngineState>({
    lineUp: undefined,
    next: undefined,
    busy: undefined,
    failure: undefined,
    latency: undefined,
  });

  useEffect(() => {
    if (!board) return undefined;
    const worker = new Worker(new URL('../workers/engine.worker.ts', import.meta.url), { type: 'module' });
    const fail = (error: unknown): void =>
      setState((s) => ({
        ...s,
        busy: undefined,
        failure: `the engine stopped: ${String((error as Error).message ?? error)}; reload the page to start it again`,
      }));
    worker.addEventListener('error', fail);
    const api = wrap<EngineApi>(worker);
    remote.current = api;
    api.open({ board }).then(() => setReady(true), fail);
    return () => {
      worker.terminate();
      remote.current = undefined;
      setReady(false);
    };
  }, [board]);

  const readings = journal.readings
    .filter(({ current }) => current)
    .map(({ entry, measurement: m, value, absent }) => ({
      id: entry.id,
      setup: m.setup,
      kind: m.kind,
      ...writtenPoints(m),
      value,
      absent: [...(absent ?? [])],
    }));
  const key = JSON.stringify([readings, journal.absent, circumstances]);

  useEffect(() => {
    const api = remote.current;
    if (!ready || !api) return;
    const own = ++ticket.current;
    const started = performance.now();
    const onEvent = (event: EngineEvent): void => {
      if (event.ticket !== ticket.current) return;
      if (event.type === 'line-up') setState((s) => ({ ...s, lineUp: event.lineUp, latency: performance.now() - started, busy: 0, failure: undefined }));
      if (event.type === 'progress') setState((s) => ({ ...s, busy: event.share }));
      if (event.type === 'next') setState((s) => ({ ...s, next: event.next, busy: undefined }));
    };
    api
      .assess({ ticket: own, readings, absent: [...journal.absent], ...circumstances }, proxy(onEvent))
      .catch((error: unknown) => setState((s) => ({ ...s, busy: undefined, failure: String((error as Error).message ?? error) })));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for readings and absent parts by value
  }, [ready, key]);

  return state;
}
