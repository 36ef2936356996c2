import { releaseProxy, wrap, type Remote } from 'comlink';
import type { EngineDoor } from '../workers/engine-room';
import engineUrl from '../workers/engine.worker.ts?worker&url';

/** A shared worker that lives on for some seconds after the last page that used it: the next page of a case finds what was worked out. Browsers that do not know
 *  the wish end it with the page. */
interface LastingOptions extends WorkerOptions {
  readonly extendedLifetime: boolean;
}
const LASTING: LastingOptions = { type: 'module', name: 'engine', extendedLifetime: true };

export interface EngineLink {
  readonly door: Remote<EngineDoor>;
  readonly close: () => void;
}

/** Whether what the engine works out can outlive the page. */
export const canOutlivePage = (): boolean => 'SharedWorker' in globalThis;

/** Opens a door to the engine. fail: told when the worker itself breaks. */
export function linkEngine(fail: (error: unknown) => void): EngineLink {
  if (!canOutlivePage()) {
    const worker = new Worker(engineUrl, { type: 'module' });
    worker.addEventListener('error', fail);
    return { door: wrap<EngineDoor>(worker), close: () => worker.terminate() };
  }
  const shared = new SharedWorker(engineUrl, LASTING);
  shared.addEventListener('error', fail);
  const door = wrap<EngineDoor>(shared.port);
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
