import type { Element } from '../device';
import type { Network } from './network';
import type { Pattern } from './sparse';

/** Where in the pattern (row, column) stands; -1 where either is ground or there is no such place. */
function slotOf({ start, row }: Pattern, r: number, c: number): number {
  if (r < 0 || c < 0) return -1;
  for (let p = start[c]!; p < start[c + 1]!; p += 1) if (row[p] === r) return p;
  return -1;
}

/** The network with other conductances between two of its nodes, its structure and analysis shared: what a fault of a two-pin part comes to.
 *  before, after: the conductances and coils that go and come. Returns undefined where the structure does not hold such a change.
 *  Cost: one copy of the values. */
export function patchNetwork(network: Network, a: number, b: number, before: readonly Element[], after: readonly Element[]): Network | undefined {
  const componentOf = (node: number): number => (node < 0 ? 0 : network.component[node]!);
  if (componentOf(a) !== componentOf(b)) return undefined;
  const slots = [slotOf(network.pattern, a, a), slotOf(network.pattern, b, b), slotOf(network.pattern, a, b), slotOf(network.pattern, b, a)] as const;
  if (a >= 0 && b >= 0 && (slots[2] < 0 || slots[3] < 0)) return undefined;
  const constant = Float64Array.from(network.constant);
  const conductances = [...network.conductances];
  const put = (siemens: number): void => slots.forEach((slot, i) => slot >= 0 && (constant[slot]! += i < 2 ? siemens : -siemens));
  for (const element of before) {
    const siemens = dcConductance(element);
    if (siemens === 0) continue;
    const at = conductances.findIndex((c) => c.siemens === siemens && ((c.a === a && c.b === b) || (c.a === b && c.b === a)));
    if (at < 0) return undefined;
    conductances.splice(at, 1);
    put(-siemens);
  }
  for (const element of after) {
    const siemens = dcConductance(element);
    if (siemens === 0 || !('spread' in element)) continue;
    conductances.push({ element, a, b, siemens, spread: element.spread });
    put(siemens);
  }
  return { ...network, constant, conductances };
}

/** DC conductance of a two-terminal element that has one, siemens; 0 for a capacitance. */
function dcConductance(element: Element): number {
  if (element.type === 'conductance') return element.siemens;
  return element.type === 'coil' ? 1 / element.ohm : 0;
}
