import type { DrawingLayout, PlacedNet } from './layout';

/** Something on a drawing that can be pointed at, with its middle. */
export interface Item {
  readonly key: string;
  readonly x: number;
  readonly y: number;
}

export type Way = 'ArrowLeft' | 'ArrowRight' | 'ArrowUp' | 'ArrowDown';
export const isWay = (key: string): key is Way => /^Arrow(Left|Right|Up|Down)$/.test(key);

/** A net's bar, of which there are several where many parts hang on it. */
export const barKey = ({ net, row }: PlacedNet): string =>
  row === 0 ? `n:${net}` : `n${row}:${net}`;

/** The parts and nets of a drawing in reading order: by rows, each from the left. */
export function itemsOf({ parts, nets }: DrawingLayout): Item[] {
  const items = [
    ...parts.map(({ key, x, y, width, height }) => ({
      key: `p:${key}`,
      x: x + width / 2,
      y: y + height / 2,
    })),
    ...nets.map((net) => ({ key: barKey(net), x: net.x + 20, y: net.y })),
  ];
  const row = ({ y }: Item): number => Math.round(y / 60);
  return items.sort((a, b) => row(a) - row(b) || a.x - b.x);
}

/**
 * The nearest item in a direction: what lies off to the side counts as twice as far. Undefined at the
 * edge.
 */
export function neighbour(items: readonly Item[], from: Item, way: Way): Item | undefined {
  const ahead = ({ x, y }: Item): readonly [along: number, aside: number] => {
    const [dx, dy] = [x - from.x, y - from.y];
    return way === 'ArrowRight'
      ? [dx, dy]
      : way === 'ArrowLeft'
        ? [-dx, dy]
        : way === 'ArrowDown'
          ? [dy, dx]
          : [-dy, dx];
  };
  let best: Item | undefined;
  let least = Infinity;
  for (const item of items) {
    const [along, aside] = ahead(item);
    if (item.key === from.key || along <= 1) continue;
    const far = along + 2 * Math.abs(aside);
    if (far < least) [best, least] = [item, far];
  }
  return best;
}
