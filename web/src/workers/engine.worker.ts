import { expose } from 'comlink';
import { Engine } from './engine';
import { OpenRequest, type AssessRequest, type EngineEvent } from './engine-messages';

let engine: Engine | undefined;

const api = {
  /** Takes a board in. Everything else waits for it. */
  open(request: unknown): void {
    engine = new Engine(OpenRequest.parse(request).board);
  },
  async assess(request: AssessRequest, send: (event: EngineEvent) => void): Promise<void> {
    await engine?.assess(request, send, () => new Promise((resolve) => setTimeout(resolve, 0)));
  },
};

export type EngineApi = typeof api;
expose(api);
