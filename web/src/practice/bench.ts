import { wrap, type Remote } from 'comlink';
import practiceUrl from '../workers/practice.worker.ts?worker&url';
import type { PracticeDoor } from '../workers/practice-room';

/** The bench of an exercise in a worker of its own. close: nothing of it answers afterwards. */
export interface PracticeBench {
  readonly door: Remote<PracticeDoor>;
  readonly close: () => void;
}

export function openPracticeBench(fail: (words: string) => void): PracticeBench {
  const worker = new Worker(practiceUrl, { type: 'module' });
  worker.addEventListener('error', () => fail('the bench of the exercise broke; reload the page'));
  return { door: wrap<PracticeDoor>(worker), close: () => worker.terminate() };
}
