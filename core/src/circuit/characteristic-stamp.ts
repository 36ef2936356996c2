import {
  evaluateCharacteristic,
  FLOAT_OHM,
  LIMITED_SLOPE,
  type FreeCharacteristic,
  type LimitCorner,
} from '../device';
import { ALWAYS, type CharacteristicStamp } from './network';

/** Most nodes that one characteristic looks at. */
const MOST_CONTROLS = 6;
const volts = new Float64Array(MOST_CONTROLS);
const answer = new Float64Array(MOST_CONTROLS + 2);

/** Whether a characteristic conducts while the drivers are in these states. */
export function conducts(characteristic: CharacteristicStamp, drives: Uint8Array): boolean {
  return (
    characteristic.driver === ALWAYS ||
    (characteristic.driver >= 0 && drives[characteristic.driver] === characteristic.when)
  );
}

/**
 * Works out a characteristic at x, its second control taken lower by so many volts. Returns [ampere, spread,
 * slopes …], valid until the next call.
 */
export function characteristicAt(
  { controls, element }: CharacteristicStamp,
  x: Float64Array,
  lower = 0,
): Float64Array {
  for (let i = 0; i < controls.length; i += 1) volts[i] = controls[i]! < 0 ? 0 : x[controls[i]!]!;
  volts[1] = volts[1]! - lower;
  evaluateCharacteristic(element.characteristic, volts, answer);
  return answer;
}

/**
 * Holds a step of an amplifier's input difference back where it would jump over the linear region,
 * in which feedback decides. Returns the difference to use.
 */
function limitDifference(proposed: number, previous: number, width: number): number {
  const crossed = proposed > 0 !== previous > 0;
  const within = Math.abs(previous) <= width;
  if (crossed && !within) return Math.max(-width, Math.min(width, proposed));
  if (within) return Math.max(-2 * width, Math.min(2 * width, proposed));
  return proposed;
}

/** Most of the width of the steep part of a TTL input's characteristic below its float voltage, volt. */
const STEEP_VOLT = 0.06;

/**
 * Holds a step of a TTL input's voltage that would jump over the steep part of its characteristic, to and fro
 * without end, on that part. The steep part lies below the float voltage, down to where the base
 * resistor can no longer feed it; with a supply too low for that there is none. fedVolt: up to
 * where the supply can feed the pin. Returns the voltage to use.
 */
export function limitFloat(
  proposed: number,
  previous: number,
  floatVolt: number,
  fedVolt: number,
  baseOhm: number,
): number {
  if (fedVolt <= floatVolt) return proposed;
  const low = Math.max(
    floatVolt - STEEP_VOLT,
    (floatVolt * baseOhm - fedVolt * FLOAT_OHM) / (baseOhm - FLOAT_OHM),
  );
  const jumps =
    (previous <= low && proposed >= floatVolt) || (previous >= floatVolt && proposed <= low);
  return jumps ? (low + floatVolt) / 2 : proposed;
}

/** How far inside the corner of a limit a step is held, as a share of the corner. */
const CORNER_SHARE = 1e-3;

/**
 * Holds back a step of what a characteristic looks at, in place. volts: of its controls; last[l]: what the
 * step before looked at, changed. Returns whether it was held back.
 */
function holdCharacteristicBack(
  { characteristic, linearVolt }: CharacteristicStamp['element'],
  volts: Float64Array,
  last: Float64Array,
  l: number,
): boolean {
  if (linearVolt !== undefined) {
    const proposed = volts[0]! - volts[1]!;
    last[l] = limitDifference(proposed, last[l]!, linearVolt);
    volts[0] = volts[1]! + last[l]!;
    return Math.abs(proposed - last[l]!) > 1e-9;
  }
  if (characteristic.kind === 'ttl') {
    const proposed = volts[1]! - volts[2]!;
    last[l] = limitFloat(
      proposed,
      last[l]!,
      characteristic.floatVolt,
      volts[0]! - characteristic.dropVolt - volts[2]!,
      characteristic.baseOhm,
    );
    volts[1] = volts[2]! + last[l]!;
    return Math.abs(proposed - last[l]!) > 1e-9;
  }
  return false;
}

/**
 * Works out a characteristic one step further in a search: a step that would jump too far is held back, volts
 * (of its controls) and last[l] are changed. answer: as of `evaluateCharacteristic`. Returns whether it was
 * held back.
 */
export function evaluateStep(
  element: CharacteristicStamp['element'],
  volts: Float64Array,
  answer: Float64Array,
  last: Float64Array,
  l: number,
): boolean {
  const { characteristic } = element;
  if (characteristic.kind === 'free' && characteristic.limit)
    return evaluateLimited(characteristic, characteristic.limit, volts, answer, last, l);
  const held = holdCharacteristicBack(element, volts, last, l);
  evaluateCharacteristic(characteristic, volts, answer);
  return held;
}

/**
 * A characteristic with a current limit. Beyond it the characteristic is all but flat: a step into the limit goes by the
 * chord to zero current, a step within it by the flat slope, and
 * a step out of it or over the whole steep part, which says little, leads onto the steep part
 * first.
 */
function evaluateLimited(
  characteristic: FreeCharacteristic,
  { cornerVolt, driven, driveLess }: LimitCorner,
  volts: Float64Array,
  answer: Float64Array,
  last: Float64Array,
  l: number,
): boolean {
  const before = last[l]!;
  const proposed = driven(volts);
  const out = before > cornerVolt && proposed < cornerVolt;
  const held = out || (before < 0 && proposed > cornerVolt);
  last[l] = held ? (out ? 1 - CORNER_SHARE : 0.5) * cornerVolt : proposed;
  if (held) driveLess(volts, proposed - last[l]!);
  evaluateCharacteristic(characteristic, volts, answer);
  if (held || before > cornerVolt || proposed <= cornerVolt) return held;
  const chord = proposed > 0 ? 1 / (LIMITED_SLOPE * proposed) : 1;
  for (let i = 2; i < answer.length; i += 1) answer[i] = answer[i]! * chord;
  return held;
}

/**
 * What a characteristic looks at that a search has to remember from step to step, volt. volts: of its
 * controls.
 */
export function characteristicMemory(
  { characteristic, linearVolt }: CharacteristicStamp['element'],
  volts: Float64Array,
): number {
  if (linearVolt !== undefined) return volts[0]! - volts[1]!;
  if (characteristic.kind === 'ttl') return volts[1]! - volts[2]!;
  return characteristic.kind === 'free' && characteristic.limit
    ? characteristic.limit.driven(volts)
    : 0;
}
