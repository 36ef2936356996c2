import { GROUND, nameKey, pinName, type BoardIndex, type Part, type PinPlace } from '../board';

/** Something on a net that could hold it at a level. */
export interface Holder {
  readonly ref: string;
  readonly pin: string;
  readonly how: 'output' | 'open collector' | 'input' | 'to ground' | 'to a supply' | 'outside';
}

/** How likely each kind of party is to be the one, most first. Common practice, no published source. */
const ORDER: readonly Holder['how'][] = [
  'output',
  'open collector',
  'outside',
  'to ground',
  'to a supply',
  'input',
];

/**
 * Who can hold a line: outputs, those that only pull down, what lies from it to ground or to a
 * supply, the other side of a plug, and inputs that are short inside. rails: nets of supplies.
 */
export function lineHolders(
  index: BoardIndex,
  net: string,
  rails: readonly string[],
): readonly Holder[] {
  const key = nameKey(net);
  const supplies = new Set(rails.map(nameKey));
  const found = (index.pinsOfNet.get(index.netByKey.get(key) ?? net) ?? []).flatMap(
    (place): Holder[] => {
      const how = howOf(place, key, supplies);
      return how ? [{ ref: place.part.ref, pin: pinName(place.part, place.index), how }] : [];
    },
  );
  return found.sort((a, b) => ORDER.indexOf(a.how) - ORDER.indexOf(b.how));
}

function howOf(
  { part, index: pin }: PinPlace,
  key: string,
  supplies: ReadonlySet<string>,
): Holder['how'] | undefined {
  if (part.kind === 'chip') {
    const { role, stage } = part.model.pins[pin]!;
    if (role === 'output' || role === 'both')
      return stage === 'openCollector' ? 'open collector' : 'output';
    return role === 'input' || role === 'plus' || role === 'minus' ? 'input' : undefined;
  }
  if (part.kind === 'connectorPin') return 'outside';
  if (part.kind === 'amplifier') return pin === part.pins.length - 1 ? 'output' : 'input';
  const others = othersOf(part, key);
  if (others.includes(GROUND)) return 'to ground';
  if (others.some((net) => supplies.has(net))) return 'to a supply';
  return part.kind === 'transistor' ? 'output' : undefined;
}

const othersOf = (part: Part, key: string): readonly string[] =>
  part.pins.map(nameKey).filter((net) => net !== key);
