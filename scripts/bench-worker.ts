// The bench in a worker, as the application runs the engine. Told what to do, it answers with what came of it.
import { benchBoard, sweepFaults, type BenchBoard, type BenchRow, type Sweep } from './bench-board';

export type BenchTask = { readonly kind: 'row'; readonly board: BenchBoard } | { readonly kind: 'sweep' };

interface WorkerScope {
  onmessage: (event: { readonly data: BenchTask }) => void;
  postMessage(answer: BenchRow | Sweep): void;
  /** Called while everything is still held, where somebody wants to weigh it. */
  weigh?: () => void;
}

const scope = globalThis as unknown as WorkerScope;
scope.onmessage = ({ data }) => scope.postMessage(data.kind === 'sweep' ? sweepFaults() : benchBoard(data.board, () => scope.weigh?.()));
