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

/** A limit of error: a share of the reading, and so many counts of the range. */
const Accuracy = z.object({
  share: z.number().min(0).max(0.5),
  counts: z.number().min(0).max(1000),
});
const positive = z.number().positive().max(1e12);

/**
 * What one owns: a meter, a probe and an ESR meter as their data sheets have them. Volts, ohms,
 * amperes, hertz.
 */
export const MeterProfile = z.object({
  /** Counts of a full range. */
  counts: z.number().int().min(100).max(10_000_000),
  voltInputOhm: positive,
  voltRanges: z.array(positive).min(1).max(12),
  /** Full scale in ohm and test current in ampere, the smallest range first. */
  ohmRanges: z
    .array(z.tuple([positive, positive]))
    .min(1)
    .max(12),
  /** A range of ohms is left for the next above this voltage. */
  ohmVoltLimit: positive,
  continuityOhm: positive,
  continuityAmpere: positive,
  diodeAmpere: positive,
  diodeOverloadVolt: positive,
  esrHertz: positive,
  esrCountOhm: positive,
  /** Whether the ESR meter shows the real part of the impedance, or its size. */
  esrMethod: z.enum(['real', 'magnitude']),
  logicLowVolt: positive,
  logicHighVolt: positive,
  /** The probe's own weak bias, which holds an undriven net between the levels. */
  logicBiasVolt: z.number().min(0).max(100),
  logicInputOhm: positive,
  volts: Accuracy,
  ohms: Accuracy,
  /** Of an ESR: a share, and so many ohm. */
  esr: z.object({ share: z.number().min(0).max(0.5), ohm: z.number().min(0).max(10) }),
  /**
   * What the leads add to ohms and beeps, ohm; left out where nobody has looked, and taken as up to
   * half an ohm then.
   */
  leadOhm: z.number().min(0).max(10).optional(),
});
export type MeterProfile = z.infer<typeof MeterProfile>;

/**
 * The standard meter, used where no other instrument is named. Source: the core's outside
 * interface, section 2.
 */
export const STANDARD_METER: MeterProfile = {
  counts: 4000,
  voltInputOhm: 10e6,
  voltRanges: [0.4, 4, 40, 400],
  /**
   * The smallest range that keeps the voltage at or below ohmVoltLimit is used.
   */
  ohmRanges: [
    [400, 1e-3],
    [4e3, 1e-4],
    [40e3, 1e-5],
    [400e3, 1e-6],
    [4e6, 1e-7],
    [40e6, 1e-8],
  ],
  ohmVoltLimit: 0.4,
  continuityOhm: 30,
  continuityAmpere: 1e-3,
  diodeAmpere: 1e-3,
  diodeOverloadVolt: 3,
  esrHertz: 100e3,
  esrCountOhm: 0.01,
  esrMethod: 'real',
  logicLowVolt: 0.8,
  logicHighVolt: 2,
  logicBiasVolt: 1.4,
  logicInputOhm: 10e6,
  volts: { share: 0.005, counts: 2 },
  ohms: { share: 0.008, counts: 2 },
  esr: { share: 0.05, ohm: 0.02 },
};

/** The instrument of a measurement or of an answer: the standard one where none is named. */
export const meterOf = ({ meter }: { readonly meter?: MeterProfile | undefined }): MeterProfile =>
  meter ?? STANDARD_METER;

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
export function voltRange(volt: number, meter = STANDARD_METER): number {
  return meter.voltRanges.find((range) => Math.abs(volt) <= range) ?? meter.voltRanges.at(-1)!;
}

/** Full scale of the ohm range that shows this value; infinite beyond the last. */
export function ohmRange(ohm: number, meter = STANDARD_METER): number {
  return meter.ohmRanges.find(([range]) => ohm <= range)?.[0] ?? Infinity;
}

/**
 * Limit of error for a value of this kind, in the reading's unit. Of the standard meter: volts
 * ±(0.5 % + 2 counts), ohms ±(0.8 % + 2 counts), ESR ±(5 % + 0.02 Ω), current as volts over the
 * same counts.
 */
export function accuracyLimit(
  kind: ReadingKind,
  value: number,
  fullScale: number,
  meter = STANDARD_METER,
): number {
  const size = Math.abs(value);
  if (kind === 'esr') return meter.esr.share * size + meter.esr.ohm;
  const { share, counts } =
    kind === 'resistance' || kind === 'continuity' ? meter.ohms : meter.volts;
  return share * size + (counts * fullScale) / meter.counts;
}

/** A number as the meter's display shows it. */
export function showOnMeter(
  kind: ReadingKind,
  value: number,
  fullScale: number,
  { esrCountOhm } = STANDARD_METER,
): string {
  if (!Number.isFinite(value)) return 'OL';
  if (kind === 'esr') return `${(Math.round(value / esrCountOhm) * esrCountOhm).toFixed(2)} Ω`;
  return formatOnRange(value, unitOf(kind), fullScale);
}
