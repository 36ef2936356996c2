import { netsOf, type Drawn } from './drawn';

/** Of a package of gates those alone that another symbol or a mark is on; one where there is none. */
export function withoutIdleGates(
  all: readonly Drawn[],
  marked: ReadonlySet<string>,
): readonly Drawn[] {
  const isBusy = (one: Drawn): boolean =>
    netsOf(one).some(
      (net) => marked.has(net) || all.some((other) => other !== one && netsOf(other).includes(net)),
    );
  const busy = new Set(all.filter(isBusy).map(({ ref }) => ref));
  const shown = new Set<string>();
  return all.filter((one) => {
    if (one.form !== 'block' || one.symbol !== 'gate' || isBusy(one)) return true;
    const isFirst = !busy.has(one.ref) && !shown.has(one.ref);
    shown.add(one.ref);
    return isFirst;
  });
}

/** A part with more wires than this is drawn with those alone that another symbol or a mark is on. */
const MANY_WIRES = 5;

export function withoutIdlePins(
  one: Drawn,
  all: readonly Drawn[],
  marked: ReadonlySet<string>,
): Drawn {
  if (one.form !== 'block') return one;
  const wires = one.pins.filter(({ by }) => by === 'wire');
  if (wires.length <= MANY_WIRES) return one;
  const others = new Set(all.filter((other) => other !== one).flatMap(netsOf));
  const busy = wires.filter(({ net }) => marked.has(net) || others.has(net));
  const kept = busy.length > 0 ? busy : wires.slice(0, MANY_WIRES);
  const nets = new Set(kept.map(({ net }) => net));
  return {
    ...one,
    pins: one.pins.filter((pin) => pin.by === 'wire' && nets.has(pin.net)),
    left: new Set(wires.map(({ net }) => net)).size - nets.size,
  };
}
