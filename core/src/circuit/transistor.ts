import type { TransistorModel } from '../board';
import { JUNCTION_SIEMENS, junctionCurrent } from './junction';

const out = new Float64Array(2);

/**
 * Ebers-Moll in transport form: Ic = If - Ir - Ir/BR, Ib = If/BF + Ir/BR, with the junction
 * conductance (and `shunt` siemens more) across both junctions. forward, reverse: volts base to
 * emitter and base to collector, turned for pnp; the currents are turned likewise. Writes
 * [collector, base] amperes into
 * `ampere`, and into `slope` the derivatives of the currents into C, B, E by the volts of C, B, E,
 * row by row (the same for both polarities).
 */
export function transistorAt(
  model: TransistorModel,
  forward: number,
  reverse: number,
  shunt: number,
  ampere: Float64Array,
  slope: Float64Array,
): void {
  const { saturationCurrentAmpere: saturation, forwardGain, reverseGain } = model;
  junctionCurrent(forward, saturation, model.forwardEmission, out);
  const [iF, gF] = [out[0]!, out[1]!];
  junctionCurrent(reverse, saturation, model.reverseEmission, out);
  const [iR, gR] = [out[0]!, out[1]!];
  const leak = JUNCTION_SIEMENS + shunt;
  const baseForward = gF / forwardGain + leak;
  const baseReverse = gR / reverseGain + leak;
  ampere[0] = iF - iR - iR / reverseGain - leak * reverse;
  ampere[1] = iF / forwardGain + iR / reverseGain + leak * (forward + reverse);
  slope[0] = gR + baseReverse;
  slope[1] = gF - gR - baseReverse;
  slope[2] = -gF;
  slope[3] = -baseReverse;
  slope[4] = baseForward + baseReverse;
  slope[5] = -baseForward;
  slope[6] = -gR;
  slope[7] = -gF + gR - baseForward;
  slope[8] = gF + baseForward;
}
