import {
  GROUND,
  isInsidePackage,
  nameKey,
  pinsOn,
  type BoardIndex,
  type Part,
  type PartKind,
} from '../board';
import { CONTACT_OHM } from './contacts';
import { isSource } from './registry';

/**
 * Coils and resistors below this resistance count as part of a supply path, ohm. Common practice,
 * no published source.
 */
const PATH_OHM = 5;

/** Sources below this are no supplies, volt. From memory of bench practice. */
const LEAST_SUPPLY_VOLT = 2;

/** Kinds that a rail feeds or that hold it up; a net with resistors alone is a signal. */
const FED: readonly PartKind[] = [
  'capacitor',
  'diode',
  'transistor',
  'winding',
  'unspecified',
  'regulator',
];

/**
 * What a net of the supply path carries: plus or minus against ground, or alternating volts ahead
 * of a rectifier.
 */
type Carries = 'plus' | 'minus' | 'alternating';

/**
 * The supply rails of a board: nets fed by a source or a transformer through contacts, low-ohm
 * coils and resistors, rectifiers, diodes and regulators, with something hanging on them. Named in
 * board order.
 */
export function supplyRails(index: BoardIndex): readonly string[] {
  const found = supplyNets(index);
  const direct = index.nets.filter(
    (net) => (found.get(nameKey(net)) ?? 'alternating') !== 'alternating',
  );
  const rails = direct.filter((net) => index.pinsOfNet.get(net)!.some(isFed));
  return rails.length > 0 ? rails : direct;
}

/**
 * Nets between a transformer's secondary and its rectifier, in board order: a shorted rectifier
 * shows there.
 */
export function rectifierInputs(index: BoardIndex): readonly string[] {
  const found = supplyNets(index);
  return index.nets.filter(
    (net) =>
      found.get(nameKey(net)) === 'alternating' &&
      index.pinsOfNet.get(net)!.some(({ part }) => part.kind === 'diode'),
  );
}

/** The nets of the supply in the order in which current comes to them from the plug, nearest first. */
export function supplyPath(index: BoardIndex): readonly string[] {
  const found = new Map<string, Carries>();
  let edge = index.board.parts.flatMap(feeds);
  while (edge.length > 0) {
    const next: [string, Carries][] = [];
    for (const [net, carries] of edge) {
      if (net === GROUND || found.has(net)) continue;
      found.set(net, carries);
      for (const { part, index: pin } of pinsOn(index, net))
        next.push(...carriedOn(index, part, pin, carries));
    }
    edge = next;
  }
  return [...found]
    .filter(([, carries]) => carries !== 'alternating')
    .map(([key]) => index.netByKey.get(key)!);
}

function isFed({ part, index: pin }: { part: Part; index: number }): boolean {
  if (part.kind === 'chip') return ['supply', 'rail'].includes(part.model.pins[pin]!.role);
  if (part.kind === 'amplifier')
    return pin + 1 === part.model.positiveSupply || pin + 1 === part.model.negativeSupply;
  return FED.includes(part.kind);
}

function supplyNets(index: BoardIndex): ReadonlyMap<string, Carries> {
  const found = new Map<string, Carries>();
  const waiting = index.board.parts.flatMap(feeds);
  while (waiting.length > 0) {
    const [net, carries] = waiting.pop()!;
    if (net === GROUND || found.has(net)) continue;
    found.set(net, carries);
    for (const { part, index: pin } of pinsOn(index, net))
      waiting.push(...carriedOn(index, part, pin, carries));
  }
  return found;
}

/** Where power comes from: a source on ground, and a transformer's secondary. */
function feeds(part: Part): [string, Carries][] {
  const keys = part.pins.map(nameKey);
  if (part.kind === 'transformer')
    return [
      [keys[2]!, 'alternating'],
      [keys[3]!, 'alternating'],
    ];
  // A few tenths of a volt are a level that something outside holds, not a supply.
  if (!isSource(part) || part.kind !== 'voltageSource' || Math.abs(part.volt) < LEAST_SUPPLY_VOLT)
    return [];
  const plus: Carries = part.volt >= 0 ? 'plus' : 'minus';
  return [
    [keys[0]!, plus],
    [keys[1]!, plus === 'plus' ? 'minus' : 'plus'],
  ];
}

/** The nets that a part carries a supply on to from its pin. */
function carriedOn(
  index: BoardIndex,
  part: Part,
  pin: number,
  carries: Carries,
): [string, Carries][] {
  const keys = part.pins.map(nameKey);
  if (part.kind === 'diode') {
    // Forward only: from its anode what is above ground, to its cathode; what is below, the other
    // way.
    const way: Carries = pin === 0 ? 'plus' : 'minus';
    const far = keys[1 - pin]!;
    return (carries === way || carries === 'alternating') && hasReservoir(index, far)
      ? [[far, way]]
      : [];
  }
  if (part.kind === 'regulator') {
    const { roles, polarity } = part.model;
    const isInput = roles[pin] === 'in';
    return isInput && carries !== 'alternating'
      ? [[keys[roles.indexOf('out')]!, polarity === 'positive' ? 'plus' : 'minus']]
      : [];
  }
  if (part.kind === 'transistor') {
    // A pass or switch transistor: what lies behind it is a rail where a reservoir stands on it.
    const far = carries === 'alternating' || pin === 1 ? undefined : keys[2 - pin];
    return far !== undefined && hasReservoir(index, far) ? [[far, carries]] : [];
  }
  // Through a few ohms, where a reservoir stands behind them: a sense or filter resistor.
  if (part.kind === 'resistor') {
    const far = keys[1 - pin]!;
    return part.resistanceOhm <= PATH_OHM && !isInsidePackage(part.ref) && hasReservoir(index, far)
      ? [[far, carries]]
      : [];
  }
  return leadsOn(part) ? keys.filter((_, other) => other !== pin).map((net) => [net, carries]) : [];
}

/**
 * From this value on a capacitor to ground keeps a rail up, farad. Common practice, no published
 * source.
 */
const RESERVOIR_FARAD = 1e-6;

function hasReservoir(index: BoardIndex, net: string): boolean {
  return index.pinsOfNet
    .get(index.netByKey.get(net)!)!
    .some(
      ({ part }) =>
        part.kind === 'capacitor' &&
        part.capacitanceFarad >= RESERVOIR_FARAD &&
        part.pins.some((other) => nameKey(other) === GROUND),
    );
}

/** Contacts that are closed, coils of a few ohms. */
function leadsOn(part: Part): boolean {
  if (part.kind === 'switch') return part.rest === 'closed';
  return (
    part.kind in CONTACT_OHM ||
    (part.kind === 'inductor' && (part.dcResistanceOhm ?? 0) <= PATH_OHM)
  );
}
