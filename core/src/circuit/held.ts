import type { TransistorModel } from '../board';
import { diodeCurrent, junctionCurrent } from './junction';
import { isOpen, lawAt } from './law-stamp';
import type { LawStamp, Network } from './network';
import { across } from './operating-point';

/** What lies below this conductance does not give a net its level, siemens: a lifted leg, a dirty open switch. */
const HOLDING_SIEMENS = 2e-8;

/** What a junction or a law has to conduct at a given point to hold a node against a voltmeter of 10 MΩ, siemens. */
const FEEDING_SIEMENS = 5e-6;

const out = new Float64Array(2);

/** Whether a transistor's base current holds its base: the least that it does when it conducts. */
function conducts(x: Float64Array, [c, b, e]: readonly [number, number, number], model: TransistorModel): boolean {
  const sign = model.polarity === 'npn' ? 1 : -1;
  junctionCurrent(Math.max(sign * across(x, b, e), sign * across(x, b, c)), model.saturationCurrentAmpere, 1, out);
  return out[1]! / model.forwardGain >= FEEDING_SIEMENS;
}

/** Whether a law conducts enough at x to hold its nodes. */
function lawHolds(law: LawStamp, x: Float64Array): boolean {
  const answer = lawAt(law, x);
  for (let i = 0; i < law.controls.length; i += 1) if (Math.abs(answer[2 + i]!) >= FEEDING_SIEMENS) return true;
  return false;
}

/** Which nodes something gives a level to, in these driver states: 1 a node that conducts to ground through parts, inputs or active outputs; 0 a floating one.
 *  x: volts at which a junction has to conduct to hold anything; without them every junction does. Length nodeCount. */
export function heldNodes(network: Network, drives: Uint8Array, x?: Float64Array): Uint8Array {
  const parent = Int32Array.from({ length: network.nodeCount + 1 }, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
    return i;
  };
  const least = x ? FEEDING_SIEMENS : HOLDING_SIEMENS;
  const join = (a: number, b: number): void => void (parent[root(a + 1)] = root(b + 1));
  for (const { a, b, siemens } of network.conductances) if (siemens >= least) join(a, b);
  for (const { a, b } of network.branches) join(a, b);
  for (const { a, b, element } of network.junctions) {
    if (x) diodeCurrent(across(x, a, b), element.model, out);
    if (!x || out[1]! >= FEEDING_SIEMENS) join(a, b);
  }
  for (const { nodes, element } of network.transistors) if (!x || conducts(x, nodes, element.model)) nodes.forEach((node) => join(node, nodes[1]));
  for (const law of network.laws) if (law.element.holds && isOpen(law, drives) && (!x || lawHolds(law, x))) join(law.a, law.b);
  return Uint8Array.from({ length: network.nodeCount }, (_, node) => (root(node + 1) === root(0) ? 1 : 0));
}
