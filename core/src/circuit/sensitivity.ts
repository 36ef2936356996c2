import type { Element } from '../device';
import { diodeCurrent, junctionCurrent, THERMAL_VOLT } from './junction';
import { characteristicAt } from './characteristic-stamp';
import { conductingCharacteristics } from './characteristic-table';
import type { Network } from './network';
import { across } from './operating-point';

/**
 * Tolerances of model values where nothing is annotated. Source: the core's outside interface,
 * "Conventions".
 */
export const MODEL_SPREAD = { lnSaturation: 0.2, lnGain: 0.25, breakdown: 0.025 } as const;

/**
 * Elements between two nodes that a network has and the circuit at this point has not, and those
 * that it has in their place.
 */
export interface Exchanged {
  readonly p: number;
  readonly q: number;
  readonly before: readonly Element[];
  readonly after: readonly Element[];
}

/** Standard deviation of one linear output that part tolerances cause, all parts independent.
 * x: the operating point whose Jacobian the network's LU holds; adjoint: the solution of Jᵀ λ = c
 * for the output c·x. drives: states of the chips' drivers, where characteristics are to count. zeroBias: x is
 * a response to a unit current with the junctions held at zero bias, where each is a plain
 * conductance.
 * exchanged: what is not there any more and must not be counted at the new point, where its volts
 * are not what they were. Returns the output's unit. Source: Director & Rohrer, IEEE Trans. Circuit
 * Theory 16(3), 1969 (adjoint network).
 */
export function toleranceSpread(
  network: Network,
  x: Float64Array,
  adjoint: Float64Array,
  zeroBias = false,
  drives?: Uint8Array,
  exchanged?: Exchanged,
): number {
  let variance = conductanceVariance(network, x, adjoint, exchanged);
  if (zeroBias) return Math.sqrt(variance + zeroBiasVariance(network, x, adjoint));
  const out = new Float64Array(2);
  for (const { a, b, element } of network.junctions) {
    const { model } = element;
    const volt = across(x, a, b);
    // So it is at most places on a board that is off.
    if (volt === 0) continue;
    junctionCurrent(volt, model.saturationCurrentAmpere, model.emissionCoefficient, out);
    const weight = across(adjoint, a, b);
    variance += (weight * out[0]! * MODEL_SPREAD.lnSaturation) ** 2;
    if (model.breakdownVolt !== undefined) {
      const normal = out[1]!;
      diodeCurrent(volt, model, out);
      variance += (weight * (out[1]! - normal) * model.breakdownVolt * MODEL_SPREAD.breakdown) ** 2;
    }
  }
  if (drives) variance += characteristicVariance(network, x, adjoint, drives);
  for (const {
    nodes: [c, b, e],
    element,
  } of network.transistors) {
    const { model } = element;
    const sign = model.polarity === 'npn' ? 1 : -1;
    junctionCurrent(
      sign * across(x, b, e),
      model.saturationCurrentAmpere,
      model.forwardEmission,
      out,
    );
    const forward = out[0]!;
    junctionCurrent(
      sign * across(x, b, c),
      model.saturationCurrentAmpere,
      model.reverseEmission,
      out,
    );
    const reverse = out[0]!;
    const collectorToEmitter = across(adjoint, c, e);
    const collectorCurrent =
      (forward - reverse) * collectorToEmitter +
      (forward / model.forwardGain) * across(adjoint, b, e) +
      (reverse / model.reverseGain) * across(adjoint, b, c);
    variance += (collectorCurrent * MODEL_SPREAD.lnSaturation) ** 2;
    variance += ((forward / model.forwardGain) * across(adjoint, b, e) * MODEL_SPREAD.lnGain) ** 2;
  }
  return Math.sqrt(variance);
}

/**
 * The conductances that have a tolerance, in columns: asked for thousands of readings. weight: what
 * one spread moves them by, siemens.
 */
interface TolerantConductances {
  readonly a: Int32Array;
  readonly b: Int32Array;
  readonly weight: Float64Array;
}

/** By list; 'asked once' where it is not known yet whether the columns are worth making. */
const TOLERANT = new WeakMap<Network['conductances'], TolerantConductances | 'asked once'>();

/**
 * The columns of a list, undefined when it is asked for the first time: many lists never are again.
 */
function tolerantOf(conductances: Network['conductances']): TolerantConductances | undefined {
  let known = TOLERANT.get(conductances);
  if (!known) {
    TOLERANT.set(conductances, 'asked once');
    return undefined;
  }
  if (known !== 'asked once') return known;
  const some = conductances.filter(({ spread }) => spread !== 0);
  known = {
    a: Int32Array.from(some, ({ a }) => a),
    b: Int32Array.from(some, ({ b }) => b),
    weight: Float64Array.from(some, ({ siemens, spread }) => siemens * spread),
  };
  TOLERANT.set(conductances, known);
  return known;
}

/** What one spread of an element's conductance is, siemens; 0 where it has none. */
function weightOf(element: Element): number {
  if (element.type === 'conductance') return element.siemens * element.spread;
  return element.type === 'coil' && element.ohm > 0 ? element.spread / element.ohm : 0;
}

/** The part of the variance that the tolerances of resistances cause. */
function conductanceVariance(
  { conductances }: Network,
  x: Float64Array,
  adjoint: Float64Array,
  exchanged?: Exchanged,
): number {
  const { p: first = -2, q: second = -2, before = [], after = [] } = exchanged ?? {};
  const gone = before.map(weightOf).filter((weight) => weight !== 0);
  /** Whether this conductance is one of those that are gone; each is found once. */
  const isGone = (p: number, q: number, weight: number): boolean => {
    if (!((p === first && q === second) || (p === second && q === first))) return false;
    const at = gone.findIndex((one) => Math.abs(one - weight) <= 1e-9 * one);
    return at >= 0 && gone.splice(at, 1).length > 0;
  };
  let variance = 0;
  for (const element of after)
    variance +=
      (across(adjoint, first, second) * across(x, first, second) * weightOf(element)) ** 2;
  const columns = tolerantOf(conductances);
  if (!columns) {
    for (const { a, b, siemens, spread } of conductances) {
      if (spread === 0 || (exchanged && isGone(a, b, siemens * spread))) continue;
      variance += (across(adjoint, a, b) * across(x, a, b) * siemens * spread) ** 2;
    }
    return variance;
  }
  const { a, b, weight } = columns;
  for (let i = 0; i < weight.length; i += 1) {
    const p = a[i]!;
    const q = b[i]!;
    if (exchanged && isGone(p, q, weight[i]!)) continue;
    const slope =
      ((p < 0 ? 0 : adjoint[p]!) - (q < 0 ? 0 : adjoint[q]!)) *
      ((p < 0 ? 0 : x[p]!) - (q < 0 ? 0 : x[q]!)) *
      weight[i]!;
    variance += slope * slope;
  }
  return variance;
}

/** The part of the variance that the spread of chips' stages, regulators and amplifiers causes. */
function characteristicVariance(
  network: Network,
  x: Float64Array,
  adjoint: Float64Array,
  drives: Uint8Array,
): number {
  let variance = 0;
  for (const characteristic of conductingCharacteristics(network, drives, x)) {
    const weight = across(adjoint, characteristic.a, characteristic.b);
    if (weight !== 0) variance += (weight * characteristicAt(characteristic, x)[1]!) ** 2;
  }
  return variance;
}

/**
 * The part of the variance that junctions at zero bias cause through the spread of their saturation
 * current.
 */
function zeroBiasVariance(network: Network, x: Float64Array, adjoint: Float64Array): number {
  let variance = 0;
  const add = (siemens: number, a: number, b: number): void => {
    variance +=
      (across(adjoint, a, b) * across(x, a, b) * siemens * MODEL_SPREAD.lnSaturation) ** 2;
  };
  for (const {
    a,
    b,
    element: { model },
  } of network.junctions)
    add(model.saturationCurrentAmpere / (model.emissionCoefficient * THERMAL_VOLT), a, b);
  for (const {
    nodes: [c, b, e],
    element: { model },
  } of network.transistors) {
    add(
      model.saturationCurrentAmpere / (model.forwardGain * model.forwardEmission * THERMAL_VOLT),
      b,
      e,
    );
    add(
      model.saturationCurrentAmpere / (model.reverseGain * model.reverseEmission * THERMAL_VOLT),
      b,
      c,
    );
  }
  return variance;
}
