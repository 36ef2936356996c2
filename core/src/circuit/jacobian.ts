import { enabledCharacteristics, stampCharacteristics } from './characteristic-table';
import { diodeCurrent } from './junction';
import type { Network } from './network';
import { across } from './operating-point';
import type { Singular } from './sparse';
import { addSiemens, addSlopes } from './stamp';
import { transistorAt } from './transistor';

/**
 * Factors the network's Jacobian at x, so that `network.lu` answers for small changes about that
 * point. x: node volts and branch amperes; all zero for a board that is off. drives: states of the
 * chips' drivers, default all off. Returns undefined, or where it is singular.
 */
export function factorJacobian(
  network: Network,
  x: Float64Array,
  drives?: Uint8Array,
): Singular | undefined {
  return network.lu.factor(jacobianValues(network, x, drives));
}

/** The Jacobian's values at x, in pattern order. drives: as in factorJacobian. */
export function jacobianValues(
  network: Network,
  x: Float64Array,
  drives: Uint8Array = new Uint8Array(network.drivers.length),
): Float64Array {
  const values = Float64Array.from(network.constant);
  const out = new Float64Array(2);
  const slope = new Float64Array(9);
  for (const junction of network.junctions) {
    diodeCurrent(across(x, junction.a, junction.b), junction.element.model, out);
    addSiemens(values, junction, out[1]!);
  }
  for (const {
    nodes: [c, b, e],
    slots,
    element: { model },
  } of network.transistors) {
    const sign = model.polarity === 'npn' ? 1 : -1;
    transistorAt(model, sign * across(x, b, e), sign * across(x, b, c), 0, out, slope);
    addSlopes(values, slots, slope);
  }
  stampCharacteristics(enabledCharacteristics(network, drives), x, values);
  return values;
}
