// The bench in a worker, as the application runs the engine. Told what to do, it answers with what
// came of it.
import type { Board } from '@hanzai/core/board';
import { benchDemo, type DemoRow } from './bench-demo';
import { benchBoard, sweepFaults, type BenchBoard, type BenchRow, type Sweep } from './bench-board';

export type BenchTask =
  | { readonly kind: 'rows'; readonly board: BenchBoard }
  | { readonly kind: 'sweep' }
  | {
      readonly kind: 'demo';
      readonly board: Board;
      readonly reads: readonly (readonly [string, number])[];
    };

/**
 * What a board took in a new worker, and what it took the same worker again, its code compiled by
 * then.
 */
export interface BenchRows {
  readonly first: BenchRow;
  readonly again: BenchRow | undefined;
}

interface WorkerScope {
  onmessage: (event: { readonly data: BenchTask }) => void;
  postMessage(answer: BenchRows | Sweep | DemoRow): void;
  /** Called while everything is still held, where somebody wants to weigh it. */
  weigh?: () => void;
}

const scope = globalThis as unknown as WorkerScope;
scope.onmessage = ({ data }) => {
  if (data.kind === 'demo')
    void benchDemo(data.board, data.reads).then((row) => scope.postMessage(row));
  else scope.postMessage(data.kind === 'sweep' ? sweepFaults() : rowsOf(data.board));
};

function rowsOf(board: BenchBoard): BenchRows {
  const first = benchBoard(board, () => scope.weigh?.());
  return { first, again: board.asGoal ? benchBoard(board) : undefined };
}
