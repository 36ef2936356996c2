import { z } from 'zod';

const finite = z.number().refine(Number.isFinite, 'a finite number');
const positive = finite.refine((n) => n > 0, 'a number above zero');
const notNegative = finite.refine((n) => n >= 0, 'zero or a number above');
const name = z.string().min(1).max(80).regex(/^\S+$/, 'a name without blanks');
const positionMm = z.tuple([finite, finite]);

/** What every part on a board has, whatever it is. `pins[i]` is the net of pin i+1. */
const base = {
  ref: name.describe('reference designator, for example C12; RN2.3 is element 3 of the array RN2'),
  pins: z.array(name).min(1).describe('net of each pin, in pin order; net 0 is ground'),
  positionMm: positionMm.optional().describe('centre of the part on the board outline, mm'),
  pinPositionsMm: z.array(positionMm.nullable()).optional(),
  role: z.string().max(120).optional().describe('what the part does here; a role that starts with "load" is unplugged in the setup "unloaded"'),
  fitYear: z.number().int().min(1900).max(2200).optional(),
  tolerance: positive.max(2).optional().describe('limit as a fraction of the value: 0.05 for 5 %'),
  rating: z.string().max(80).optional(),
  package: z.string().max(80).optional(),
  note: z.string().max(400).optional(),
};

const twoPins = { ...base, pins: z.array(name).length(2) };

/** Shockley diode model. Defaults follow docs/formats/board.md: IS 1e-14 A, N 1, RS 0, IBV 1 mA. */
export const DiodeModel = z.object({
  name: name,
  saturationCurrentAmpere: positive,
  emissionCoefficient: positive,
  seriesResistanceOhm: notNegative,
  breakdownVolt: positive.optional(),
  breakdownCurrentAmpere: positive,
});
export type DiodeModel = z.infer<typeof DiodeModel>;

/** Ebers-Moll transistor model. Defaults: IS 1e-16 A, BF 100, BR 1, NF and NR 1. */
export const TransistorModel = z.object({
  name: name,
  polarity: z.enum(['npn', 'pnp']),
  saturationCurrentAmpere: positive,
  forwardGain: positive,
  reverseGain: positive,
  forwardEmission: positive,
  reverseEmission: positive,
});
export type TransistorModel = z.infer<typeof TransistorModel>;

export const Dielectric = z.enum(['electrolytic', 'polymer', 'tantalum', 'ceramic', 'film', 'bipolar']);
export type Dielectric = z.infer<typeof Dielectric>;

export const Part = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('resistor'), ...twoPins, resistanceOhm: positive }),
  z.object({
    kind: z.literal('capacitor'),
    ...twoPins,
    capacitanceFarad: positive,
    dielectric: Dielectric.optional(),
    ratedVolt: positive.optional(),
    esrOhm: positive.optional(),
  }),
  z.object({ kind: z.literal('inductor'), ...twoPins, inductanceHenry: notNegative, dcResistanceOhm: notNegative.optional() }),
  z.object({ kind: z.literal('winding'), ...twoPins, inductanceHenry: notNegative, dcResistanceOhm: positive }),
  z.object({ kind: z.literal('voltageSource'), ...twoPins, volt: finite }),
  z.object({ kind: z.literal('currentSource'), ...twoPins, ampere: finite }),
  z.object({ kind: z.literal('diode'), ...twoPins, model: DiodeModel }),
  z.object({ kind: z.literal('transistor'), ...base, pins: z.array(name).length(3), model: TransistorModel }),
  z.object({ kind: z.literal('fuse'), ...twoPins }),
  z.object({ kind: z.literal('switch'), ...twoPins, rest: z.enum(['closed', 'open']) }),
  z.object({ kind: z.literal('connectorPin'), ...twoPins }),
  z.object({ kind: z.literal('link'), ...twoPins }),
  z.object({ kind: z.literal('unspecified'), ...base }),
]);
export type Part = z.infer<typeof Part>;
export type PartKind = Part['kind'];

/** A board as it is stored and sent. Docs and the generated JSON Schema: docs/formats/. */
export const Board = z.object({
  format: z.literal('hanzai-board'),
  version: z.literal(1),
  title: z.string().min(1).max(200),
  outlineMm: z.object({ width: positive, height: positive }).optional(),
  parts: z.array(Part).max(100_000),
});
export type Board = z.infer<typeof Board>;
