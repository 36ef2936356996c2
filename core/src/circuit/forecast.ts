import { switchedDrops } from './characteristic-table';
import { DRIVE, type Network } from './network';
import { oncePer } from '../once-per';

/**
 * Guesses at what a circuit will come to, which spare rounds and steps. A search confirms or
 * corrects them.
 */

/** What counts as a pull-up, siemens, and what its supply has to have, volt. */
const PULL_UP_SIEMENS = 1e-5;
const PULLING_VOLT = 3;

/**
 * The supply that each node is pulled up to through a resistor, where nothing else conducts from it
 * to ground.
 */
const pullUps = oncePer(
  ({ chips, conductances }: Network): ReadonlyMap<number, number> => {
    const rails = new Set(chips.map(({ supply }) => supply));
    const found = new Map<number, number>();
    const pulledDown = new Set<number>();
    for (const { a, b, siemens } of conductances) {
      for (const [node, other] of [
        [a, b],
        [b, a],
      ] as const) {
        if (node < 0 || rails.has(node) || siemens < PULL_UP_SIEMENS) continue;
        if (rails.has(other)) found.set(node, other);
        else if (other < 0) pulledDown.add(node);
      }
    }
    for (const node of pulledDown) found.delete(node);
    return found;
  },
  ({ nodeIndex }) => nodeIndex,
);

/**
 * Whether a node that nothing drives will go high: a resistor pulls it to a supply that is there in
 * every phase.
 */
export function isPulledUp(
  network: Network,
  node: number,
  phases: readonly Float64Array[],
): boolean {
  const rail = pullUps(network).get(node);
  return rail !== undefined && phases.every((x) => x[rail]! > PULLING_VOLT);
}

/**
 * A start for the circuit with its drivers in other states than at x: each node that a driver now
 * switches begins at that driver's level. Most of them get their way.
 */
export function atNewLevels(
  network: Network,
  drives: Uint8Array,
  before: Uint8Array | undefined,
  x: Float64Array,
): Float64Array {
  if (!before) return x;
  const start = Float64Array.from(x);
  switchedDrops(network, drives, (a, b, dropVolt, driver, when) => {
    if (drives[driver] === before[driver]) return;
    const [node, from] = when === DRIVE.low ? [a, b] : [b, a];
    if (node >= 0)
      start[node] = (from < 0 ? 0 : start[from]!) + (when === DRIVE.low ? dropVolt : -dropVolt);
  });
  return start;
}

/**
 * What nodes go by in both phases of a board alike: a node whose phases are further apart has its
 * own level in each, volt.
 */
const SAME_VOLT = 0.1;
/** A driven node this little above what its stage gives has its rail to follow, volt. */
const FOLLOWS_VOLT = 0.3;
/** So far below that it conducts for sure, volt. */
const CONDUCTING_VOLT = 1e-5;

/**
 * A start for the second phase of a board whose first phase went from `before` to `after`: the
 * second goes along, but for nodes at different levels in the two, which keep theirs and follow
 * their rail. drives: states of the drivers in the second phase.
 */
export function inStep(
  network: Network,
  drives: Uint8Array,
  before: Float64Array | undefined,
  after: Float64Array | undefined,
  second: Float64Array | undefined,
): Float64Array | undefined {
  if (!before || !after || !second || after === second) return second;
  const start = Float64Array.from(second);
  for (let i = 0; i < start.length; i += 1)
    if (Math.abs(second[i]! - before[i]!) < SAME_VOLT)
      start[i] = second[i]! + after[i]! - before[i]!;
  switchedDrops(network, drives, (a, b, dropVolt, _driver, _when, twoWay) => {
    if (a < 0 || b < 0 || twoWay === 1) return;
    const given = start[a]! - dropVolt - CONDUCTING_VOLT;
    if (start[b]! > given && start[b]! < given + FOLLOWS_VOLT) start[b] = given;
  });
  return start;
}
