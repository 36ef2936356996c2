// The bench in a web worker, where the application runs the engine: told [parts, discrete], it answers with a row.
import { benchBoard, type BenchRow } from './bench-board';

interface WorkerScope {
  onmessage: (event: { readonly data: readonly [parts: number, discrete: boolean] }) => void;
  postMessage(row: BenchRow): void;
}

const scope = globalThis as unknown as WorkerScope;
scope.onmessage = ({ data: [parts, discrete] }) => scope.postMessage(benchBoard(parts, discrete));
