import { GROUND, nameKey, type BoardIndex, type Part } from '@hanzai/core/board';

/** Nets that are fed: by a source, a regulator or a chip's supply pin; through plugs, fuses and links. */
export function fedNets(index: BoardIndex, nameOf: (net: string) => string): ReadonlySet<string> {
  const fed = new Set<string>();
  const add = (net: string | undefined): void => {
    const name = net === undefined ? undefined : nameOf(net);
    if (name === undefined || name === GROUND || fed.has(name)) return;
    fed.add(name);
    // Behind a plug, a fuse or a link it is the same supply.
    for (const { part } of index.pinsOfNet.get(name) ?? [])
      if (part.kind === 'connectorPin' || part.kind === 'fuse' || part.kind === 'link')
        part.pins.forEach(add);
  };
  for (const part of index.board.parts) {
    if (part.kind === 'voltageSource') part.pins.forEach(add);
    if (part.kind === 'regulator') add(part.pins[part.model.roles.indexOf('out')]);
    if (part.kind === 'chip')
      part.model.pins.forEach(({ role }, i) => role === 'supply' && add(part.pins[i]));
    if (part.kind === 'amplifier') {
      add(part.pins[part.model.positiveSupply - 1]);
      add(part.pins[part.model.negativeSupply - 1]);
    }
  }
  return fed;
}

/** Supplies that many take on: what hangs from them is drawn with a sign and not with a wire. */
export function railsOf(index: BoardIndex): ReadonlySet<string> {
  const nameOf = (net: string): string => index.netByKey.get(nameKey(net)) ?? net;
  const fed = fedNets(index, nameOf);
  return new Set([...fed].filter((net) => takersOf(index, net, nameOf) >= MANY_TAKERS));
}

/** A supply with fewer takers than this is drawn by wires: they can be followed. */
const MANY_TAKERS = 3;

/** How many parts take a supply on: not those that go from it to ground. */
function takersOf(index: BoardIndex, net: string, nameOf: (net: string) => string): number {
  const isTaker = ({ kind, pins }: Part): boolean =>
    !['voltageSource', 'connectorPin', 'fuse', 'regulator'].includes(kind) &&
    (pins.length > 2 || pins.every((pin) => nameOf(pin) !== GROUND));
  const parts = new Set((index.pinsOfNet.get(net) ?? []).map(({ part }) => part));
  return [...parts].filter(isTaker).length;
}
