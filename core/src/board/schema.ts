import { z } from 'zod';
import { ChipModel } from './chip-model';

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
  side: z
    .enum(['top', 'bottom'])
    .optional()
    .describe('the side of the board that it sits on; places are as seen from the top'),
  role: z
    .string()
    .max(120)
    .optional()
    .describe(
      'what the part does here; a role that starts with "load" is unplugged in the setup "unloaded"',
    ),
  fitYear: z.number().int().min(1900).max(2200).optional(),
  tolerance: positive.max(2).optional().describe('limit as a fraction of the value: 0.05 for 5 %'),
  rating: z.string().max(80).optional(),
  package: z.string().max(80).optional(),
  note: z.string().max(400).optional(),
  section: z
    .string()
    .min(1)
    .max(60)
    .optional()
    .describe('the section of the circuit that it belongs to, for example reset'),
};

const twoPins = { ...base, pins: z.array(name).length(2) };

/**
 * In files a value that is not known is written `?`; inside, a stand-in takes its place and the
 * part says so.
 */
const valued = {
  ...twoPins,
  unknown: z
    .literal(true)
    .optional()
    .describe(
      'the value is not known: what stands there is a stand-in; in a file write "?" for the value instead',
    ),
};

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

export const Dielectric = z.enum([
  'electrolytic',
  'polymer',
  'tantalum',
  'ceramic',
  'film',
  'bipolar',
]);
export type Dielectric = z.infer<typeof Dielectric>;

/**
 * A fixed or adjustable series regulator. roles: what each pin is; volt: out against ground
 * (adjustable: out against adjust, 1.25).
 */
export const RegulatorModel = z.object({
  name,
  roles: z.array(z.enum(['in', 'out', 'ground'])).length(3),
  volt: positive,
  polarity: z.enum(['positive', 'negative']),
  dropoutVolt: positive,
  limitAmpere: positive,
  quiescentAmpere: positive,
});
export type RegulatorModel = z.infer<typeof RegulatorModel>;

/** One or several operational amplifiers in a package; pins count from 1. */
export const AmplifierModel = z.object({
  name,
  units: z
    .array(
      z.object({
        plus: z.number().int().positive(),
        minus: z.number().int().positive(),
        out: z.number().int().positive(),
      }),
    )
    .min(1)
    .max(4),
  positiveSupply: z.number().int().positive(),
  negativeSupply: z.number().int().positive(),
  gain: positive,
  /** How near the output comes to its supplies, and what it can give. */
  headroomHighVolt: notNegative,
  headroomLowVolt: notNegative,
  limitAmpere: positive,
  supplyAmpere: positive,
  /**
   * Ohms of its output stage without feedback; those of a small operational amplifier where not
   * given.
   */
  outputOhm: positive.optional(),
});
export type AmplifierModel = z.infer<typeof AmplifierModel>;

export const Part = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('resistor'), ...valued, resistanceOhm: positive }),
  z.object({
    kind: z.literal('capacitor'),
    ...valued,
    capacitanceFarad: positive,
    dielectric: Dielectric.optional(),
    ratedVolt: positive.optional(),
    esrOhm: notNegative
      .optional()
      .describe('healthy ohms at 100 kHz; 0: an ideal capacitor; left out: not known'),
  }),
  z.object({
    kind: z.literal('inductor'),
    ...valued,
    inductanceHenry: notNegative,
    dcResistanceOhm: notNegative.optional(),
  }),
  z.object({
    kind: z.literal('winding'),
    ...twoPins,
    inductanceHenry: notNegative,
    dcResistanceOhm: positive,
  }),
  z.object({ kind: z.literal('voltageSource'), ...twoPins, volt: finite }),
  z.object({ kind: z.literal('currentSource'), ...twoPins, ampere: finite }),
  z.object({ kind: z.literal('diode'), ...twoPins, model: DiodeModel }),
  z.object({
    kind: z.literal('transistor'),
    ...base,
    pins: z.array(name).length(3),
    model: TransistorModel,
  }),
  z.object({ kind: z.literal('fuse'), ...twoPins }),
  z.object({ kind: z.literal('switch'), ...twoPins, rest: z.enum(['closed', 'open']) }),
  z.object({ kind: z.literal('connectorPin'), ...twoPins }),
  z.object({ kind: z.literal('link'), ...twoPins }),
  z.object({
    kind: z.literal('chip'),
    ...base,
    pins: z.array(name).min(2).max(64),
    model: ChipModel,
  }),
  z.object({
    kind: z.literal('regulator'),
    ...base,
    pins: z.array(name).length(3),
    model: RegulatorModel,
  }),
  z.object({
    kind: z.literal('amplifier'),
    ...base,
    pins: z.array(name).min(5).max(16),
    model: AmplifierModel,
  }),
  /**
   * Light source and detector across a gap or a closed path. Pins: 1 anode, 2 cathode, 3 collector,
   * 4 emitter.
   */
  z.object({
    kind: z.literal('opto'),
    ...base,
    pins: z.array(name).length(4),
    transferRatio: positive.max(20),
  }),
  /** Pins: 1 and 2 coil, 3 common, 4 rest contact, 5 work contact. */
  z.object({
    kind: z.literal('relay'),
    ...base,
    pins: z.array(name).length(5),
    coilOhm: positive,
    pullInVolt: positive,
  }),
  /**
   * Pins: 1 and 2 primary, 3 and 4 secondary. peakVolt: what the secondary gives at its peak
   * without load, taken as direct voltage.
   */
  z.object({
    kind: z.literal('transformer'),
    ...base,
    pins: z.array(name).length(4),
    primaryOhm: positive,
    secondaryOhm: positive,
    peakVolt: positive,
  }),
  z.object({ kind: z.literal('unspecified'), ...base }),
]);
export type Part = z.infer<typeof Part>;
export type PartKind = Part['kind'];

/** A state of the board beside on, off and unloaded, always powered: what is different then. */
export const NamedSetup = z.object({
  name: z.string().regex(/^[a-z][a-z0-9-]{0,39}$/, 'a name of small letters, digits and hyphens'),
  /**
   * Opto parts whose light is blocked, switches that are thrown out of their rest position, parts
   * that are unplugged.
   */
  blocked: z.array(name).max(100).optional(),
  thrown: z.array(name).max(100).optional(),
  unplugged: z.array(name).max(100).optional(),
  /** Back-EMF of windings that turn, volts from pin 1 to pin 2. */
  turning: z.record(name, finite).optional(),
});
export type NamedSetup = z.infer<typeof NamedSetup>;

const limits = { least: finite.optional(), most: finite.optional() };

/**
 * What a person sees or hears of a unit, as a statement on the solved circuit: true while the
 * quantity lies within its limits.
 */
export const Observable = z.object({
  name: z.string().regex(/^[a-z][a-z0-9-]{0,59}$/, 'a name of small letters, digits and hyphens'),
  title: z.string().min(1).max(120),
  setup: z.string().max(40).optional(),
  /**
   * All of them must hold. volts: between two nets; ampere: through a two-pin part; level: of a net
   * as a TTL probe reads it.
   */
  when: z
    .array(
      z.discriminatedUnion('type', [
        z.object({
          type: z.literal('volts'),
          at: name,
          to: name.optional(),
          magnitude: z.boolean().optional(),
          ...limits,
        }),
        z.object({ type: z.literal('ampere'), ref: name, ...limits }),
        z.object({
          type: z.literal('level'),
          at: name,
          is: z.array(z.enum(['0', '1', 'P', 'Z'])).min(1),
        }),
      ]),
    )
    .min(1)
    .max(12),
});
export type Observable = z.infer<typeof Observable>;

/** A net where circuit hangs on that this sheet does not show. */
export const Edge = z.object({ net: name, note: z.string().max(200).optional() });
export type Edge = z.infer<typeof Edge>;

/** What a continuity test between two points of the board said, and whose word it is. */
export const RingTold = z.object({
  a: name,
  b: name,
  /** Whether it beeped. */
  joined: z.boolean(),
  /** Day and minute, in universal time. */
  at: z
    .string()
    .regex(/^\d{4}-\d\d-\d\dT\d\d:\d\dZ$/, 'a moment such as 2026-11-28T09:30Z')
    .optional(),
  by: z.string().min(1).max(80).optional(),
  /** The reading that it is, as it was typed, or where it was taken: `case 101, f1 beep`. */
  reading: z.string().min(1).max(120).optional(),
});
export type RingTold = z.infer<typeof RingTold>;

/** A board as it is stored and sent. Docs and the generated JSON Schema: docs/formats/. */
export const Board = z.object({
  format: z.literal('hanzai-board'),
  version: z.literal(1),
  title: z.string().min(1).max(200),
  outlineMm: z.object({ width: positive, height: positive }).optional(),
  parts: z.array(Part).max(100_000),
  setups: z.array(NamedSetup).max(40).optional(),
  observables: z.array(Observable).max(200).optional(),
  edges: z.array(Edge).max(200).optional(),
  testPoints: z
    .array(
      z.object({ net: name, label: z.string().min(1).max(40), positionMm: positionMm.optional() }),
    )
    .max(500)
    .optional(),
  hazards: z
    .array(
      z.object({
        ref: name.optional(),
        kind: z.enum(['mains', 'stored-charge', 'laser', 'hot', 'spring', 'chemical', 'static']),
        note: z.string().min(1).max(300),
      }),
    )
    .max(100)
    .optional(),
  rings: z.array(RingTold).max(5000).optional(),
});
export type Board = z.infer<typeof Board>;
