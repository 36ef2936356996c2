import { GROUND, nameKey, type BoardIndex, type Part } from '../board';
import { isSource } from '../device';
import type { Reading } from '../instrument';

/** The net on the side of a fuse that the supply does not reach when the fuse is out. Undefined where both or neither are reached. */
export function fuseLoadSide(index: BoardIndex, fuse: Part): string | undefined {
  const reached = new Set<string>();
  const waiting = index.board.parts.filter(isSource).flatMap((part) => part.pins.map(nameKey)).filter((net) => net !== GROUND); // prettier-ignore
  while (waiting.length > 0) {
    const net = waiting.pop()!;
    if (reached.has(net)) continue;
    reached.add(net);
    for (const { part } of index.pinsOfNet.get(index.netByKey.get(net)!) ?? []) {
      if (part === fuse || !leadsOn(part)) continue;
      waiting.push(...part.pins.map(nameKey).filter((other) => other !== GROUND));
    }
  }
  const far = fuse.pins.filter((net) => !reached.has(nameKey(net)));
  return far.length === 1 ? index.netByKey.get(nameKey(far[0]!)) : undefined;
}

/** Parts through which a supply path leads: contacts and coils. What hangs beside the path does not carry it on. */
function leadsOn(part: Part): boolean {
  return part.kind === 'fuse' || part.kind === 'switch' || part.kind === 'connectorPin' || part.kind === 'link' || part.kind === 'inductor';
}

/** Before a fuse is ticked as replaced, the ohms from its load side to ground must have been read: a fuse blows for a reason.
 *  Returns undefined where that is done, else the net to measure. */
export function fuseGate(index: BoardIndex, fuse: Part, readings: readonly Reading[]): { readonly measure: string } | undefined {
  if (fuse.kind !== 'fuse') return undefined;
  const side = fuseLoadSide(index, fuse);
  const sides = (side === undefined ? fuse.pins : [side]).map(nameKey);
  const done = readings.some(({ measurement: m }) => {
    if (m.kind !== 'resistance') return false;
    const ends = [nameKey(m.at.net), nameKey(m.to.net)];
    return ends.includes(GROUND) && ends.some((end) => sides.includes(end));
  });
  return done ? undefined : { measure: index.netByKey.get(sides[0]!) ?? fuse.pins[0]! };
}
