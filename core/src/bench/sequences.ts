import {
  GROUND,
  isInsidePackage,
  nameKey,
  pinPoint,
  type BoardIndex,
  type Part,
  type Point,
} from '../board';
import { measurementKey, type Measurement } from '../instrument';
import { oncePer } from '../once-per';
import { supplyPath, supplyRails } from '../device';

/** Readings that people take as one, in their order. */
export interface Sequence {
  readonly name: string;
  readonly title: string;
  /** What to see to before it; empty where nothing. */
  readonly before: string;
  readonly measurements: readonly Measurement[];
}

/** A list longer than this is no longer taken as one. */
const MOST = 40;
const GROUND_POINT: Point = { net: GROUND };

/**
 * The ready sequences of a board: rails, the way of the supply, an idle bus, reset and clock, coils,
 * every element of an array. Those that it has nothing for are left out. Common practice, no
 * published source.
 */
export const sequencesOf = oncePer((index: BoardIndex): readonly Sequence[] => {
  const rails = supplyRails(index);
  const all: readonly Sequence[] = [
    {
      name: 'rails',
      title: 'rails, power on',
      before: '',
      measurements: rails.map((net) => volts(net)),
    },
    {
      name: 'rail-ohms',
      title: 'rails to ground, power off',
      before: 'power off, the stores empty',
      measurements: rails.map((net) => ohms({ net }, GROUND_POINT)),
    },
    {
      name: 'supply-path',
      title: 'the supply from plug to rail',
      before: '',
      measurements: supplyPath(index).map((net) => volts(net)),
    },
    {
      name: 'bus-idle',
      title: 'idle bus: every pulled-up line at 1',
      before: 'nothing attached to the bus',
      measurements: pulledUp(index).map((net) => level(net)),
    },
    {
      name: 'reset-clock',
      title: 'reset and clock',
      before: '',
      measurements: netsOfPins(index, RESET_OR_CLOCK).map((net) => level(net)),
    },
    ...coils(index),
    ...arrays(index),
  ];
  return all
    .map((one) => ({ ...one, measurements: apart(one.measurements).slice(0, MOST) }))
    .filter(({ measurements }) => measurements.length > 0);
});

const volts = (net: string): Measurement => ({
  setup: 'on',
  kind: 'voltage',
  at: { net },
  to: GROUND_POINT,
});
const level = (net: string): Measurement => ({ ...volts(net), kind: 'logic' });
const ohms = (at: Point, to: Point): Measurement => ({ setup: 'off', kind: 'resistance', at, to });

function apart(measurements: readonly Measurement[]): readonly Measurement[] {
  const seen = new Set<string>();
  return measurements.filter((m) => {
    const key = measurementKey(m);
    const isNew = !seen.has(key) && m.at.net !== m.to.net;
    seen.add(key);
    return isNew;
  });
}

/** Names of pins that reset a chip or clock it. */
const RESET_OR_CLOCK = /^(n?rst\d?|n?res(et)?|n?mr|n?clr|clk\w?|ck\w?|phi\d?|x(in|1)|osc\w?|e)$/i;

function netsOfPins({ board }: BoardIndex, name: RegExp): readonly string[] {
  return board.parts.flatMap((part) =>
    part.kind === 'chip'
      ? part.model.pins.flatMap((pin, i) =>
          pin.role === 'input' && name.test(pin.name) && nameKey(part.pins[i]!) !== GROUND
            ? [part.pins[i]!]
            : [],
        )
      : [],
  );
}

/** Nets that a resistor holds up and an output that only pulls down, or a plug, hangs on. */
function pulledUp(index: BoardIndex): readonly string[] {
  const rails = new Set(supplyRails(index).map(nameKey));
  return index.nets.filter((net) => {
    const key = nameKey(net);
    if (key === GROUND || rails.has(key)) return false;
    const on = index.pinsOfNet.get(net) ?? [];
    const held = on.some(
      ({ part }) =>
        part.kind === 'resistor' &&
        part.pins.some((other) => nameKey(other) !== key && rails.has(nameKey(other))),
    );
    return (
      held &&
      on.some(
        ({ part, index: pin }) =>
          part.kind === 'connectorPin' ||
          (part.kind === 'chip' && part.model.pins[pin]?.stage === 'openCollector'),
      )
    );
  });
}

/** Windings that hang together: ohms between every two of their ends. */
function coils({ board }: BoardIndex): readonly Sequence[] {
  const windings = board.parts.filter(({ kind }) => kind === 'winding');
  const left = new Set(windings);
  const found: Sequence[] = [];
  for (const first of windings) {
    if (!left.delete(first)) continue;
    const group: Part[] = [first];
    for (let at = 0; at < group.length; at += 1) {
      const own = group[at]!.pins.map(nameKey).filter((net) => net !== GROUND);
      for (const other of left)
        if (other.pins.some((net) => own.includes(nameKey(net)))) {
          left.delete(other);
          group.push(other);
        }
    }
    const ends = [
      ...new Map(group.flatMap(({ pins }) => pins).map((net) => [nameKey(net), net])).values(),
    ];
    const between = ends.flatMap((at, i) =>
      ends.slice(i + 1).map((to) => ohms({ net: at }, { net: to })),
    );
    const refs = group.map(({ ref }) => ref);
    found.push({
      name: `coils-${refs[0]!.toLowerCase()}`,
      title: `coils ${refs.join(', ')}: every end to every other`,
      before: 'power off, the plug of the coils off the board',
      measurements: between,
    });
  }
  return found;
}

/** Parts of several elements of two pins: each element alike. */
function arrays(index: BoardIndex): readonly Sequence[] {
  return [...index.replaceable].flatMap(([ref, elements]): Sequence[] => {
    const twoPins = elements.filter(
      (part) => (part.kind === 'resistor' || part.kind === 'diode') && !isInsidePackage(part.ref),
    );
    if (elements.length < 3 || twoPins.length < 3) return [];
    return [
      {
        name: `array-${ref.toLowerCase()}`,
        title: `every element of ${ref}`,
        before: 'power off',
        measurements: twoPins.map((part) => ({
          ...ohms(pinPoint(index, part, 0), pinPoint(index, part, 1)),
          kind: part.kind === 'diode' ? ('diode' as const) : ('resistance' as const),
        })),
      },
    ];
  });
}
