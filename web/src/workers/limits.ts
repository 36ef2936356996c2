import { GROUND, nameKey, powerOf, type BoardIndex } from '@hanzai/core/board';
import { measurementKey, resolveMeasurement, type Measurement } from '@hanzai/core/instrument';
import { sidesOf } from '@hanzai/core/plan';
import type { Limits, Skipped } from './engine-messages';

/**
 * Whether a reading may be proposed: by what is at hand and allowed, and by what was skipped before
 * and why. minutesOfAccess: of opening up before it.
 */
export function allowedBy(
  index: BoardIndex,
  limits: Limits | undefined,
  skips: readonly Skipped[],
  minutesOfAccess: (m: Measurement) => number,
): (m: Measurement) => boolean {
  const rules = skips.map((skip) => ruleOf(index, skip));
  return (m) => {
    if (rules.some((forbids) => forbids(m))) return false;
    if (!limits) return true;
    const { kinds, power, side, open } = limits;
    if (!kinds.includes(m.kind)) return false;
    if (power !== 'any' && m.kind !== 'symptom' && powerOf(m.setup) !== power) return false;
    if (side !== 'any' && m.kind !== 'symptom' && !sidesOf(index, m).includes(side)) return false;
    return !open || minutesOfAccess(m) === 0;
  };
}

/** What a reading that was not taken says of others. */
function ruleOf(
  index: BoardIndex,
  { setup, kind, at, to, why }: Skipped,
): (m: Measurement) => boolean {
  const read = resolveMeasurement(index, setup, kind, at, to);
  if (!read.ok) return () => false;
  const own = read.measurement;
  const key = measurementKey(own);
  const nets = netsOf(own);
  switch (why) {
    case 'trust':
      return (m) => measurementKey(m) === key;
    case 'instrument':
      return (m) => m.kind === kind;
    // Somebody who does not want a probe there under power does not want another one there either.
    case 'unsafe':
      return (m) =>
        measurementKey(m) === key ||
        (powerOf(m.setup) === 'on' && netsOf(m).some((net) => nets.includes(net)));
    // Another pin of the net may be in reach, where pins were named.
    case 'reach':
      return (m) => measurementKey(m) === key || touchesSame(own, m);
  }
}

const netsOf = ({ kind, at, to }: Measurement): readonly string[] =>
  kind === 'symptom' ? [] : [at.net, to.net].map(nameKey).filter((net) => net !== GROUND);

/** Whether two readings need a probe at the same pin, or at a net that was named as a whole. */
function touchesSame(one: Measurement, other: Measurement): boolean {
  if (one.kind === 'symptom' || other.kind === 'symptom') return false;
  const points = (m: Measurement) => [m.at, m.to].filter(({ net }) => nameKey(net) !== GROUND);
  return points(one).some((a) =>
    points(other).some((b) => {
      if (nameKey(a.net) !== nameKey(b.net)) return false;
      return !a.pin || !b.pin || (a.pin.part === b.pin.part && a.pin.index === b.pin.index);
    }),
  );
}
