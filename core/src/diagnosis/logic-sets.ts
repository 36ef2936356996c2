import { nameKey, replaceableRef, type BoardIndex, type Part } from '../board';
import { parseFault, type FaultState } from '../fault';
import { BenchState, logicLevel, type Reading } from '../instrument';

/** Outputs that a set of parts may drive at will: beyond this the ways are too many to try. */
const MOST_FREE_OUTPUTS = 12;

/**
 * Every smallest set of components that, driving their outputs to some levels or other, explains
 * the logic readings, everything else being sound: the minimal diagnoses. components: refs of the
 * chips that make up each; most: size of the largest set tried. A set that would need more than
 * 2^12 trials is left out.
 * Source: R. Reiter, "A theory of diagnosis from first principles", Artificial Intelligence 32,
 * 1987.
 */
export function minimalDiagnoses(
  index: BoardIndex,
  readings: readonly Reading[],
  components: readonly (readonly string[])[],
  most = 2,
): number[][] {
  if (explains(index, readings, [])) return [[]];
  const found: number[][] = [];
  for (const set of subsets(components.length, most)) {
    if (found.some((smaller) => smaller.every((i) => set.includes(i)))) continue;
    if (
      someLevelsExplain(index, readings, new Set(set.flatMap((i) => components[i]!.map(nameKey))))
    )
      found.push(set);
  }
  return found;
}

/**
 * The smallest sets of which each shares a member with every set given: what minimal conflicts are
 * to minimal diagnoses, and the other way round. Source: as above.
 */
export function minimalHittingSets(sets: readonly (readonly number[])[]): number[][] {
  let partial: number[][] = [[]];
  for (const set of sets) {
    const next = partial.flatMap((one) =>
      one.some((i) => set.includes(i)) ? [one] : set.map((i) => [...one, i].sort((a, b) => a - b)),
    );
    partial = next.filter(
      (one, at) =>
        !next.some(
          (other, k) =>
            other.every((i) => one.includes(i)) && (other.length < one.length || k < at),
        ),
    );
  }
  return partial;
}

/** Sets of indices below `count`, small ones first. */
function subsets(count: number, most: number): number[][] {
  const bySize: number[][][] = [[[]]];
  for (let size = 1; size <= most; size += 1) {
    bySize.push(
      bySize[size - 1]!.flatMap((set) =>
        Array.from({ length: count }, (_, i) => i)
          .filter((i) => i > (set.at(-1) ?? -1))
          .map((i) => [...set, i]),
      ),
    );
  }
  return bySize.slice(1).flat();
}

function someLevelsExplain(
  index: BoardIndex,
  readings: readonly Reading[],
  refs: ReadonlySet<string>,
): boolean {
  const free = freeOutputs(
    index,
    refs,
    new Set(readings.map(({ measurement }) => measurement.at.net)),
  );
  if (free.length > MOST_FREE_OUTPUTS) return false;
  for (let levels = 0; levels < 2 ** free.length; levels += 1) {
    if (
      explains(
        index,
        readings,
        free.map((pin, bit) => stuck(index, pin, (levels >> bit) & 1)),
      )
    )
      return true;
  }
  return false;
}

/**
 * Output pins of these chips whose level shows: something outside of them sees the net, or it was
 * read.
 */
function freeOutputs(
  index: BoardIndex,
  refs: ReadonlySet<string>,
  read: ReadonlySet<string>,
): string[] {
  const isOwn = (part: Part): boolean => refs.has(nameKey(replaceableRef(part.ref)));
  return index.board.parts.flatMap((part) => {
    if (part.kind !== 'chip' || !isOwn(part)) return [];
    return part.pins.flatMap((net, pin) => {
      const outside =
        read.has(net) || (index.pinsOfNet.get(net) ?? []).some((other) => !isOwn(other.part));
      return part.model.pins[pin]?.role === 'output' && outside ? [`${part.ref}.${pin + 1}`] : [];
    });
  });
}

function stuck(index: BoardIndex, pin: string, level: number): FaultState {
  const parsed = parseFault(index, `${pin}:stuck-${level}`);
  if (!parsed.ok) throw new Error(parsed.what);
  return { fault: parsed.fault };
}

function explains(
  index: BoardIndex,
  readings: readonly Reading[],
  faults: readonly FaultState[],
): boolean {
  const states = new Map<string, BenchState>();
  return readings.every(({ measurement: m, value }) => {
    let own = states.get(m.setup);
    if (!own)
      states.set(m.setup, (own = new BenchState(index, { setup: m.setup, faults, absent: [] })));
    const response = own.respond(m);
    if ('ok' in response || response.unknown) return true;
    return (response.pulsing ? 'P' : logicLevel(response.value)) === value;
  });
}
