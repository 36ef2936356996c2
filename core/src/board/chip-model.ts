import { z } from 'zod';
import { compileProgram, FunctionTextError, type Program } from '../logic';

const finite = z.number().refine(Number.isFinite, 'a finite number');
const positive = finite.refine((n) => n > 0, 'a number above zero');
const notNegative = finite.refine((n) => n >= 0, 'zero or a number above');
const pinName = z
  .string()
  .min(1)
  .max(24)
  .regex(/^[A-Za-z_][A-Za-z0-9_]*$/, 'a name of letters and digits');

/**
 * How the pins of a logic family behave: what an input asks of its net, what an output gives to it.
 * Typical values at room temperature.
 */
export const FamilyModel = z.object({
  name: z.string().min(1).max(16),
  /** Least supply at which the chip works, and the most it may have. */
  supplyLeastVolt: positive,
  supplyMostVolt: positive,
  /**
   * An input counts as 1 above this many volts over the chip's ground, or above this share of the
   * supply.
   */
  thresholdVolt: positive.optional(),
  thresholdShare: positive.max(1).optional(),
  /**
   * The two thresholds of a Schmitt input: absolute where thresholdVolt is, shares where
   * thresholdShare is.
   */
  schmittRise: positive,
  schmittFall: positive,
  input: z.discriminatedUnion('type', [
    /**
     * Bipolar: the base resistor feeds current out of the pin while it is below the float voltage.
     */
    z.object({
      type: z.literal('ttl'),
      baseOhm: positive,
      dropVolt: positive,
      floatVolt: positive,
    }),
    /** MOS: draws nothing; left open it is nothing. */
    z.object({ type: z.literal('mos') }),
    /** A resistor and two junctions to ground: the input of a driver array. */
    z.object({ type: z.literal('base'), ohm: positive, dropVolt: positive }),
  ]),
  /**
   * Where the ohms of the output stages fall as the supply rises: the supply at which they are as
   * given, volt.
   */
  ohmAtSupplyVolt: positive.optional(),
  /** False for MOS inputs without a diode to the supply: they may stand above it. */
  supplyClamp: z.boolean().optional(),
  /** High output: supply less dropVolt behind ohm; oneWay where it cannot take current in. */
  high: z.object({
    dropVolt: notNegative,
    ohm: positive,
    oneWay: z.boolean(),
    limitAmpere: positive.optional(),
  }),
  /** Low output: volt above ground behind ohm. */
  low: z.object({ volt: notNegative, ohm: positive, limitAmpere: positive.optional() }),
});
export type FamilyModel = z.infer<typeof FamilyModel>;

export const ChipPin = z.object({
  name: pinName,
  /**
   * both: input and output. rail: a second supply that only feeds outputs. clamp: the common end of
   * diodes from the outputs. Comparator inputs come in pairs: `plus` names its `minus`.
   */
  role: z.enum([
    'input',
    'output',
    'both',
    'supply',
    'ground',
    'rail',
    'clamp',
    'none',
    'plus',
    'minus',
  ]),
  /** Of an output. */
  stage: z.enum(['totem', 'openCollector', 'openEmitter']).optional(),
  schmitt: z.boolean().optional(),
  /**
   * The pin whose volts this output's high stage hangs on, and the one its low stage sinks to;
   * default the chip's own.
   */
  rail: pinName.optional(),
  sink: pinName.optional(),
  /** For `plus`: the name of its partner. */
  partner: pinName.optional(),
  /**
   * Of a line receiver's input: ohms to ground in place of a clamp, so that it may go below ground.
   */
  lineOhm: positive.optional(),
});
export type ChipPin = z.infer<typeof ChipPin>;

/**
 * A chip as a board carries it: pins in package order, what it does, and how its pins behave.
 * Written in full so that a board needs no library to be read.
 */
const ChipShape = z.object({
  name: z.string().min(1).max(40),
  title: z.string().max(120),
  family: FamilyModel,
  pins: z.array(ChipPin).min(2).max(64),
  /** Statements as core/logic compiles them; names are those of the pins. */
  function: z.array(z.string().min(1).max(600)).max(200),
  supplyAmpere: positive,
  /**
   * True for a chip whose inside is not modelled: its outputs show the activity of a healthy one
   * while it has supply.
   */
  blackBox: z.boolean().optional(),
});
/** The statements must compile: a board comes from outside. */
export const ChipModel = ChipShape.superRefine((model, context) => {
  try {
    compileChip(model);
  } catch (error) {
    if (!(error instanceof FunctionTextError)) throw error;
    context.addIssue({ code: 'custom', path: ['function'], message: error.message });
  }
});
export type ChipModel = z.infer<typeof ChipShape>;

/**
 * The function of a chip, compiled: what its inputs and comparators see comes in, what its outputs
 * want goes out. Throws FunctionTextError.
 */
export function compileChip({ function: statements, pins }: ChipModel): Program {
  return compileProgram(
    statements,
    pins
      .filter(({ role }) => role === 'input' || role === 'both' || role === 'plus')
      .map(({ name }) => name),
  );
}
