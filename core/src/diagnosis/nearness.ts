import { GROUND, nameKey, type BoardIndex, type Part } from '../board';
import type { SingleHypothesis } from '../fault';
import type { Measurement } from '../instrument';

/** A net with more pins than this is a rail: over it everything is a neighbour, so that a step across it counts more. */
const RAIL = { pins: 12, steps: 3 } as const;
/** Each step away makes a fault so many nats less worth looking at first. */
const NATS_A_STEP = 1.5;

/** Positions of single faults in the order in which they are worth looking at for one reading: likely ones near its points first. */
export function nearestFirst(index: BoardIndex, singles: readonly SingleHypothesis[], { at, to }: Measurement): readonly number[] {
  const steps = stepsFrom(index, [at.net, to.net]);
  const far = Math.max(...steps.values(), 0) + 1;
  const worth = singles.map(({ fault, prior }) => Math.log(prior) - NATS_A_STEP * Math.min(...netsOf(fault).map((net) => steps.get(nameKey(net)) ?? far)));
  return [...singles.keys()].sort((a, b) => worth[b]! - worth[a]!);
}

function netsOf(fault: SingleHypothesis['fault']): readonly string[] {
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
      const places = index.pinsOfNet.get(index.netByKey.get(net) ?? '') ?? [];
      const cost = places.length > RAIL.pins ? step + RAIL.steps : step;
      for (const other of places.flatMap(({ part }: { part: Part }) => part.pins.map(nameKey))) {
        if (other === GROUND || found.has(other)) continue;
        found.set(other, cost);
        next.push(other);
      }
    }
    border = next;
  }
  return found;
}
