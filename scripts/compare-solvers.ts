// npm run compare-solvers [EVERY]: holds the incremental solver against the solver of whole boards
// over every fault of every demo board, or over one reading in EVERY. Takes the night without it.
import { compareSolvers } from '../core/test/differential/two-solvers';

const every = Number(process.argv[2] ?? 1);
let apart = 0;
for (const name of ['cr40', 'yc2', 'tl9', 'pd3Rw', 'pd3If'] as const) {
  const started = performance.now();
  const result = compareSolvers(name, every);
  apart += result.apart.length;
  process.stdout.write(
    `${name}: ${result.readings} readings, ${result.apart.length} apart, ${((performance.now() - started) / 1000).toFixed(0)} s\n`,
  );
  for (const words of result.apart.slice(0, 20)) process.stdout.write(`  ${words}\n`);
}
process.exitCode = apart > 0 ? 1 : 0;
