import { LEAK_SIEMENS, nodesOf, type Element } from '../device';
import { ALWAYS, logicStamp, NEVER, nodeOf, type LawStamp, type Network } from './network';
import type { Pattern } from './sparse';

/** Where in the pattern (row, column) stands; -1 where either is ground or there is no such place. */
function slotOf({ start, row }: Pattern, r: number, c: number): number {
  if (r < 0 || c < 0) return -1;
  for (let p = start[c]!; p < start[c + 1]!; p += 1) if (row[p] === r) return p;
  return -1;
}

/** A network in the making: the lists of stamps are copied where they change, structure and analysis are shared. */
interface Draft {
  readonly base: Network;
  readonly constant: Float64Array;
  conductances: Network['conductances'];
  junctions: Network['junctions'];
  transistors: Network['transistors'];
  laws: Network['laws'];
  chips: Network['chips'];
}

/** The network with some of its elements exchanged for others, its structure and analysis shared: what a fault comes to. before: elements of this network, as the
 *  same objects; those that are in `after` too stay. Returns undefined where the structure does not hold such a change, and a network of its own has to be built.
 *  Cost: one copy of the values. */
export function deriveNetwork(base: Network, before: readonly Element[], after: readonly Element[]): Network | undefined {
  const draft: Draft = { ...base, base, constant: Float64Array.from(base.constant) };
  for (const element of before) if (!after.includes(element) && !remove(draft, element)) return undefined;
  for (const element of after) if (!before.includes(element) && !add(draft, element)) return undefined;
  const { constant, conductances, junctions, transistors, laws, chips } = draft;
  return { ...base, constant, conductances, junctions, transistors, laws, chips };
}

function putConductance({ base: { pattern }, constant }: Draft, a: number, b: number, siemens: number): boolean {
  const slots = [slotOf(pattern, a, a), slotOf(pattern, b, b), slotOf(pattern, a, b), slotOf(pattern, b, a)] as const;
  if (a >= 0 && b >= 0 && a !== b && (slots[2] < 0 || slots[3] < 0)) return false;
  slots.forEach((slot, i) => slot >= 0 && (constant[slot]! += i < 2 ? siemens : -siemens));
  return true;
}

function remove(draft: Draft, element: Element): boolean {
  switch (element.type) {
    case 'capacitance':
      return true;
    case 'conductance':
    case 'coil': {
      const found = draft.conductances.find((stamp) => stamp.element === element);
      if (!found) return false;
      draft.conductances = draft.conductances.filter((stamp) => stamp !== found);
      return putConductance(draft, found.a, found.b, -found.siemens);
    }
    case 'junction': {
      const found = draft.junctions.find((stamp) => stamp.element === element);
      if (!found) return false;
      draft.junctions = draft.junctions.filter((stamp) => stamp !== found);
      // The leak of a junction stays, so that no node hangs on nothing.
      return putConductance(draft, found.a, found.b, LEAK_SIEMENS);
    }
    case 'law':
      draft.laws = draft.laws.map((stamp) => (stamp.element === element ? { ...stamp, driver: NEVER } : stamp));
      return true;
    case 'logic':
      // A chip keeps its place among the chips: what goes in for it has its name.
      return draft.chips.some(({ logic }) => logic === element.logic);
    default:
      return false;
  }
}

function add(draft: Draft, element: Element): boolean {
  const { base } = draft;
  const number = (name: string): number | undefined => nodeOf(base, name);
  const nodes = nodesOf(element).map(number);
  if (nodes.includes(undefined)) return false;
  switch (element.type) {
    case 'capacitance':
      return true;
    case 'conductance':
    case 'coil': {
      const [a, b] = nodes as [number, number];
      const siemens = element.type === 'coil' ? 1 / element.ohm : element.siemens;
      if (!Number.isFinite(siemens) || componentOf(base, a) !== componentOf(base, b) || !putConductance(draft, a, b, siemens)) return false;
      draft.conductances = [...draft.conductances, { element, a, b, siemens, spread: element.spread }];
      return true;
    }
    case 'law':
      return addLaw(draft, element, number);
    case 'logic': {
      const { supply, ground, inputs, outputs } = element.logic;
      const all = [supply, ground, ...inputs.map(({ node }) => node), ...outputs.map(({ node }) => node)];
      if (all.some((name) => number(name) === undefined)) return false;
      const numbers = new Map(base.drivers.map((driver, i) => [driver, i]));
      const stamp = logicStamp(element.logic, (name) => number(name)!, numbers);
      draft.chips = draft.chips.map((old) => (old.logic.ref === element.logic.ref ? stamp : old));
      return true;
    }
    default:
      return false;
  }
}

function componentOf({ component }: Network, node: number): number {
  return node < 0 ? 0 : component[node]!;
}

/** A law in place of one with the same nodes: only what it says is new. */
function addLaw(draft: Draft, element: Extract<Element, { type: 'law' }>, number: (name: string) => number | undefined): boolean {
  const [a, b] = [number(element.a), number(element.b)];
  const controls = element.controls.map(number);
  const same = (stamp: LawStamp): boolean =>
    stamp.a === a && stamp.b === b && stamp.controls.length === controls.length && controls.every((node, i) => node === stamp.controls[i]);
  const model = draft.base.laws.find(same);
  if (!model) return false;
  const driver = element.gate ? draft.base.drivers.indexOf(element.gate.driver) : ALWAYS;
  draft.laws = [...draft.laws, { ...model, element, driver }];
  return true;
}
