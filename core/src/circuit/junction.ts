import type { DiodeModel } from '../board';

/**
 * kT/q at 27 °C, volts. Source: the core's outside interface, "Conventions" (CODATA k and q, 300.15
 * K).
 */
export const THERMAL_VOLT = 0.025865;
/**
 * Conductance across every junction, siemens. Source: as above; the same role as gmin in Nagel,
 * SPICE2, 1975.
 */
export const JUNCTION_SIEMENS = 1e-12;
/**
 * Beyond this exponent the characteristic goes on as a straight line: currents there are far above anything a
 * board survives.
 */
const MAX_EXPONENT = 200;

/**
 * Current through a junction and its slope, written into `out` as [ampere, siemens]. volt: anode to
 * cathode. Forward and reverse characteristic without breakdown. Source: as above.
 */
export function junctionCurrent(
  volt: number,
  saturation: number,
  emission: number,
  out: Float64Array,
): void {
  const scale = emission * THERMAL_VOLT;
  if (volt >= -3 * scale) {
    const exponent = Math.min(volt / scale, MAX_EXPONENT);
    const grown = saturation * Math.exp(exponent);
    out[1] = grown / scale;
    out[0] = grown - saturation + (volt / scale - exponent) * grown;
  } else {
    const ratio = (3 * scale) / (Math.E * volt);
    const cube = ratio * ratio * ratio;
    out[0] = -saturation * (1 + cube);
    out[1] = (3 * saturation * cube) / volt;
  }
}

/**
 * Current of a whole diode with breakdown and the junction conductance; `out` becomes [ampere,
 * siemens].
 */
export function diodeCurrent(volt: number, model: DiodeModel, out: Float64Array): void {
  junctionCurrent(volt, model.saturationCurrentAmpere, model.emissionCoefficient, out);
  if (model.breakdownVolt !== undefined) {
    const scale = model.emissionCoefficient * THERMAL_VOLT;
    const wanted = -(volt + model.breakdownVolt) / scale;
    const exponent = Math.min(wanted, MAX_EXPONENT);
    if (exponent > -80) {
      const grown = model.breakdownCurrentAmpere * Math.exp(exponent);
      out[0]! -= grown * (1 + wanted - exponent);
      out[1]! += grown / scale;
    }
  }
  out[0]! += JUNCTION_SIEMENS * volt;
  out[1]! += JUNCTION_SIEMENS;
}

/** The voltage above which a junction's exponential is too steep for a full Newton step. */
export function criticalVolt(saturation: number, emission: number): number {
  const scale = emission * THERMAL_VOLT;
  return scale * Math.log(scale / (Math.SQRT2 * saturation));
}

/**
 * Where a junction begins at most, as a multiple of its critical voltage: there it conducts
 * amperes.
 */
const MOST_AT_START = 1.2;

/**
 * Where a junction stands as a search begins: as at the start, unless it would conduct wildly
 * there.
 */
export function startOfJunction(volt: number, critical: number): number {
  return Math.min(volt, MOST_AT_START * critical);
}

/**
 * Voltages below the critical one, in emission times thermal volts, from which a junction's current
 * says more about the next step than its voltage does.
 */
const CONDUCTS_BELOW_CRITICAL = 10;
/** Steps smaller than this, in the same measure, are taken as they are. */
const LEAST_STEP = 1e-3;
/** How far a junction that loses its current goes down at once, in the same measure. */
const TURN_OFF = 8;

/**
 * Takes a Newton step on a junction where the exponential would lead it astray. A junction that
 * conducts goes to the voltage at which it carries the current that the step foresees (so a step
 * down, of a thermal volt at most by itself, is taken whole); one that does not yet conduct begins
 * at its critical voltage.
 * Source: Nagel, SPICE2 (UCB/ERL M520, 1975), section on junction voltage limiting; here iteration
 * on current in both directions.
 */
export function limitJunction(
  proposed: number,
  previous: number,
  emission: number,
  critical: number,
): number {
  const scale = emission * THERMAL_VOLT;
  const step = (proposed - previous) / scale;
  const conducts = previous > critical - CONDUCTS_BELOW_CRITICAL * scale;
  if (step < 0) {
    if (!conducts || step > -LEAST_STEP) return proposed;
    return Math.min(
      proposed,
      previous + scale * (step > -1 ? Math.max(Math.log1p(step), -TURN_OFF) : -TURN_OFF),
    );
  }
  if (proposed <= critical || step <= 2) return proposed;
  return conducts ? previous + scale * Math.log1p(step) : critical;
}

/** `limitJunction` for a diode, which is as steep in breakdown as forward. */
export function limitDiode(
  proposed: number,
  previous: number,
  model: DiodeModel,
  critical: number,
): number {
  const scale = model.emissionCoefficient * THERMAL_VOLT;
  const breakdown = model.breakdownVolt;
  if (breakdown !== undefined && proposed < Math.min(0, -breakdown + 10 * scale)) {
    const knee = criticalVolt(
      Math.min(model.breakdownCurrentAmpere, 1e-3) * 1e-6,
      model.emissionCoefficient,
    );
    return -(
      limitJunction(
        -(proposed + breakdown) + knee,
        -(previous + breakdown) + knee,
        model.emissionCoefficient,
        knee,
      ) -
      knee +
      breakdown
    );
  }
  return limitJunction(proposed, previous, model.emissionCoefficient, critical);
}
