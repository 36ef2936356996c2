import { combinedUncertainty, normalBelow, rectangular, type Unit } from '../quantity';
import {
  accuracyLimit,
  ohmRange,
  showOnMeter,
  meterOf,
  STANDARD_METER,
  unitOf,
  type ReadingKind,
} from './meter';
import type { Response } from './response';

/**
 * What a reading can be: a number in SI units, OL, a sound, a logic level, or whether something was
 * seen.
 */
export type ReadingValue = number | 'OL' | 'beep' | 'open' | '0' | '1' | 'P' | 'Z' | 'yes' | 'no';

/**
 * What the instrument shows, and the band that part tolerance and the instrument's accuracy allow
 * (coverage factor 2).
 */
export interface Readout {
  readonly value: ReadingValue;
  readonly unit: Unit;
  /** Ends of the band; null where the reading is not a number. */
  readonly low: number | 'OL' | null;
  readonly high: number | 'OL' | null;
  readonly display: string;
  readonly z?: { readonly re: number; readonly im: number };
}

/** Coverage factor of the band: about 95 %. Source: JCGM 100:2008 (GUM), 6.3. */
export const COVERAGE = 2;

/**
 * Standard uncertainty of a reading: part tolerance and meter accuracy, the latter taken as
 * rectangular. Source: JCGM 100:2008, 4.3.7 and 5.1. Unit: the reading's.
 */
export function combinedSpread(kind: ReadingKind, response: Response): number {
  if (!Number.isFinite(response.value)) return 0;
  const limit = accuracyLimit(kind, response.value, response.fullScale, meterOf(response));
  return combinedUncertainty([response.spread, rectangular(limit)]);
}

/** Turns a response into what the display shows. */
export function readout(kind: ReadingKind, response: Response): Readout {
  const unit = unitOf(kind);
  const meter = meterOf(response);
  if (kind === 'continuity') {
    const value = response.value < meter.continuityOhm ? 'beep' : 'open';
    return { value, unit, low: null, high: null, display: value };
  }
  if (kind === 'logic') {
    const value = response.pulsing ? 'P' : logicLevel(response.value, meter);
    return { value, unit, low: null, high: null, display: value };
  }
  if (kind === 'symptom') {
    const value = response.value >= 0.5 ? 'yes' : 'no';
    return { value, unit, low: null, high: null, display: value };
  }
  if (!Number.isFinite(response.value))
    return { value: 'OL', unit, low: 'OL', high: 'OL', display: 'OL' };
  const half = COVERAGE * combinedSpread(kind, response);
  const floor = kind === 'resistance' || kind === 'esr' ? 0 : -Infinity;
  const high = response.value + half;
  return {
    value: response.value,
    unit,
    low: Math.max(floor, response.value - half),
    high: kind === 'resistance' && ohmRange(high, meter) === Infinity ? 'OL' : high,
    display: showOnMeter(kind, response.value, response.fullScale, meter),
    ...(response.z ? { z: response.z } : {}),
  };
}

/** What a logic probe shows at this voltage. */
export function logicLevel(volt: number, meter = STANDARD_METER): '0' | '1' | 'Z' {
  if (volt < meter.logicLowVolt) return '0';
  return volt > meter.logicHighVolt ? '1' : 'Z';
}

/** Probabilities of the three static levels where the voltage is uncertain. */
export function logicChances(
  volt: number,
  spread: number,
  meter = STANDARD_METER,
): Readonly<Record<'0' | '1' | 'Z', number>> {
  const sigma = Math.max(spread, 0.02);
  const low = normalBelow((meter.logicLowVolt - volt) / sigma);
  const high = 1 - normalBelow((meter.logicHighVolt - volt) / sigma);
  return { '0': low, '1': high, Z: Math.max(0, 1 - low - high) };
}

/** Whether a reading lies in the band of a readout. */
export function withinBand(value: ReadingValue, expected: Readout): boolean {
  if (typeof value !== 'number' || typeof expected.value !== 'number')
    return value === expected.value || (value === 'OL' && expected.high === 'OL');
  const low = typeof expected.low === 'number' ? expected.low : -Infinity;
  const high = typeof expected.high === 'number' ? expected.high : Infinity;
  return value >= low && value <= high;
}
