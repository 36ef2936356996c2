import { diodeCurrent } from './junction';
import { isOpen, lawAt } from './law-stamp';
import type { Network } from './network';
import { across } from './operating-point';
import { transistorAt } from './transistor';

const out = new Float64Array(2);
const slope = new Float64Array(9);

/** Adds up the current that junctions, transistors and laws take out of each node at x, into `current` (length size, overwritten). Unit: ampere. */
export function nonlinearCurrent(network: Network, drives: Uint8Array, x: Float64Array, current: Float64Array): void {
  current.fill(0);
  const flow = (a: number, b: number, ampere: number): void => {
    if (a >= 0) current[a]! += ampere;
    if (b >= 0) current[b]! -= ampere;
  };
  for (const { a, b, element } of network.junctions) {
    diodeCurrent(across(x, a, b), element.model, out);
    flow(a, b, out[0]!);
  }
  for (const { nodes: [c, b, e], element: { model } } of network.transistors) {
    const sign = model.polarity === 'npn' ? 1 : -1;
    transistorAt(model, sign * across(x, b, e), sign * across(x, b, c), 0, out, slope);
    const [collector, base] = [out[0]!, out[1]!];
    flow(c, e, sign * collector);
    flow(b, e, sign * base);
  } // prettier-ignore
  for (const law of network.laws) if (isOpen(law, drives)) flow(law.a, law.b, lawAt(law, x)[0]!);
}
