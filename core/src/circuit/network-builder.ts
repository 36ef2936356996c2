import { GROUND, nameKey } from '../board';
import { everyNode, LEAK_SIEMENS, nodesOf, type Element, type NodeName } from '../device';
import { dcComponents } from './components';
import {
  ALWAYS,
  DRIVE,
  logicStamp,
  NEVER,
  type BranchStamp,
  type CharacteristicStamp,
  type ConductanceStamp,
  type JunctionStamp,
  type LogicStamp,
  type Network,
  type PairStamp,
  type TransistorStamp,
} from './network';
import { PatternBuilder, samePattern, SparseLu } from './sparse';

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

type Of<T extends Element['type']> = Extract<Element, { type: T }>;

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
  const building = new Building(elements, extraNets);
  for (const element of elements) stampOf(element.type)(building, element);
  return building.finish(like);
}

/** A coil without resistance has a current of its own. */
function isBranch(element: Element): boolean {
  return element.type === 'branch' || (element.type === 'coil' && element.ohm < BRANCH_BELOW_OHM);
}

/** What each kind of element puts into the matrix. A kind without its stamp does not compile. */
const STAMPS: { readonly [T in Element['type']]: (to: Building, element: Of<T>) => void } = {
  conductance: (to, element) => to.conductance(element, element.siemens),
  coil: (to, element) =>
    element.ohm < BRANCH_BELOW_OHM
      ? to.branch(element, 0, BRANCH_LEAST_OHM)
      : to.conductance(element, 1 / element.ohm),
  branch: (to, element) => to.branch(element, element.volt, element.ohm),
  // At rest no current flows in it; its place is kept, so that the pattern is that of the board.
  capacitance: (to, element) => void to.pair(...to.ends(element)),
  current: (to, element) => {
    const [a, b] = to.ends(element);
    if (a >= 0) to.drive[a]! -= element.ampere;
    if (b >= 0) to.drive[b]! += element.ampere;
  },
  junction: (to, element) => void to.junctions.push({ ...to.pair(...to.ends(element)), element }),
  transistor: (to, element) => {
    const { collector, base, emitter } = element;
    const nodes = [to.number(collector), to.number(base), to.number(emitter)] as const;
    to.transistors.push({ element, nodes, slots: to.slots(nodes, nodes) });
  },
  characteristic: (to, element) => {
    const [a, b] = [to.number(element.a), to.number(element.b)];
    const controls = Int32Array.from(element.controls, to.number);
    const slots = to.slots([a, b], [...controls]);
    to.addPair(to.pair(a, b), LEAK_SIEMENS);
    const { gate } = element;
    to.characteristics.push({
      element,
      a,
      b,
      controls,
      slots,
      driver: gate ? (to.driverNumber.get(gate.driver) ?? NEVER) : ALWAYS,
      when: gate ? DRIVE[gate.when] : DRIVE.off,
    });
  },
  logic: (to, { logic }) => void to.chips.push(logicStamp(logic, to.number, to.driverNumber)),
};

function stampOf(type: Element['type']): (to: Building, element: Element) => void {
  return STAMPS[type] as (to: Building, element: Element) => void;
}

/** A network while its elements are stamped. */
class Building {
  readonly driverNumber: ReadonlyMap<string, number>;
  readonly drive: Float64Array;
  readonly junctions: JunctionStamp[] = [];
  readonly transistors: TransistorStamp[] = [];
  readonly characteristics: CharacteristicStamp[] = [];
  readonly chips: LogicStamp[] = [];
  private readonly branches: BranchStamp[] = [];
  private readonly conductances: ConductanceStamp[] = [];
  private readonly nodeIndex = new Map<string, number>();
  private readonly nodeNames: NodeName[] = [];
  private readonly nodeCount: number;
  private readonly size: number;
  private readonly drivers: readonly string[];
  private readonly builder: PatternBuilder;
  private readonly constants: [slot: number, value: number][] = [];

  constructor(
    private readonly elements: readonly Element[],
    extraNets: readonly NodeName[],
  ) {
    extraNets.forEach((net) => this.number(net));
    for (const element of elements) for (const node of everyNode(element)) this.number(node);
    this.drivers = elements.flatMap((element) =>
      element.type === 'logic' ? element.logic.outputs.map(({ driver }) => driver) : [],
    );
    this.driverNumber = new Map(this.drivers.map((driver, i) => [driver, i]));
    this.nodeCount = this.nodeNames.length;
    this.size = this.nodeCount + elements.filter(isBranch).length;
    this.drive = new Float64Array(this.size);
    this.builder = new PatternBuilder(this.size);
    for (let i = 0; i < this.size; i += 1) this.builder.add(i, i);
  }

  /** The unknown of a node; -1 for ground. A node that is new gets the next number. */
  readonly number = (name: NodeName): number => {
    const key = nameKey(name);
    if (key === GROUND) return -1;
    const known = this.nodeIndex.get(key);
    if (known !== undefined) return known;
    this.nodeIndex.set(key, this.nodeNames.length);
    this.nodeNames.push(name);
    return this.nodeNames.length - 1;
  };

  /** The unknowns of the two ends of an element. */
  ends(element: Element): [number, number] {
    return nodesOf(element).map(this.number) as [number, number];
  }

  /** Slots of a block of the matrix, row by row. */
  slots(rows: readonly number[], columns: readonly number[]): Int32Array {
    return Int32Array.from(
      rows.flatMap((row) => columns.map((column) => this.builder.add(row, column))),
    );
  }

  pair(a: number, b: number): PairStamp {
    const { builder } = this;
    return {
      a,
      b,
      aa: builder.add(a, a),
      bb: builder.add(b, b),
      ab: builder.add(a, b),
      ba: builder.add(b, a),
    };
  }

  /** Puts a conductance that never changes between the nodes of a pair. */
  addPair({ aa, bb, ab, ba }: PairStamp, siemens: number): void {
    this.put(aa, siemens);
    this.put(bb, siemens);
    this.put(ab, -siemens);
    this.put(ba, -siemens);
  }

  conductance(element: Of<'conductance'> | Of<'coil'>, siemens: number): void {
    const [a, b] = this.ends(element);
    this.addPair(this.pair(a, b), siemens);
    this.conductances.push({ element, a, b, siemens, spread: element.spread });
  }

  /** A source, or a coil without resistance: its current is an unknown of its own. */
  branch(element: Of<'branch'> | Of<'coil'>, volt: number, ohm: number): void {
    const [a, b] = this.ends(element);
    const row = this.nodeCount + this.branches.length;
    this.at(a, row, 1);
    this.at(b, row, -1);
    this.at(row, a, 1);
    this.at(row, b, -1);
    this.at(row, row, -ohm);
    this.drive[row]! += volt;
    this.branches.push({ element, row, a, b, volt });
  }

  private at(row: number, column: number, value: number): void {
    this.put(this.builder.add(row, column), value);
  }

  private put(slot: number, value: number): void {
    if (slot >= 0) this.constants.push([slot, value]);
  }

  /** Holds one node of every component that hangs on nothing. Returns the component of each node. */
  private tie(): Int32Array {
    const component = dcComponents(this.elements, this.nodeCount, this.number);
    const tied = new Set<number>([0]);
    for (let node = 0; node < this.nodeCount; node += 1) {
      if (tied.has(component[node]!)) continue;
      tied.add(component[node]!);
      this.at(node, node, TIE_SIEMENS);
    }
    return component;
  }

  finish(like: Network | undefined): Network {
    const component = this.tie();
    const { pattern, place } = this.builder.finish();
    const constant = new Float64Array(pattern.row.length);
    for (const [slot, value] of this.constants) constant[place[slot]!]! += value;
    const placed = (slot: number): number => (slot < 0 ? -1 : place[slot]!);
    const shared = like && samePattern(like.pattern, pattern) ? like : undefined;
    const { elements, nodeIndex, nodeNames, nodeCount, size, drive, branches, chips } = this;
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
      junctions: this.junctions.map((junction) => ({
        ...junction,
        aa: placed(junction.aa),
        bb: placed(junction.bb),
        ab: placed(junction.ab),
        ba: placed(junction.ba),
      })),
      transistors: this.transistors.map((one) => ({ ...one, slots: one.slots.map(placed) })),
      characteristics: this.characteristics.map((one) => ({
        ...one,
        slots: one.slots.map(placed),
      })),
      chips,
      drivers: this.drivers,
      conductances: this.conductances,
      extra: 0,
      component,
    };
  }
}
