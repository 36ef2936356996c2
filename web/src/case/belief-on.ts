import { proxy } from 'comlink';
import type { Board } from '@hanzai/core/board';
import type { AssessRequest, EngineEvent, LineUp } from '../workers/engine-messages';
import { openEngine, type EngineLink } from './engine-link';

/**
 * The line-up that readings give on a board other than that of the case, worked out once. open: how
 * an engine for a board is found.
 */
export async function lineUpOn(
  board: Board,
  request: AssessRequest,
  open: (board: Board, fail: (error: unknown) => void) => Promise<EngineLink> = openEngine,
): Promise<LineUp> {
  let broken: ((error: unknown) => void) | undefined;
  const failed = new Promise<never>((_, reject) => {
    broken = reject;
  });
  const link = await open(board, (error) => broken?.(error));
  try {
    const whole = new Promise<LineUp>((resolve, reject) => {
      const onEvent = (event: EngineEvent): void => {
        if (event.type === 'line-up' && event.lineUp.refining === undefined) resolve(event.lineUp);
      };
      link.door
        .assess(request, proxy(onEvent))
        .then(() => reject(new Error('the engine gave no line-up')), reject);
    });
    return await Promise.race([whole, failed]);
  } finally {
    link.close();
  }
}

export interface BeliefChange {
  readonly ref: string;
  readonly before: number;
  readonly after: number;
}

/** A share that moved by less is not worth a line. */
const WORTH_TELLING = 0.02;

/** The parts whose share of the belief is another, the largest change first. */
export function beliefChanges(before: LineUp, after: LineUp, most = 6): readonly BeliefChange[] {
  const share = ({ entries }: LineUp, ref: string): number =>
    entries.find((entry) => entry.ref === ref)?.probability ?? 0;
  const refs = new Set([...before.entries, ...after.entries].map(({ ref }) => ref));
  return [...refs]
    .map((ref) => ({ ref, before: share(before, ref), after: share(after, ref) }))
    .filter((one) => Math.abs(one.after - one.before) >= WORTH_TELLING)
    .sort((a, b) => Math.abs(b.after - b.before) - Math.abs(a.after - a.before))
    .slice(0, most);
}
