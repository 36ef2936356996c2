import { proxy } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Board } from '@hanzai/core/board';
import type { EngineEvent, LineUp, NextStep } from '../workers/engine-messages';
import { canOutlivePage, openEngine, type EngineLink } from './engine-link';
import { engineRequest, type Circumstances } from './engine-request';
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

/** How long a page has to itself before the engine works ahead. */
const AHEAD_MILLISECONDS = 1500;

/**
 * Keeps a worker with the core at work on the board and feeds it the readings that speak of the
 * board as it is now.
 */
export function useEngine(
  board: Board | undefined,
  journal: Journal,
  circumstances: Circumstances,
): EngineState {
  const link = useRef<EngineLink | undefined>(undefined);
  const ticket = useRef(0);
  const [ready, setReady] = useState(false);
  // A page that the browser kept and shows again has let go of its request.
  const [shown, setShown] = useState(0);
  const [state, setState] = useState<EngineState>({
    lineUp: undefined,
    next: undefined,
    busy: undefined,
    failure: undefined,
    latency: undefined,
  });

  useEffect(() => {
    if (!board) return undefined;
    const fail = (error: unknown): void =>
      setState((s) => ({
        ...s,
        busy: undefined,
        failure: `the engine stopped: ${String((error as Error).message ?? error)}; reload the page to start it again`,
      }));
    const opening = openEngine(board, fail);
    let closed = false;
    opening.then((own) => {
      if (closed) return;
      link.current = own;
      setReady(true);
    }, fail);
    return () => {
      closed = true;
      void opening.then((own) => own.close(), fail);
      link.current = undefined;
      setReady(false);
    };
  }, [board]);

  useEffect(() => {
    const again = ({ persisted }: PageTransitionEvent): void =>
      void (persisted && setShown((n) => n + 1));
    window.addEventListener('pageshow', again);
    return () => window.removeEventListener('pageshow', again);
  }, []);

  const request = engineRequest(0, journal, circumstances);
  const key = JSON.stringify(request);

  useEffect(() => {
    const door = link.current?.door;
    if (!ready || !door) return;
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
    door.assess({ ...request, ticket: own }, proxy(onEvent)).catch((error: unknown) =>
      setState((s) => ({
        ...s,
        busy: undefined,
        failure: String((error as Error).message ?? error),
      })),
    );
    // eslint-disable-next-line react-hooks/exhaustive-deps -- `key` stands for the request by value
  }, [ready, key, shown]);

  return state;
}

/**
 * Lets the engine work ahead on a page that does not show what it finds: the page that does has it
 * at once.
 */
export function useEngineAhead(
  board: Board | undefined,
  journal: Journal,
  circumstances: Circumstances,
): void {
  useEffect(() => {
    if (!board || !canOutlivePage()) return undefined;
    let opening: Promise<EngineLink> | undefined;
    const ignore = (): void => undefined;
    async function begin(board: Board): Promise<void> {
      const { door } = await (opening = openEngine(board, ignore));
      await door.assess(engineRequest(1, journal, circumstances), proxy(ignore));
    }
    // The page itself comes first; what goes wrong here the page that needs the engine will meet
    // and say.
    const timer = setTimeout(() => void begin(board).catch(ignore), AHEAD_MILLISECONDS);
    return () => {
      clearTimeout(timer);
      void opening?.then((link) => link.close(), ignore);
    };
  }, [board, journal, circumstances]);
}
