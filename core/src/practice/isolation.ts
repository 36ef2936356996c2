import { supplyRails } from '../device';
import { GROUND, type BoardIndex } from '../board';
import type { Diagnoser } from '../diagnosis';
import type { SingleHypothesis } from '../fault';
import { measurementKey, type Measurement, type Reading } from '../instrument';
import { candidateMeasurements, planNext } from '../plan';

/**
 * The true part, with those that no reading tells from it, has to have this much of the belief
 * before it counts as isolated.
 */
const ISOLATED = 0.9;

/**
 * Everything worth measuring in the order in which a careful beginner works through a board: rails,
 * supply path, ESR, the rest. Source: common practice, no published source.
 */
export function fixedOrder(index: BoardIndex): readonly Measurement[] {
  const rails = new Set(supplyRails(index));
  const rank = ({ kind, at, to, setup }: Measurement): number => {
    if (kind === 'voltage' && setup === 'on' && rails.has(at.net) && to.net === GROUND) return 0;
    if (kind === 'continuity') return 1;
    return kind === 'esr' ? 2 : 3;
  };
  const all = candidateMeasurements(index).filter(({ kind }) => kind !== 'symptom');
  return all
    .map((m, i) => ({ m, i }))
    .sort((a, b) => rank(a.m) - rank(b.m) || a.i - b.i)
    .map(({ m }) => m);
}

/**
 * How many readings it takes from these first ones until the fault is isolated, `choose` saying
 * what to measure next; `most` where it is not by then. A reading that shows nothing that can be
 * written down is not taken again. read: takes the reading off the bench. alike: the parts that
 * count as the true one.
 */
export function readingsToIsolate(
  diagnoser: Diagnoser,
  first: readonly Reading[],
  alike: ReadonlySet<string>,
  read: (m: Measurement) => Reading | undefined,
  choose: (
    readings: readonly Reading[],
    belief: ReturnType<Diagnoser['believe']>,
    unreadable: ReadonlySet<string>,
  ) => Measurement | undefined,
  most: number,
): number {
  const readings = [...first];
  const unreadable = new Set<string>();
  for (let taken = 0; taken < most; taken += 1) {
    const belief = diagnoser.believe(readings);
    if (
      belief.byPart.reduce(
        (sum, { ref, probability }) => sum + (alike.has(ref) ? probability : 0),
        0,
      ) >= ISOLATED
    )
      return taken;
    const m = choose(readings, belief, unreadable);
    const reading = m && read(m);
    if (!m) return most;
    if (reading) readings.push(reading);
    else unreadable.add(measurementKey(m));
  }
  return most;
}

/** The planner's choice, for `readingsToIsolate`. */
export function plannerChoice(diagnoser: Diagnoser): Parameters<typeof readingsToIsolate>[4] {
  return (readings, belief, unreadable) =>
    planNext(diagnoser, readings, belief).measurements.find(
      ({ kind, measurement }) => kind !== 'symptom' && !unreadable.has(measurementKey(measurement)),
    )?.measurement;
}

/** The fixed order's choice, for `readingsToIsolate`. */
export function fixedChoice(index: BoardIndex): Parameters<typeof readingsToIsolate>[4] {
  const order = fixedOrder(index);
  return (readings, _, unreadable) => {
    const taken = new Set(readings.map(({ measurement }) => measurementKey(measurement)));
    return order.find((m) => !taken.has(measurementKey(m)) && !unreadable.has(measurementKey(m)));
  };
}

/**
 * Parts that every reading shows as it shows this fault, to within a few deviations: nobody could
 * tell them apart without lifting a leg. severity: which of the fault's.
 */
export function indistinguishable(
  diagnoser: Diagnoser,
  truth: SingleHypothesis,
  severity: number,
  measurements: readonly Measurement[],
): ReadonlySet<string> {
  const seen = measurements.map((m) => diagnoser.predictor.at(truth, severity, m));
  const refs = new Set(truth.refs);
  for (const other of diagnoser.space.hypotheses) {
    if (other.refs.every((ref) => refs.has(ref))) continue;
    const same = other.severities.some((_, i) =>
      measurements.every((m, k) => {
        const [a, b] = [seen[k]!, diagnoser.predictor.at(other, i, m)];
        if (a.pulsing !== b.pulsing) return false;
        if (!Number.isFinite(a.value) || !Number.isFinite(b.value)) return a.value === b.value;
        return (
          Math.abs(a.value - b.value) <=
          2 * Math.max(a.spread, b.spread) +
            0.02 * Math.abs(a.value) +
            (m.kind === 'voltage' ? 0.02 : 0.1)
        );
      }),
    );
    if (same) other.refs.forEach((ref) => refs.add(ref));
  }
  return refs;
}
