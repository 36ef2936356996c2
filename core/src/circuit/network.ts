import { GROUND, nameKey } from '../board';
import {
  everyNode,
  LEAK_SIEMENS,
  nodesOf,
  type ChipLogic,
  type Element,
  type NodeName,
} from '../device';
import { dcComponents } from './components';
import { PatternBuilder, SparseLu, samePattern, type Pattern } from './sparse';

/**
 * Coils below this resistance become a branch with a current of its own, so that a zero-ohm coil
 * needs no infinite conductance.
 */
const BRANCH_BELOW_OHM = 1e-6;
/**
 * Resistance of such a branch: keeps two zero-ohm coils in parallel solvable. Effect on any
 * reading: nanovolts.
 */
const BRANCH_LEAST_OHM = 1e-9;
/**
 * Holds one node of every floating component, siemens. No current flows in it: it only fixes the
 * level of what has none.
 */
const TIE_SIEMENS = 1;

/**
 * Matrix slots of a two-terminal conductance between nodes a and b; -1 where a terminal is ground.
 */
export interface PairStamp {
  readonly a: number;
  readonly b: number;
  readonly aa: number;
  readonly bb: number;
  readonly ab: number;
  readonly ba: number;
}

export interface JunctionStamp extends PairStamp {
  readonly element: Extract<Element, { type: 'junction' }>;
}

export interface TransistorStamp {
  readonly element: Extract<Element, { type: 'transistor' }>;
  /** Nodes C, B, E and the nine slots, row by row. */
  readonly nodes: readonly [number, number, number];
  readonly slots: Int32Array;
}

/**
 * A characteristic between nodes a and b. `controls` are the nodes it looks at (-1 ground); slots run row a
 * then row b, a column a control.
 */
export interface CharacteristicStamp {
  readonly element: Extract<Element, { type: 'characteristic' }>;
  readonly a: number;
  readonly b: number;
  readonly controls: Int32Array;
  readonly slots: Int32Array;
  /** Which driver has to be in which state for it to conduct; ALWAYS or NEVER. */
  readonly driver: number;
  readonly when: DriveState;
}

/**
 * In place of a driver: a characteristic that always conducts, and one that was taken out of a network and
 * only leaks.
 */
export const ALWAYS = -1;
export const NEVER = -2;

/** What a chip's output stage does. */
export type DriveState = 0 | 1 | 2;
export const DRIVE = { off: 0, low: 1, high: 2 } as const;

/** A chip's function with its nodes numbered. */
export interface LogicStamp {
  readonly logic: ChipLogic;
  readonly supply: number;
  readonly ground: number;
  readonly inputs: readonly { readonly node: number; readonly against: number | undefined }[];
  readonly outputs: readonly { readonly node: number; readonly driver: number }[];
}

export interface BranchStamp {
  readonly element: Element;
  readonly row: number;
  readonly a: number;
  readonly b: number;
  readonly volt: number;
}

/** A conductance or a coil: what tolerance acts on. */
export interface ConductanceStamp {
  readonly element: Element;
  readonly a: number;
  readonly b: number;
  readonly siemens: number;
  readonly spread: number;
}

/**
 * A circuit ready to be solved: unknowns numbered, matrix analysed, everything that is constant
 * already stamped. Unknowns 0 … nodeCount-1 are node voltages, the rest branch currents. Ground is
 * node -1.
 */
export interface Network {
  readonly elements: readonly Element[];
  readonly nodeIndex: ReadonlyMap<string, number>;
  readonly nodeNames: readonly NodeName[];
  readonly nodeCount: number;
  readonly size: number;
  readonly pattern: Pattern;
  readonly lu: SparseLu;
  /** Values of the constant stamps, in pattern order. */
  readonly constant: Float64Array;
  /** Right-hand side of sources at full strength, length size. */
  readonly drive: Float64Array;
  readonly branches: readonly BranchStamp[];
  readonly junctions: readonly JunctionStamp[];
  readonly transistors: readonly TransistorStamp[];
  readonly characteristics: readonly CharacteristicStamp[];
  readonly chips: readonly LogicStamp[];
  /** Names of the drivers in the order of their numbers: `U7.11`. */
  readonly drivers: readonly string[];
  /** Conductances (coils included) in element order. */
  readonly conductances: readonly ConductanceStamp[];
  /** Nodes beyond all unknowns that an exchange of elements has added. */
  readonly extra: number;
  /** DC component of each node; 0 is the one with ground, others float. */
  readonly component: Int32Array;
}

/** The number of a node; -1 for ground and undefined where the circuit has no such node. */
export function nodeOf(network: Network, net: NodeName): number | undefined {
  const key = nameKey(net);
  return key === GROUND ? -1 : network.nodeIndex.get(key);
}

/**
 * Builds the network of a list of elements. extraNets: nets to number even where nothing conducts
 * to them. like: an earlier network; where the matrix pattern is the same its analysis is shared
 * (and its factor is then overwritten by this one's). Cost: linear in the elements, plus the
 * ordering where the pattern is new.
 */
export function buildNetwork(
  elements: readonly Element[],
  extraNets: readonly NodeName[] = [],
  like?: Network,
): Network {
  const nodeIndex = new Map<string, number>();
  const nodeNames: NodeName[] = [];
  const number = (name: NodeName): number => {
    const key = nameKey(name);
    if (key === GROUND) return -1;
    const known = nodeIndex.get(key);
    if (known !== undefined) return known;
    nodeIndex.set(key, nodeNames.length);
    nodeNames.push(name);
    return nodeNames.length - 1;
  };
  extraNets.forEach(number);
  for (const element of elements) for (const node of everyNode(element)) number(node);
  const drivers = elements.flatMap((element) =>
    element.type === 'logic' ? element.logic.outputs.map(({ driver }) => driver) : [],
  );
  const driverNumber = new Map(drivers.map((driver, i) => [driver, i]));
  const nodeCount = nodeNames.length;
  const branchElements = elements.filter(isBranch);
  const size = nodeCount + branchElements.length;

  const builder = new PatternBuilder(size);
  const constants: [number, number][] = [];
  const stamp = (row: number, column: number, value: number): void => {
    const slot = builder.add(row, column);
    if (slot >= 0) constants.push([slot, value]);
  };
  for (let i = 0; i < size; i += 1) builder.add(i, i);
  const pair = (a: number, b: number): PairStamp => ({
    a,
    b,
    aa: builder.add(a, a),
    bb: builder.add(b, b),
    ab: builder.add(a, b),
    ba: builder.add(b, a),
  });

  const drive = new Float64Array(size);
  const branches: BranchStamp[] = [];
  const junctions: JunctionStamp[] = [];
  const transistors: TransistorStamp[] = [];
  const conductances: ConductanceStamp[] = [];
  const characteristics: CharacteristicStamp[] = [];
  const chips: LogicStamp[] = [];
  for (const element of elements) {
    if (element.type === 'logic') {
      chips.push(logicStamp(element.logic, number, driverNumber));
      continue;
    }
    if (element.type === 'characteristic') {
      const [a, b] = [number(element.a), number(element.b)];
      const controls = Int32Array.from(element.controls, number);
      const slots = Int32Array.from(
        [a, b].flatMap((row) => [...controls].map((column) => builder.add(row, column))),
      );
      const { gate } = element;
      for (const [row, column, sign] of [
        [a, a, 1],
        [b, b, 1],
        [a, b, -1],
        [b, a, -1],
      ] as const)
        stamp(row, column, sign * LEAK_SIEMENS);
      characteristics.push({
        element,
        a,
        b,
        controls,
        slots,
        driver: gate ? (driverNumber.get(gate.driver) ?? NEVER) : ALWAYS,
        when: gate ? DRIVE[gate.when] : DRIVE.off,
      });
      continue;
    }
    if (element.type === 'transistor') {
      const nodes = [
        number(element.collector),
        number(element.base),
        number(element.emitter),
      ] as const;
      const slots = Int32Array.from(
        nodes.flatMap((row) => nodes.map((column) => builder.add(row, column))),
      );
      transistors.push({ element, nodes, slots });
      continue;
    }
    const [a, b] = nodesOf(element).map(number) as [number, number];
    if (element.type === 'junction') junctions.push({ ...pair(a, b), element });
    else if (element.type === 'capacitance') pair(a, b);
    else if (element.type === 'current') {
      if (a >= 0) drive[a]! -= element.ampere;
      if (b >= 0) drive[b]! += element.ampere;
    } else if (isBranch(element)) {
      const row = nodeCount + branches.length;
      const volt = element.type === 'branch' ? element.volt : 0;
      const ohm = element.type === 'branch' ? element.ohm : BRANCH_LEAST_OHM;
      stamp(a, row, 1);
      stamp(b, row, -1);
      stamp(row, a, 1);
      stamp(row, b, -1);
      stamp(row, row, -ohm);
      drive[row]! += volt;
      branches.push({ element, row, a, b, volt });
    } else if (element.type === 'conductance' || element.type === 'coil') {
      const siemens = element.type === 'coil' ? 1 / element.ohm : element.siemens;
      const { aa, bb, ab, ba } = pair(a, b);
      for (const [slot, value] of [
        [aa, siemens],
        [bb, siemens],
        [ab, -siemens],
        [ba, -siemens],
      ] as const)
        if (slot >= 0) constants.push([slot, value]);
      conductances.push({ element, a, b, siemens, spread: element.spread });
    }
  }
  const component = dcComponents(elements, nodeCount, number);
  const tied = new Set<number>([0]);
  for (let node = 0; node < nodeCount; node += 1) {
    if (tied.has(component[node]!)) continue;
    tied.add(component[node]!);
    stamp(node, node, TIE_SIEMENS);
  }

  const { pattern, place } = builder.finish();
  const constant = new Float64Array(pattern.row.length);
  for (const [slot, value] of constants) constant[place[slot]!]! += value;
  const placed = <T extends PairStamp>(p: T): T => ({
    ...p,
    aa: at(place, p.aa),
    bb: at(place, p.bb),
    ab: at(place, p.ab),
    ba: at(place, p.ba),
  });
  const shared = like && samePattern(like.pattern, pattern) ? like : undefined;
  return {
    elements,
    nodeIndex,
    nodeNames,
    nodeCount,
    size,
    pattern: shared?.pattern ?? pattern,
    lu: shared?.lu ?? new SparseLu(pattern),
    constant,
    drive,
    branches,
    junctions: junctions.map(placed),
    transistors: transistors.map((t) => ({ ...t, slots: t.slots.map((slot) => at(place, slot)) })),
    characteristics: characteristics.map((l) => ({
      ...l,
      slots: l.slots.map((slot) => at(place, slot)),
    })),
    chips,
    drivers,
    conductances,
    extra: 0,
    component,
  };
}

/** Numbers the nodes of a chip's function. */
export function logicStamp(
  logic: ChipLogic,
  number: (name: NodeName) => number,
  driverNumber: ReadonlyMap<string, number>,
): LogicStamp {
  return {
    logic,
    supply: number(logic.supply),
    ground: number(logic.ground),
    inputs: logic.inputs.map(({ node, against }) => ({
      node: number(node),
      against: against === undefined ? undefined : number(against),
    })),
    outputs: logic.outputs.map(({ node, driver }) => ({
      node: number(node),
      driver: driverNumber.get(driver)!,
    })),
  };
}

const at = (place: Int32Array, slot: number): number => (slot < 0 ? -1 : place[slot]!);

function isBranch(element: Element): boolean {
  return element.type === 'branch' || (element.type === 'coil' && element.ohm < BRANCH_BELOW_OHM);
}
