import { describe, expect, it } from 'vitest';
import { compareSolvers } from './two-solvers';

// A sample of what `npm run compare-solvers` does with every fault of every demo board.
describe('the incremental solver against the solver of whole boards', () => {
  it.each([
    ['cr40', 31],
    ['yc2', 53],
    ['tl9', 1499],
    ['pd3Rw', 1999],
  ] as const)(
    '%s',
    (name, every) => {
      const { readings, apart } = compareSolvers(name, every);
      expect(readings).toBeGreaterThan(30);
      expect(apart).toEqual([]);
    },
    120_000,
  );
});
