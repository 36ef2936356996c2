import { diodeCurrent, JUNCTION_SIEMENS, junctionCurrent } from './junction';
import { isOpen, lawAt } from './law-stamp';
import type { Network } from './network';
import { across } from './operating-point';

const out = new Float64Array(2);

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
    const [forward, reverse] = [sign * across(x, b, e), sign * across(x, b, c)];
    junctionCurrent(forward, model.saturationCurrentAmpere, model.forwardEmission, out);
    const iF = out[0]!;
    junctionCurrent(reverse, model.saturationCurrentAmpere, model.reverseEmission, out);
    const iR = out[0]!;
    const collector = iF - iR - iR / model.reverseGain - JUNCTION_SIEMENS * reverse;
    const base = iF / model.forwardGain + iR / model.reverseGain + JUNCTION_SIEMENS * (forward + reverse);
    flow(c, e, sign * collector);
    flow(b, e, sign * base);
  } // prettier-ignore
  for (const law of network.laws) if (isOpen(law, drives)) flow(law.a, law.b, lawAt(law, x)[0]!);
}
