import { pinPoint, type BoardIndex, type Part } from '../board';
import type { Measurement } from '../instrument';
import { handMinutes } from '../plan';

type Capacitor = Extract<Part, { kind: 'capacitor' }>;

/** Rounds of untangling: more bring next to nothing. */
const MOST_ROUNDS = 20;

/** The ESR across a capacitor, as a measurement. */
export function acrossEsr(index: BoardIndex, part: Part): Measurement {
  return { setup: 'off', kind: 'esr', at: pinPoint(index, part, 0), to: pinPoint(index, part, 1) };
}

/**
 * The capacitors of a board in an order that saves hand movement: from the one nearest the upper
 * left always to the nearest, then untangled; those whose place is not known at the end, by name.
 * Source: nearest neighbour and 2-opt, Croes, Oper. Res. 6, 1958.
 */
export function surveyOrder(index: BoardIndex): readonly Capacitor[] {
  const all = index.board.parts.filter((part): part is Capacitor => part.kind === 'capacitor');
  const placeOf = (part: Capacitor) => part.pinPositionsMm?.[0] ?? part.positionMm;
  const placed = all.filter((part) => placeOf(part) !== undefined);
  const byName = all
    .filter((part) => placeOf(part) === undefined)
    .sort((a, b) => a.ref.localeCompare(b.ref, 'en', { numeric: true }));
  if (placed.length === 0) return byName;
  const across = new Map(placed.map((part) => [part, acrossEsr(index, part)]));
  const minutes = (a: Capacitor, b: Capacitor): number =>
    handMinutes(index, across.get(a), across.get(b)!);
  const corner = (part: Capacitor): number =>
    Math.hypot(...placeOf(part)!) + (part.side === 'bottom' ? 1e4 : 0);
  const left = new Set([...placed].sort((a, b) => corner(a) - corner(b)));
  const path: Capacitor[] = [];
  for (let here = left.values().next().value; here;) {
    left.delete(here);
    path.push(here);
    const from = here;
    here = [...left].sort((a, b) => minutes(from, a) - minutes(from, b))[0];
  }
  untangle(path, minutes);
  return [...path, ...byName];
}

/** Turns stretches of a path round as long as that makes it shorter. */
function untangle<T>(path: T[], length: (a: T, b: T) => number): void {
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    let isBetter = false;
    for (let i = 0; i + 2 < path.length; i += 1)
      for (let k = i + 2; k < path.length; k += 1) {
        const [a, b, c, d] = [path[i]!, path[i + 1]!, path[k]!, path[k + 1]];
        const now = length(a, b) + (d === undefined ? 0 : length(c, d));
        const then = length(a, c) + (d === undefined ? 0 : length(b, d));
        if (then >= now - 1e-12) continue;
        path.splice(i + 1, k - i, ...path.slice(i + 1, k + 1).reverse());
        isBetter = true;
      }
    if (!isBetter) return;
  }
}
