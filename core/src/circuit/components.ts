import { nodesOf, type Element, type NodeName } from '../device';

/**
 * Numbers the components that DC paths join. Returns one number a node: 0 with ground, 1 … for
 * floating ones.
 * number: node of a name, -1 for ground. A junction counts as a path whichever way it points; a
 * capacitor and a current source do not.
 */
export function dcComponents(
  elements: readonly Element[],
  nodeCount: number,
  number: (name: NodeName) => number,
): Int32Array {
  const parent = Int32Array.from({ length: nodeCount + 1 }, (_, i) => i);
  const root = (i: number): number => {
    let r = i;
    while (parent[r] !== r) r = parent[r]!;
    while (parent[i] !== r) [parent[i], i] = [r, parent[i]!];
    return r;
  };
  for (const element of elements) {
    if (element.type === 'capacitance' || element.type === 'current' || element.type === 'logic')
      continue;
    const [first, ...others] = nodesOf(element).map(number);
    for (const other of others) parent[root(other! + 1)] = root(first! + 1);
  }
  const component = new Int32Array(nodeCount);
  const names = new Map<number, number>([[root(0), 0]]);
  for (let node = 0; node < nodeCount; node += 1) {
    const r = root(node + 1);
    if (!names.has(r)) names.set(r, names.size);
    component[node] = names.get(r)!;
  }
  return component;
}
