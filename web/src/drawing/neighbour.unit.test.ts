import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { neighbour, type Item, type Way } from './neighbour';

const at = (key: string, x: number, y: number): Item => ({ key, x, y });
const ROWS = [at('a', 0, 0), at('b', 100, 5), at('c', 200, 0), at('d', 0, 100), at('e', 110, 95)];
const go = (from: string, ...ways: Way[]): string =>
  ways.reduce(
    (now, way) => neighbour(ROWS, now, way) ?? now,
    ROWS.find(({ key }) => key === from)!,
  ).key;

describe('from part to part with the arrow keys', () => {
  it('goes to what is next in the direction, and stays at the edge', () => {
    expect(go('a', 'ArrowRight')).toBe('b');
    expect(go('a', 'ArrowRight', 'ArrowRight', 'ArrowRight')).toBe('c');
    expect(go('b', 'ArrowDown')).toBe('e');
    expect(go('e', 'ArrowLeft')).toBe('d');
    expect(go('d', 'ArrowUp')).toBe('a');
    expect(go('a', 'ArrowUp')).toBe('a');
  });

  it('reaches everything from anywhere, if one goes long enough', () => {
    const places = fc.uniqueArray(
      fc.tuple(fc.integer({ min: 0, max: 40 }), fc.integer({ min: 0, max: 20 })),
      {
        minLength: 1,
        maxLength: 25,
        selector: ([x, y]) => `${x} ${y}`,
      },
    );
    fc.assert(
      fc.property(places, (list) => {
        const items = list.map(([x, y], i) => at(String(i), 30 * x, 30 * y));
        const seen = new Set<string>();
        const todo = [items[0]!];
        while (todo.length > 0) {
          const item = todo.pop()!;
          if (seen.has(item.key)) continue;
          seen.add(item.key);
          for (const way of ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'] as const) {
            const next = neighbour(items, item, way);
            if (next) todo.push(next);
          }
        }
        expect(seen.size).toBe(items.length);
      }),
      { seed: 5, numRuns: 200 },
    );
  });
});
