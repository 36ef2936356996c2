import { GROUND, isBusyNet, nameKey, pinsOn, type BoardIndex } from '../board';
import type { SingleHypothesis } from '../fault';
import type { Measurement } from '../instrument';

/** A step across a net on which much hangs counts so many more. */
const BUSY_STEPS = 3;
/** Each step away makes a fault so many nats less worth looking at first. */
const NATS_A_STEP = 1.5;

/**
 * Positions of single faults in the order in which they are worth looking at for one reading:
 * likely ones near its points first.
 */
export function nearestFirst(
  index: BoardIndex,
  singles: readonly SingleHypothesis[],
  { at, to }: Measurement,
): readonly number[] {
  const steps = stepsFrom(index, [at.net, to.net]);
  const far = Math.max(...steps.values(), 0) + 1;
  const worth = singles.map(
    ({ fault, prior }) =>
      Math.log(prior) -
      NATS_A_STEP * Math.min(...netsOfFault(fault).map((net) => steps.get(nameKey(net)) ?? far)),
  );
  return [...singles.keys()].sort((a, b) => worth[b]! - worth[a]!);
}

/** Nets that a fault touches. */
export function netsOfFault(fault: SingleHypothesis['fault']): readonly string[] {
  if (fault.type === 'bridge') return fault.nets;
  if (fault.type === 'cut') return [fault.net];
  if (fault.type === 'dry') return [fault.pin.net, ...fault.pin.part.pins];
  return fault.mode.pin === undefined ? fault.part.pins : [fault.part.pins[fault.mode.pin]!];
}

/** Steps over parts from these nets to every other, ground left out. */
function stepsFrom(index: BoardIndex, start: readonly string[]): ReadonlyMap<string, number> {
  const found = new Map(start.map((net) => [nameKey(net), 0]));
  found.delete(GROUND);
  let border = [...found.keys()];
  for (let step = 1; border.length > 0; step += 1) {
    const next: string[] = [];
    for (const net of border) {
      const cost = isBusyNet(index, net) ? step + BUSY_STEPS : step;
      for (const other of pinsOn(index, net).flatMap(({ part }) => part.pins.map(nameKey))) {
        if (other === GROUND || found.has(other)) continue;
        found.set(other, cost);
        next.push(other);
      }
    }
    border = next;
  }
  return found;
}
