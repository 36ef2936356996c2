import { GROUND, nameKey, type BoardIndex, type PartKind } from '../board';
import { CONTACT_OHM, isSource } from '../device';

/** Coils below this resistance count as part of a supply path, ohm. Common practice, no published source. */
const PATH_OHM = 5;
/** A net of the path with fewer pins is only a way through. */
const LEAST_PINS = 3;

/** Kinds that a rail feeds or that hold it up; a net with resistors alone is a signal. */
const FED: readonly PartKind[] = ['capacitor', 'diode', 'transistor', 'winding', 'unspecified'];

/** The supply rails of a board: nets that a source feeds through contacts and low-ohm coils, with something hanging on them. Named in board order. */
export function supplyRails(index: BoardIndex): readonly string[] {
  const found = new Set<string>();
  const waiting = index.board.parts.filter((part) => isSource(part) && part.kind === 'voltageSource').flatMap((part) => part.pins.map(nameKey)); // prettier-ignore
  while (waiting.length > 0) {
    const net = waiting.pop()!;
    if (net === GROUND || found.has(net)) continue;
    found.add(net);
    for (const { part } of index.pinsOfNet.get(index.netByKey.get(net)!) ?? []) {
      const path =
        part.kind in CONTACT_OHM ? part.kind !== 'switch' || part.rest === 'closed' : part.kind === 'inductor' && (part.dcResistanceOhm ?? 0) <= PATH_OHM;
      if (path) waiting.push(...part.pins.map(nameKey));
    }
  }
  const rails = index.nets.filter((net) => {
    const pins = index.pinsOfNet.get(net) ?? [];
    return found.has(nameKey(net)) && pins.length >= LEAST_PINS && pins.some(({ part }) => FED.includes(part.kind));
  });
  return rails.length > 0 ? rails : index.nets.filter((net) => found.has(nameKey(net)));
}
