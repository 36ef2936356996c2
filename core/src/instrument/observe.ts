import type { BoardIndex, Observable } from '../board';
import { findPoint, nameKey } from '../board';
import { across, diodeCurrent, nodeOf, type Network } from '../circuit';
import { normalBelow } from '../quantity';
import { STANDARD_METER as METER } from './meter';

/**
 * How sharply a person can say that a quantity is past its limit: a share of the limit with a floor
 * in
 * its unit, but never more than a share of the window between two limits. From memory of bench
 * practice.
 */
const SHARPNESS = { share: 0.05, volt: 0.05, ampere: 2e-4, ofWindow: 0.1 } as const;

type Clause = Observable['when'][number];

/**
 * Chance that what the observable says is true on the circuit at these phases, 0 to 1. elementsOf:
 * positions of a part's elements, for currents. Where a clause speaks of a net or part that the
 * board does not have, it is not true.
 */
export function chanceSeen(
  index: BoardIndex,
  observable: Observable,
  network: Network,
  phases: readonly Float64Array[],
  ownedBy: (ref: string) => ReadonlySet<unknown>,
): number {
  return observable.when.reduce(
    (chance, clause) => chance * clauseChance(index, clause, network, phases, ownedBy),
    1,
  );
}

function clauseChance(
  index: BoardIndex,
  clause: Clause,
  network: Network,
  phases: readonly Float64Array[],
  ownedBy: (ref: string) => ReadonlySet<unknown>,
): number {
  if (clause.type === 'ampere') {
    const part = index.partByKey.get(nameKey(clause.ref));
    if (!part) return 0;
    const own = ownedBy(part.ref);
    const ampere = average(phases, (x) => currentThrough(network, x, own));
    return within(Math.abs(ampere), clause.least, clause.most, SHARPNESS.ampere);
  }
  const node = (text: string | undefined): number | undefined => {
    const point = findPoint(index, text ?? '');
    return point && nodeOf(network, point.net);
  };
  if (clause.type === 'level') {
    const at = node(clause.at);
    if (at === undefined) return 0;
    const levels = phases.map((x) => levelOf(across(x, at, -1)));
    const level =
      levels.length > 1 && levels.includes('0') && levels.includes('1') ? 'P' : levels[0]!;
    return clause.is.includes(level) ? 1 : 0;
  }
  const [at, to] = [node(clause.at), node(clause.to)];
  if (at === undefined || to === undefined) return 0;
  const volt = average(phases, (x) => across(x, at, to));
  return within(
    clause.magnitude ? Math.abs(volt) : volt,
    clause.least,
    clause.most,
    SHARPNESS.volt,
  );
}

function levelOf(volt: number): '0' | '1' | 'Z' {
  return volt < METER.logicLowVolt ? '0' : volt > METER.logicHighVolt ? '1' : 'Z';
}

function average(phases: readonly Float64Array[], quantity: (x: Float64Array) => number): number {
  return phases.reduce((sum, x) => sum + quantity(x), 0) / phases.length;
}

function within(
  value: number,
  least: number | undefined,
  most: number | undefined,
  floor: number,
): number {
  const room =
    least !== undefined && most !== undefined ? SHARPNESS.ofWindow * (most - least) : Infinity;
  const sigma = (limit: number): number =>
    Math.min(room, floor + SHARPNESS.share * Math.abs(limit));
  const above = least === undefined ? 1 : normalBelow((value - least) / sigma(least));
  const below = most === undefined ? 1 : normalBelow((most - value) / sigma(most));
  return above * below;
}

const out = new Float64Array(2);

/**
 * Amperes through a two-pin part from its first pin: the sum over its elements that conduct between
 * its ends.
 */
function currentThrough(network: Network, x: Float64Array, own: ReadonlySet<unknown>): number {
  let total = 0;
  for (const { element, a, b, siemens } of network.conductances)
    if (own.has(element)) total += siemens * across(x, a, b);
  for (const { element, a, b } of network.junctions) {
    if (!own.has(element)) continue;
    diodeCurrent(across(x, a, b), element.model, out);
    total += out[0]!;
  }
  for (const { element, row } of network.branches) if (own.has(element)) total += x[row]!;
  return total;
}
