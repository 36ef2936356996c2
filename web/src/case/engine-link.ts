import { releaseProxy, wrap, type Remote } from 'comlink';
import type { Board } from '@hanzai/core/board';
import type { EngineDoor } from '../workers/engine-room';
import engineUrl from '../workers/engine.worker.ts?worker&url';

/**
 * A shared worker that lives on for some seconds after the last page that used it: the next page of
 * a case finds what was worked out. Browsers that do not know the wish end it with the page.
 */
interface LastingOptions extends WorkerOptions {
  readonly extendedLifetime: boolean;
}
const LASTING: LastingOptions = { type: 'module', name: 'engine', extendedLifetime: true };

/**
 * How long the shared worker may take to answer before a page starts one of its own: it may be busy
 * with another page's board for some seconds.
 */
const PATIENCE_MILLISECONDS = 10_000;

export interface EngineLink {
  readonly door: Remote<EngineDoor>;
  readonly close: () => void;
}

/** Whether what the engine works out can outlive the page. */
export const canOutlivePage = (): boolean => 'SharedWorker' in globalThis;

/**
 * Opens a door to the engine for a board: in the worker that all pages share, or in one of the
 * page's own where there is none or it does not answer. fail: told when that worker breaks later
 * on.
 */
export async function openEngine(
  board: Board,
  fail: (error: unknown) => void,
): Promise<EngineLink> {
  const shared = canOutlivePage() ? await sharedLink(board) : undefined;
  if (shared) return shared;
  const worker = new Worker(engineUrl, { type: 'module' });
  worker.addEventListener('error', fail);
  const own = { door: wrap<EngineDoor>(worker), close: () => worker.terminate() };
  await own.door.open({ board });
  return own;
}

/** Undefined where the shared worker does not start or is not heard of. */
async function sharedLink(board: Board): Promise<EngineLink | undefined> {
  const worker = new SharedWorker(engineUrl, LASTING);
  const door = wrap<EngineDoor>(worker.port);
  const silent = new Promise<false>((resolve) => {
    worker.addEventListener('error', () => resolve(false));
    setTimeout(() => resolve(false), PATIENCE_MILLISECONDS);
  });
  if (!(await Promise.race([door.open({ board }).then(() => true as const), silent])))
    return undefined;
  const leave = (): void => void door.leave();
  // A page that goes away unmounts nothing.
  window.addEventListener('pagehide', leave);
  return {
    door,
    close: () => {
      window.removeEventListener('pagehide', leave);
      void door.leave().finally(() => door[releaseProxy]());
    },
  };
}
