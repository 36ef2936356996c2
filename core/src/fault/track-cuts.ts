import { GROUND, isInsidePackage, nameKey, type BoardIndex, type PinPlace } from '../board';
import type { Fault } from './fault';
import { oncePer } from '../once-per';

/** A cut with the two pins between which it lies, `U3.14~C7.1`. */
export interface TrackCut {
  readonly between: string;
  readonly fault: Extract<Fault, { type: 'cut' }>;
}

/**
 * Where tracks can be cut so that pins on both sides stay together: nobody has drawn the tracks, so
 * each net is taken to run from pin to pin by the shortest tree
 * (Prim, Bell System Technical Journal 36, 1957). A cut that leaves a single pin is that pin's dry
 * joint. Ground is left out: it comes from many sides.
 */
export const trackCuts = oncePer((index: BoardIndex): readonly TrackCut[] =>
  [...pinsByNet(index)].flatMap(([net, pins]) => cutsOf(net, pins)),
);

interface PlacedPin extends PinPlace {
  readonly x: number;
  readonly y: number;
}

function pinsByNet({ board, netByKey }: BoardIndex): ReadonlyMap<string, readonly PlacedPin[]> {
  const found = new Map<string, PlacedPin[]>();
  for (const part of board.parts) {
    if (isInsidePackage(part.ref)) continue;
    part.pins.forEach((name, i) => {
      const at = part.pinPositionsMm?.[i] ?? part.positionMm;
      const net = netByKey.get(nameKey(name));
      if (!at || net === undefined || nameKey(net) === GROUND) return;
      found.set(net, [...(found.get(net) ?? []), { part, index: i, net, x: at[0], y: at[1] }]);
    });
  }
  return found;
}

function cutsOf(net: string, pins: readonly PlacedPin[]): TrackCut[] {
  if (pins.length < 4) return [];
  const tree = shortestTree(pins);
  return tree.flatMap(([from, to]): TrackCut[] => {
    const far = reachable(tree, to, from);
    const near = pins.map((_, i) => i).filter((i) => !far.has(i));
    const lost = far.size <= near.length ? [...far] : near;
    if (lost.length < 2 || Math.max(far.size, near.length) < 2) return [];
    const between = [from, to].map((i) => `${pins[i]!.part.ref}.${pins[i]!.index + 1}`).join('~');
    return [
      {
        between,
        fault: {
          type: 'cut',
          name: `${between}:cut`,
          net,
          pins: lost.sort((a, b) => a - b).map((i) => pins[i]!),
        },
      },
    ];
  });
}

/** Edges of the shortest tree through all pins, by their positions in the list. */
function shortestTree(pins: readonly PlacedPin[]): [number, number][] {
  const edges: [number, number][] = [];
  const nearest = pins.map((pin) => Math.hypot(pin.x - pins[0]!.x, pin.y - pins[0]!.y));
  const parent = pins.map(() => 0);
  const left = new Set(pins.keys());
  left.delete(0);
  while (left.size > 0) {
    const next = [...left].reduce((best, i) => (nearest[i]! < nearest[best]! ? i : best));
    left.delete(next);
    edges.push([parent[next]!, next]);
    for (const i of left) {
      const way = Math.hypot(pins[i]!.x - pins[next]!.x, pins[i]!.y - pins[next]!.y);
      if (way < nearest[i]!) [nearest[i], parent[i]] = [way, next];
    }
  }
  return edges;
}

/** What hangs on `start` once the edge to `cutFrom` is gone. */
function reachable(
  tree: readonly (readonly [number, number])[],
  start: number,
  cutFrom: number,
): Set<number> {
  const found = new Set([start]);
  for (const at of found) {
    for (const [a, b] of tree) {
      const other = a === at ? b : b === at ? a : -1;
      if (other >= 0 && !(at === start && other === cutFrom)) found.add(other);
    }
  }
  return found;
}
