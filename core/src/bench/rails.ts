import { GROUND, nameKey, type BoardIndex, type Part, type PartKind } from '../board';
import { CONTACT_OHM, isSource } from '../device';

/** Coils and resistors below this resistance count as part of a supply path, ohm. Common practice, no published source. */
const PATH_OHM = 5;
/** A net of the path with fewer pins is only a way through. */
const LEAST_PINS = 3;

/** Kinds that a rail feeds or that hold it up; a net with resistors alone is a signal. */
const FED: readonly PartKind[] = ['capacitor', 'diode', 'transistor', 'winding', 'unspecified', 'regulator'];

/** What a net of the supply path carries: plus or minus against ground, or alternating volts ahead of a rectifier. */
type Carries = 'plus' | 'minus' | 'alternating';

/** The supply rails of a board: nets fed by a source or a transformer through contacts, low-ohm coils and resistors, rectifiers, diodes and regulators, with
 *  something hanging on them. Named in board order. */
export function supplyRails(index: BoardIndex): readonly string[] {
  const found = supplyNets(index);
  const direct = index.nets.filter((net) => (found.get(nameKey(net)) ?? 'alternating') !== 'alternating');
  const rails = direct.filter((net) => {
    const pins = index.pinsOfNet.get(net) ?? [];
    return pins.length >= LEAST_PINS && pins.some(isFed);
  });
  return rails.length > 0 ? rails : direct;
}

/** Nets between a transformer's secondary and its rectifier, in board order: a shorted rectifier shows there. */
export function rectifierInputs(index: BoardIndex): readonly string[] {
  const found = supplyNets(index);
  return index.nets.filter((net) => found.get(nameKey(net)) === 'alternating' && index.pinsOfNet.get(net)!.some(({ part }) => part.kind === 'diode'));
}

function isFed({ part, index: pin }: { part: Part; index: number }): boolean {
  if (part.kind === 'chip') return ['supply', 'rail'].includes(part.model.pins[pin]!.role);
  if (part.kind === 'amplifier') return pin + 1 === part.model.positiveSupply || pin + 1 === part.model.negativeSupply;
  return FED.includes(part.kind);
}

function supplyNets(index: BoardIndex): ReadonlyMap<string, Carries> {
  const found = new Map<string, Carries>();
  const waiting = index.board.parts.flatMap(feeds);
  while (waiting.length > 0) {
    const [net, carries] = waiting.pop()!;
    if (net === GROUND || found.has(net)) continue;
    found.set(net, carries);
    for (const { part, index: pin } of index.pinsOfNet.get(index.netByKey.get(net)!) ?? []) waiting.push(...carriedOn(part, pin, carries));
  }
  return found;
}

/** Where power comes from: a source on ground, and a transformer's secondary. */
function feeds(part: Part): [string, Carries][] {
  const keys = part.pins.map(nameKey);
  if (part.kind === 'transformer') return [[keys[2]!, 'alternating'], [keys[3]!, 'alternating']]; // prettier-ignore
  if (!isSource(part) || part.kind !== 'voltageSource') return [];
  const plus: Carries = part.volt >= 0 ? 'plus' : 'minus';
  return [[keys[0]!, plus], [keys[1]!, plus === 'plus' ? 'minus' : 'plus']]; // prettier-ignore
}

/** The nets that a part carries a supply on to from its pin. */
function carriedOn(part: Part, pin: number, carries: Carries): [string, Carries][] {
  const keys = part.pins.map(nameKey);
  if (part.kind === 'diode') {
    // Forward only: from its anode what is above ground, to its cathode; what is below, the other way.
    const way: Carries = pin === 0 ? 'plus' : 'minus';
    return carries === way || carries === 'alternating' ? [[keys[1 - pin]!, way]] : [];
  }
  if (part.kind === 'regulator') {
    const { roles, polarity } = part.model;
    const isInput = roles[pin] === 'in';
    return isInput && carries !== 'alternating' ? [[keys[roles.indexOf('out')]!, polarity === 'positive' ? 'plus' : 'minus']] : [];
  }
  return leadsOn(part) ? keys.filter((_, other) => other !== pin).map((net) => [net, carries]) : [];
}

/** Contacts that are closed, coils and resistors of a few ohms. */
function leadsOn(part: Part): boolean {
  if (part.kind === 'switch') return part.rest === 'closed';
  if (part.kind === 'resistor') return part.resistanceOhm <= PATH_OHM;
  return part.kind in CONTACT_OHM || (part.kind === 'inductor' && (part.dcResistanceOhm ?? 0) <= PATH_OHM);
}
