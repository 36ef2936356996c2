import { GROUND, nameKey, pinsOn, type BoardIndex, type Part, type PartKind } from '../board';
import { primaryFeed } from '../fault';
import { AS_COPPER } from './copper';

/**
 * Highest peak of a mains supply, volt: 230 V plus 10 % times the square root of two. Source: IEC
 * 60038, standard voltages.
 */
export const MAINS_PEAK_VOLT = 230 * 1.1 * Math.SQRT2;

/**
 * Parts through which a net stays on the mains side: nothing in them isolates, neither a rectifier
 * nor the transistor of a switching supply.
 */
const NOT_ISOLATING: readonly PartKind[] = [
  ...AS_COPPER,
  'resistor',
  'capacitor',
  'diode',
  'transistor',
];

/**
 * Keys of the nets that lie on the mains: the row that feeds each transformer's primary, parts that
 * the sheet calls mains, and all that hangs on them
 * without isolation. Ground ends the walk: what lies beyond a line-to-chassis capacitor is chassis.
 */
export function mainsNets(index: BoardIndex): ReadonlySet<string> {
  const named = (index.board.hazards ?? []).flatMap(({ kind, ref }) => {
    const part =
      kind === 'mains' && ref !== undefined ? index.partByKey.get(nameKey(ref)) : undefined;
    return part && part.kind !== 'transformer' ? part.pins : [];
  });
  const fed = index.board.parts
    .filter(({ kind }) => kind === 'transformer')
    .flatMap((part) => [...primaryFeed(index, part).nets, ...part.pins.slice(0, 2)]);
  const found = new Set<string>();
  const waiting = [...named, ...fed].map(nameKey);
  while (waiting.length > 0) {
    const net = waiting.pop()!;
    if (net === GROUND || found.has(net)) continue;
    found.add(net);
    for (const { part } of pinsOn(index, net)) {
      if (NOT_ISOLATING.includes(part.kind)) waiting.push(...part.pins.map(nameKey));
    }
  }
  return found;
}

/** Whether a part has a leg on the mains. */
export function isOnMains(index: BoardIndex, part: Part): boolean {
  const mains = mainsNets(index);
  return part.pins.some((net) => mains.has(nameKey(net)));
}

/**
 * Where the mains comes in: the outer ends of the row that feeds a transformer, between which the
 * unplugged primary is measured.
 */
export function plugEnds(index: BoardIndex, transformer: Part): readonly [string, string] {
  return primaryFeed(index, transformer).ends;
}
