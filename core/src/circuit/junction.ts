import type { DiodeModel } from '../board';

/** kT/q at 27 °C, volts. Source: the core's outside interface, "Conventions" (CODATA k and q, 300.15 K). */
export const THERMAL_VOLT = 0.025865;
/** Conductance across every junction, siemens. Source: as above; the same role as gmin in Nagel, SPICE2, 1975. */
export const JUNCTION_SIEMENS = 1e-12;
/** Beyond this exponent the law goes on as a straight line: currents there are far above anything a board survives. */
const MAX_EXPONENT = 200;

/** Current through a junction and its slope, written into `out` as [ampere, siemens]. volt: anode to cathode.
 *  Forward and reverse law without breakdown. Source: as above. */
export function junctionCurrent(volt: number, saturation: number, emission: number, out: Float64Array): void {
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

/** Current of a whole diode with breakdown and the junction conductance; `out` becomes [ampere, siemens]. */
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

/** Holds a Newton step on a junction back where the exponential would throw it too far.
 *  Source: Nagel, SPICE2 (UCB/ERL M520, 1975), section on junction voltage limiting. */
export function limitJunction(proposed: number, previous: number, emission: number, critical: number): number {
  const scale = emission * THERMAL_VOLT;
  if (proposed <= critical || Math.abs(proposed - previous) <= 2 * scale) return proposed;
  if (previous <= 0) return scale * Math.log(Math.max(proposed, scale) / scale);
  const step = 1 + (proposed - previous) / scale;
  return step > 0 ? previous + scale * Math.log(step) : critical;
}

/** `limitJunction` for a diode, which is as steep in breakdown as forward. */
export function limitDiode(proposed: number, previous: number, model: DiodeModel, critical: number): number {
  const scale = model.emissionCoefficient * THERMAL_VOLT;
  const breakdown = model.breakdownVolt;
  if (breakdown !== undefined && proposed < Math.min(0, -breakdown + 10 * scale)) {
    const knee = criticalVolt(Math.min(model.breakdownCurrentAmpere, 1e-3) * 1e-6, model.emissionCoefficient);
    return -(limitJunction(-(proposed + breakdown) + knee, -(previous + breakdown) + knee, model.emissionCoefficient, knee) - knee + breakdown);
  }
  return limitJunction(proposed, previous, model.emissionCoefficient, critical);
}
