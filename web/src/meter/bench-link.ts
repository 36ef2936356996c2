import { wrap } from 'comlink';
import type { Board } from '@hanzai/core/board';
import benchUrl from '../workers/bench.worker.ts?worker&url';
import type { BenchDoor } from '../workers/bench.worker';
import { LinkLost, within, type MeterLink } from './link';

/** What is put on the simulated bench. */
export interface BenchOrder {
  readonly board: Board;
  /** Names of faults; none: one is hidden on it. */
  readonly faults: readonly string[];
  readonly seed: number;
  readonly slips: boolean;
}

/** A line to a simulated bench, with the hand that moves its probes. */
export interface BenchLink extends MeterLink {
  /** What was hidden on the board, by name. */
  readonly hidden: readonly string[];
}

/** Sets up a simulated bench in a worker of its own. Throws where a fault is not the board's. */
export async function openBench(order: BenchOrder): Promise<BenchLink> {
  const worker = new Worker(benchUrl, { type: 'module' });
  const door = wrap<BenchDoor>(worker);
  const broken = new Promise<never>((_, reject) =>
    worker.addEventListener('error', () => reject(new LinkLost('the simulated bench broke'))),
  );
  broken.catch(() => undefined);
  const hidden = await Promise.race([door.open(order), broken]);
  if (typeof hidden === 'string') {
    worker.terminate();
    throw new LinkLost(hidden);
  }
  const say = (message: string): Promise<string> =>
    within(Promise.race([door.say(message), broken]));
  return {
    hidden,
    tell: async (message) => void (await say(message)),
    ask: say,
    close: () => worker.terminate(),
  };
}
