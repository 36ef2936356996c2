import { proxy } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { EngineEvent, LineUp, NextStep } from '../workers/engine-messages';
import { canOutlivePage } from './engine-link';
import { engineRequest, type Circumstances } from './engine-request';
import type { CaseState } from './use-case';

export interface EngineState {
  readonly lineUp: LineUp | undefined;
  readonly next: NextStep | undefined;
  /** Share of the planning done, 0 to 1; undefined when nothing is under way. */
  readonly busy: number | undefined;
  readonly failure: string | undefined;
  /** Milliseconds from the reading to the new line-up on the last change. */
  readonly latency: number | undefined;
}

/** How long a page has to itself before the engine works ahead. */
const AHEAD_MILLISECONDS = 1500;

/**
 * Feeds the engine the readings that speak of the board as it is now, and gives what it finds.
 * wanted: false where nobody looks at it.
 */
export function useEngine(
  { engine, engineFailure, journal }: CaseState,
  circumstances: Circumstances,
  wanted = true,
): EngineState {
  const ticket = useRef(0);
  const [state, setState] = useState<EngineState>({
    lineUp: undefined,
    next: undefined,
    busy: undefined,
    failure: undefined,
    latency: undefined,
  });
  const request = engineRequest(0, journal, circumstances);
  const key = JSON.stringify(request);

  useEffect(() => {
    if (!engine || !wanted) return;
    const own = ++ticket.current;
    const started = performance.now();
    const onEvent = (event: EngineEvent): void => {
      if (event.ticket !== ticket.current) return;
      if (event.type === 'line-up')
        setState((s) => ({
          ...s,
          lineUp: event.lineUp,
          latency: performance.now() - started,
          busy: 0,
          failure: undefined,
        }));
      if (event.type === 'progress') setState((s) => ({ ...s, busy: event.share }));
      if (event.type === 'next')
        setState((s) => ({
          ...s,
          next: event.next,
          busy: event.next.provisional ? (s.busy ?? 0) : undefined,
        }));
    };
    engine.door.assess({ ...request, ticket: own }, proxy(onEvent)).catch((error: unknown) =>
      setState((s) => ({
        ...s,
        busy: undefined,
        failure: String((error as Error).message ?? error),
      })),
    );
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for the request by value
  }, [engine, wanted, key]);

  return engineFailure ? { ...state, busy: undefined, failure: engineFailure } : state;
}

/**
 * Lets the engine work ahead on a screen that does not show what it finds: the one that does has it
 * at once.
 */
export function useEngineAhead(
  { engine, journal }: CaseState,
  circumstances: Circumstances,
  wanted: boolean,
): void {
  const key = JSON.stringify(engineRequest(1, journal, circumstances));
  useEffect(() => {
    if (!engine || !wanted || !canOutlivePage()) return undefined;
    const ignore = (): void => undefined;
    // The screen itself comes first; what goes wrong here the screen that needs the engine will
    // meet and say.
    const work = (): void =>
      void engine.door
        .assess(engineRequest(1, journal, circumstances), proxy(ignore))
        .catch(ignore);
    const timer = setTimeout(work, AHEAD_MILLISECONDS);
    return () => clearTimeout(timer);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for the request by value
  }, [engine, wanted, key]);
}
