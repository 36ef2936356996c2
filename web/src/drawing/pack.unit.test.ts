import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { packComponents } from './pack';

interface Node {
  readonly id: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}
const node = (id: string, x: number, y: number, width = 40, height = 30): Node => ({
  id,
  x,
  y,
  width,
  height,
});
const edge = (from: string, to: string, points: readonly (readonly [number, number])[]) => ({
  id: `${from}>${to}`,
  sources: [`${from}:out`],
  targets: [`${to}:in`],
  sections: [
    {
      id: 's',
      startPoint: { x: points[0]![0], y: points[0]![1] },
      bendPoints: points.slice(1, -1).map(([x, y]) => ({ x, y })),
      endPoint: { x: points.at(-1)![0], y: points.at(-1)![1] },
    },
  ],
});
const packed = (children: Node[], edges: ReturnType<typeof edge>[] = []) =>
  packComponents({ id: 'g', children, edges });

describe('pieces of a drawing on their page', () => {
  it('move as a whole: what hangs together keeps its distances, wires with it', () => {
    const { nodes, wires } = packed(
      [node('n:A', 500, 500), node('p:R1', 600, 520), node('n:B', 0, 0)],
      [
        edge('n:A', 'p:R1', [
          [540, 515],
          [570, 515],
          [570, 535],
          [600, 535],
        ]),
      ],
    );
    const at = (id: string) => nodes.find((one) => one.id === id)!;
    expect(at('p:R1').x - at('n:A').x).toBeCloseTo(100, 6);
    expect(at('p:R1').y - at('n:A').y).toBeCloseTo(20, 6);
    const [wire] = wires;
    expect(wire!.points[0]!.x - at('n:A').x).toBeCloseTo(40, 6);
    expect(wire!.points.at(-1)!.y - at('p:R1').y).toBeCloseTo(15, 6);
    expect(wire!.isBus).toBe(false);
  });
  it('say which wires are buses', () => {
    const { wires } = packed(
      [node('b:D', 0, 0), node('p:U1', 100, 0)],
      [
        edge('b:D', 'p:U1', [
          [40, 10],
          [100, 10],
        ]),
      ],
    );
    expect(wires[0]!.isBus).toBe(true);
  });
  it('are nothing of nothing', () => {
    expect(packed([]).nodes).toEqual([]);
  });
  it('never lie on each other, and lie within the page, whatever they are', () => {
    const size = fc.integer({ min: 5, max: 400 });
    const place = fc.integer({ min: 0, max: 3000 });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(place, place, size, size), { minLength: 1, maxLength: 25 }),
        (boxes) => {
          const { nodes, width, height } = packed(
            boxes.map(([x, y, w, h], i) => node(`n:${i}`, x, y, w, h)),
          );
          expect(nodes).toHaveLength(boxes.length);
          nodes.forEach((one, i) => {
            expect(one.x).toBeGreaterThanOrEqual(0);
            expect(one.y).toBeGreaterThanOrEqual(0);
            expect(one.x + one.width).toBeLessThanOrEqual(width + 1e-6);
            expect(one.y + one.height).toBeLessThanOrEqual(height + 1e-6);
            for (const other of nodes.slice(i + 1))
              expect(
                one.x >= other.x + other.width - 1e-6 ||
                  other.x >= one.x + one.width - 1e-6 ||
                  one.y >= other.y + other.height - 1e-6 ||
                  other.y >= one.y + one.height - 1e-6,
              ).toBe(true);
          });
        },
      ),
      { numRuns: 80 },
    );
  });
});
