import { isOpen } from './law-stamp';
import type { Network } from './network';

/** What lies below this conductance does not give a net its level, siemens: a lifted leg, a dirty open switch. */
const HOLDING_SIEMENS = 2e-8;

/** Which nodes something gives a level to, in these driver states: 1 a node that conducts to ground through parts, inputs or active outputs; 0 a floating one.
 *  Length nodeCount. */
export function heldNodes(network: Network, drives: Uint8Array): Uint8Array {
  const parent = Int32Array.from({ length: network.nodeCount + 1 }, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
    return i;
  };
  const join = (a: number, b: number): void => void (parent[root(a + 1)] = root(b + 1));
  for (const { a, b, siemens } of network.conductances) if (siemens >= HOLDING_SIEMENS) join(a, b);
  for (const { a, b } of network.branches) join(a, b);
  for (const { a, b } of network.junctions) join(a, b);
  for (const { nodes } of network.transistors) nodes.forEach((node) => join(node, nodes[1]));
  for (const law of network.laws) if (law.element.holds && isOpen(law, drives)) join(law.a, law.b);
  return Uint8Array.from({ length: network.nodeCount }, (_, node) => (root(node + 1) === root(0) ? 1 : 0));
}
