import { describe, expect, it } from 'vitest';
import { corpusCases, readingsOf, score, sheetOf, thresholdsMissed } from './corpus';

// The corpus that the reference simulator made: faults of any severity on boards within tolerance,
// with sheets that are wrong somewhere and meters that are a little off. A sample here; `npm run
// corpus` scores all of it.

const EVERY = 4;
const all = corpusCases();
const sample = all.filter((_, i) => i % EVERY === 0);

describe('the corpus', () => {
  it('has at least three hundred cases over six boards, roughened in every way', () => {
    expect(all.length).toBeGreaterThanOrEqual(300);
    expect(new Set(all.map(({ board }) => board)).size).toBe(6);
    for (const has of [
      all.filter(({ sheet }) => !sheet.esrStated),
      all.filter(({ sheet }) => sheet.missing.length > 0),
      all.filter(({ sheet }) => Object.keys(sheet.wrong).length > 0),
      all.filter(({ kind }) => kind === 'pair'),
      all.filter(({ kind }) => kind === 'sound'),
    ])
      expect(has.length).toBeGreaterThan(30);
  });
  it('is readable as sheets with readings', () => {
    for (const one of all.filter((_, i) => i % 11 === 0)) {
      const index = sheetOf(one);
      expect(readingsOf(index, one).length).toBeGreaterThan(1);
      for (const [ref] of one.truth)
        expect(index.replaceable.has(ref.split('.')[0]!), `${one.board} ${ref}`).toBe(true);
    }
  });
  it('is diagnosed within its thresholds', () => {
    const results = sample.map((one) => ({ one, scored: score(one) }));
    expect(thresholdsMissed(results, 1)).toEqual([]);
  }, 240_000);
  it('sums to one in every case', () => {
    for (const one of sample.slice(0, 8)) {
      const { belief } = score(one);
      expect(
        belief.suspects.reduce((sum, { probability }) => sum + probability, 0) +
          belief.healthy +
          belief.unmodelled,
      ).toBeCloseTo(1, 9);
    }
  });
});
