import { GROUND, nameKey, powerOf, type BoardIndex } from '../board';
import { supplyPath, supplyRails } from '../device';
import type { Measurement, Reading } from '../instrument';

/** A supply that reads as shorted: power would only burn what is in its way. */
export interface ShortedRail {
  readonly net: string;
  readonly ohm: number;
  /** What a sound board shows there. */
  readonly soundOhm: number;
}

/**
 * A rail of so few ohms is taken for shorted where a sound one has five times as many and more. Common
 * practice, no published source: ohms from the rails to ground come before any power.
 */
const SHORT_OHM = 20;
const SHORT_SHARE = 0.2;

/**
 * The supply rail with the fewest ohms to ground that reads as shorted, power off; undefined where none
 * does. sound: what a good board shows, ohms.
 */
export function shortedRail(
  index: BoardIndex,
  readings: readonly Reading[],
  sound: (m: Measurement) => number,
): ShortedRail | undefined {
  const sources = index.board.parts.flatMap((part) =>
    part.kind === 'voltageSource' ? part.pins : [],
  );
  const rails = new Set([...supplyPath(index), ...supplyRails(index), ...sources].map(nameKey));
  const found = readings.flatMap(({ measurement: m, value }): ShortedRail[] => {
    if (m.kind !== 'resistance' || powerOf(m.setup) !== 'off') return [];
    if (typeof value !== 'number' || value >= SHORT_OHM) return [];
    const nets = [m.at.net, m.to.net];
    const net = nets.find((one) => one !== GROUND && rails.has(nameKey(one)));
    if (net === undefined || !nets.includes(GROUND)) return [];
    const soundOhm = sound(m);
    return value < SHORT_SHARE * soundOhm ? [{ net, ohm: value, soundOhm }] : [];
  });
  return found.sort((a, b) => a.ohm - b.ohm)[0];
}
