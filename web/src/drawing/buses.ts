import type { Drawn, DrawnPin } from './drawn';

/** Fewer lines than this are drawn one by one. */
const LEAST_LINES = 4;

/** What the nets of a bus are called before their number: `D` of `D0`, `/A` of `/A12`. */
function familyOf(net: string): string | undefined {
  return /^(.*\D)\d+$/.exec(net)?.[1];
}

const numberOf = (net: string): number => Number(/\d+$/.exec(net)![0]);

/** `D0…D7` for the lines of one bus. */
export function busName(nets: readonly string[]): string {
  const sorted = [...nets].sort((a, b) => numberOf(a) - numberOf(b));
  return `${sorted[0]}…${sorted.at(-1)}`;
}

/**
 * Boxes with the numbered lines at one of their sides bundled: four or more of one name enter one
 * thick line. What a mark is on stays by itself.
 */
export function withBuses(drawn: readonly Drawn[], marked: ReadonlySet<string>): readonly Drawn[] {
  return drawn.map((one) =>
    one.form !== 'block' || one.symbol !== 'box' ? one : { ...one, pins: bundle(one.pins, marked) },
  );
}

function bundle(pins: readonly DrawnPin[], marked: ReadonlySet<string>): readonly DrawnPin[] {
  const groups = new Map<string, DrawnPin[]>();
  const groupOf = (pin: DrawnPin): string | undefined => {
    const family = pin.by === 'wire' && !marked.has(pin.net) ? familyOf(pin.net) : undefined;
    return family === undefined ? undefined : `${pin.side} ${family}`;
  };
  for (const pin of pins) {
    const group = groupOf(pin);
    if (group !== undefined) groups.set(group, [...(groups.get(group) ?? []), pin]);
  }
  const placed = new Set<string>();
  return pins.flatMap((pin): readonly DrawnPin[] => {
    const group = groupOf(pin);
    const members = group === undefined ? [] : groups.get(group)!;
    if (new Set(members.map(({ net }) => net)).size < LEAST_LINES) return [pin];
    // The lines of a bus stand together, at the place of the first.
    if (placed.has(group!)) return [];
    placed.add(group!);
    return members
      .toSorted((a, b) => numberOf(a.net) - numberOf(b.net))
      .map((member) => ({ ...member, by: 'bus', bus: familyOf(member.net)! }));
  });
}

/** One entry of a bus into a box: the places of its pins. */
export interface BusEntry {
  readonly bus: string;
  readonly side: DrawnPin['side'];
  readonly pins: readonly number[];
}

export function busEntries(pins: readonly DrawnPin[]): readonly BusEntry[] {
  const entries = new Map<string, { bus: string; side: DrawnPin['side']; pins: number[] }>();
  pins.forEach(({ by, bus, side }, i) => {
    if (by !== 'bus' || bus === undefined) return;
    const key = `${side} ${bus}`;
    const entry = entries.get(key) ?? { bus, side, pins: [] };
    entry.pins.push(i);
    entries.set(key, entry);
  });
  return [...entries.values()];
}
