import { describe, expect, it } from 'vitest';
import { minimumDegreeOrder, PatternBuilder, samePattern, SparseLu } from '.';

/** A resistor grid of n by n nodes, each node to ground with 1 S. */
function grid(n: number): {
  pattern: ReturnType<PatternBuilder['finish']>['pattern'];
  values: Float64Array;
} {
  const builder = new PatternBuilder(n * n);
  const stamps: [number, number][] = [];
  const add = (row: number, column: number, value: number): void =>
    void stamps.push([builder.add(row, column), value]);
  for (let y = 0; y < n; y += 1) {
    for (let x = 0; x < n; x += 1) {
      const node = y * n + x;
      add(node, node, 1);
      for (const other of [x + 1 < n ? node + 1 : -1, y + 1 < n ? node + n : -1]) {
        if (other < 0) continue;
        add(node, node, 1);
        add(other, other, 1);
        add(node, other, -1);
        add(other, node, -1);
      }
    }
  }
  const { pattern, place } = builder.finish();
  const values = new Float64Array(pattern.row.length);
  for (const [slot, value] of stamps) values[place[slot]!]! += value;
  return { pattern, values };
}

describe('the sparse solver', () => {
  it('orders every column once, and keeps the fill of a grid far below that of the natural order', () => {
    const { pattern, values } = grid(20);
    const order = minimumDegreeOrder(pattern);
    expect([...order].sort((a, b) => a - b)).toEqual(Array.from({ length: 400 }, (_, i) => i));
    const ordered = new SparseLu(pattern);
    const natural = new SparseLu(
      pattern,
      Int32Array.from({ length: 400 }, (_, i) => i),
    );
    ordered.factor(values);
    natural.factor(values);
    expect(ordered.fill).toBeLessThan(natural.fill * 0.6);
  });

  it('gives the order again for the same pattern', () => {
    expect(minimumDegreeOrder(grid(8).pattern)).toEqual(minimumDegreeOrder(grid(8).pattern));
    expect(samePattern(grid(8).pattern, grid(8).pattern)).toBe(true);
    expect(samePattern(grid(8).pattern, grid(7).pattern)).toBe(false);
  });

  it('names the column at which a matrix is singular, and recovers with the next values', () => {
    const builder = new PatternBuilder(2);
    const slots = [builder.add(0, 0), builder.add(0, 1), builder.add(1, 0), builder.add(1, 1)];
    const { pattern, place } = builder.finish();
    const lu = new SparseLu(pattern);
    const fill = (...values: number[]): Float64Array => {
      const out = new Float64Array(4);
      values.forEach((value, i) => (out[place[slots[i]!]!] = value));
      return out;
    };
    expect(lu.factor(fill(1, 2, 2, 4))).toMatchObject({ column: expect.any(Number) as number });
    expect(lu.factor(fill(0, 1, 1, 0))).toBeUndefined();
    const x = Float64Array.of(3, 5);
    lu.solve(x, x);
    expect([...x]).toEqual([5, 3]);
  });

  it('pivots anew where old pivots no longer serve', () => {
    const { pattern, values } = grid(6);
    const lu = new SparseLu(pattern);
    lu.factor(values);
    const changed = values.map((value, i) => (i % 7 === 0 ? value * 1e10 : value));
    expect(lu.factor(changed)).toBeUndefined();
    const b = Float64Array.from({ length: 36 }, (_, i) => Math.sin(i));
    const x = new Float64Array(36);
    lu.solve(b, x);
    for (let row = 0; row < 36; row += 1) {
      let sum = 0;
      let size = 0;
      for (let c = 0; c < 36; c += 1)
        for (let p = pattern.start[c]!; p < pattern.start[c + 1]!; p += 1)
          if (pattern.row[p] === row)
            [sum, size] = [sum + changed[p]! * x[c]!, size + Math.abs(changed[p]! * x[c]!)];
      expect(Math.abs(sum - b[row]!)).toBeLessThan(1e-9 * (size + 1));
    }
  });
});
