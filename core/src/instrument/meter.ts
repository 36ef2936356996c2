import { z } from 'zod';
import type { Setup } from '../board';
import { formatOnRange, type Unit } from '../quantity';

/** What can be measured. The meaning of each is in docs/formats/readings.md. */
export const ReadingKind = z.enum([
  'voltage',
  'resistance',
  'continuity',
  'diode',
  'esr',
  'logic',
  'current',
  'symptom',
]);
export type ReadingKind = z.infer<typeof ReadingKind>;

/**
 * The standard meter, used where no other instrument is named. Source: the core's outside
 * interface, section 2.
 */
export const STANDARD_METER = {
  counts: 4000,
  voltInputOhm: 10e6,
  voltRanges: [0.4, 4, 40, 400],
  /**
   * Ohm ranges as [full scale in ohm, test current in ampere]; the smallest that keeps the voltage
   * at or below ohmVoltLimit is used.
   */
  ohmRanges: [
    [400, 1e-3], [4e3, 1e-4], [40e3, 1e-5], [400e3, 1e-6], [4e6, 1e-7], [40e6, 1e-8],
  ] as readonly (readonly [number, number])[], // prettier-ignore
  ohmVoltLimit: 0.4,
  continuityOhm: 30,
  continuityAmpere: 1e-3,
  diodeAmpere: 1e-3,
  diodeOverloadVolt: 3,
  esrHertz: 100e3,
  esrCountOhm: 0.01,
  logicLowVolt: 0.8,
  logicHighVolt: 2,
  /** The probe's own weak bias, which holds an undriven net between the levels. */
  logicBiasVolt: 1.4,
  logicInputOhm: 10e6,
} as const;

/** The setup a kind of reading is taken in where none is named. */
export function defaultSetup(kind: ReadingKind): Setup {
  return kind === 'voltage' || kind === 'logic' || kind === 'current' || kind === 'symptom'
    ? 'on'
    : 'off';
}

/** The unit a kind of reading is in. */
export function unitOf(kind: ReadingKind): Unit {
  if (kind === 'voltage' || kind === 'diode') return 'V';
  if (kind === 'resistance' || kind === 'esr') return 'ohm';
  return kind === 'current' ? 'A' : '';
}

/** Full scale of the volt range that shows this value. */
export function voltRange(volt: number): number {
  return STANDARD_METER.voltRanges.find((range) => Math.abs(volt) <= range) ?? 400;
}

/** Full scale of the ohm range that shows this value; infinite beyond the last. */
export function ohmRange(ohm: number): number {
  return STANDARD_METER.ohmRanges.find(([range]) => ohm <= range)?.[0] ?? Infinity;
}

/** Limit of error of the standard meter for a value of this kind, in the reading's unit.
 * volts ±(0.5 % + 2 counts), ohms ±(0.8 % + 2 counts), ESR ±(5 % + 0.02 Ω), current as volts over
 * the same counts.
 */
export function accuracyLimit(kind: ReadingKind, value: number, fullScale: number): number {
  const size = Math.abs(value);
  const twoCounts = (2 * fullScale) / STANDARD_METER.counts;
  if (kind === 'esr') return 0.05 * size + 0.02;
  return (kind === 'resistance' || kind === 'continuity' ? 0.008 : 0.005) * size + twoCounts;
}

/** A number as the meter's display shows it. */
export function showOnMeter(kind: ReadingKind, value: number, fullScale: number): string {
  if (!Number.isFinite(value)) return 'OL';
  if (kind === 'esr')
    return `${(Math.round(value / STANDARD_METER.esrCountOhm) * STANDARD_METER.esrCountOhm).toFixed(2)} Ω`;
  return formatOnRange(value, unitOf(kind), fullScale);
}
