import { RATES } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';
import { describe, expect, it } from 'vitest';
import { indexBoard } from '../../src/board';
import { Diagnoser, Predictor } from '../../src/diagnosis';
import { candidateMeasurements } from '../../src/plan';
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

  it('never reads less than no ohms, however open a line is', () => {
    const index = indexBoard(demoBoard('cr40'));
    const { hypotheses } = new Diagnoser(index, RATES).space;
    const predictor = new Predictor(index);
    let asked = 0;
    for (const hypothesis of hypotheses.filter(({ fault }) => fault.type === 'cut'))
      for (const m of candidateMeasurements(index, ['resistance'])) {
        const i = hypothesis.severities.length - 1;
        expect(predictor.at(hypothesis, i, m).value).toBeGreaterThanOrEqual(0);
        asked += 1;
      }
    expect(asked).toBeGreaterThan(400);
  });
});
