import { LEAK_SIEMENS, nodesOf, type Element } from '../device';
import { ALWAYS, DRIVE, logicStamp, NEVER, nodeOf, type BranchStamp, type JunctionStamp, type LawStamp, type Network, type TransistorStamp } from './network';
import { slotOf } from './sparse';

/** A conductance between two unknowns that a circuit has more (negative: less) than another; -1 is ground. */
export interface ConductanceChange {
  readonly a: number;
  readonly b: number;
  readonly siemens: number;
}

/** What one circuit has that another has not, by the numbers of the other's unknowns. Nodes that only the new one has follow after all its unknowns. */
export interface Difference {
  readonly conductances: readonly ConductanceChange[];
  readonly gone: { readonly junctions: readonly JunctionStamp[]; readonly transistors: readonly TransistorStamp[]; readonly laws: readonly LawStamp[] };
  readonly come: { readonly junctions: readonly JunctionStamp[]; readonly transistors: readonly TransistorStamp[]; readonly laws: readonly LawStamp[] };
  /** More ohms and volts in a branch. */
  readonly branches: readonly { readonly row: number; readonly ohm: number; readonly volt: number }[];
  /** Nodes that only the new circuit has. */
  readonly extra: number;
}

/** The part of a difference that has no place in the other circuit's matrix. */
export type LooseDifference = Omit<Difference, 'gone'>;

/** A circuit with some of its elements exchanged for others. */
export interface Exchange {
  /** Its lists are those of the new circuit. */
  readonly network: Network;
  /** The new circuit as far as the other's matrix has places for it, and what is left: nothing where `whole`. */
  readonly inMatrix: Network;
  readonly loose: LooseDifference;
  readonly whole: boolean;
  readonly difference: Difference;
}

/** The network with some of its elements exchanged, its structure and analysis shared. Returns undefined where the structure does not hold such a change, and a
 *  network of its own has to be built. before, after: as in exchangeElements. */
export function deriveNetwork(base: Network, before: readonly Element[], after: readonly Element[]): Network | undefined {
  const exchange = exchangeElements(base, before, after);
  return exchange?.whole ? exchange.network : undefined;
}

/** Exchanges some elements of a network for others: what a fault comes to. before: elements of this network, as the same objects; those that are in `after` too
 *  stay. Returns undefined where it cannot be told beside this network at all. Cost: one copy of the values. */
export function exchangeElements(base: Network, before: readonly Element[], after: readonly Element[]): Exchange | undefined {
  return new Exchanging(base).run(before, after);
}

const NO_SLOTS = { aa: -1, bb: -1, ab: -1, ba: -1 } as const;

/** The laws of a network by their element, and one on each set of nodes. */
interface LawPlaces {
  readonly byElement: ReadonlyMap<Element, number>;
  readonly byNodes: ReadonlyMap<string, LawStamp>;
}

const PLACES = new WeakMap<Network['laws'], LawPlaces>();

const nodesKey = (a: number, b: number, controls: Iterable<number>): string => `${a}|${b}|${[...controls].join()}`;

function placesOf(laws: Network['laws']): LawPlaces {
  let known = PLACES.get(laws);
  if (known) return known;
  const byElement = new Map<Element, number>();
  const byNodes = new Map<string, LawStamp>();
  laws.forEach((stamp, place) => {
    byElement.set(stamp.element, place);
    const key = nodesKey(stamp.a, stamp.b, stamp.controls);
    if (!byNodes.has(key)) byNodes.set(key, stamp);
  });
  PLACES.set(laws, (known = { byElement, byNodes }));
  return known;
}

/** A network in the making: the lists of stamps are copied where they change. Lives as long as one exchange. */
class Exchanging {
  private readonly constant: Float64Array;
  private drive: Float64Array;
  private conductances: Network['conductances'];
  private junctions: Network['junctions'];
  private transistors: Network['transistors'];
  /** Places of laws that go: they keep their place, and conduct no more. */
  private readonly goneLaws: number[] = [];
  private chips: Network['chips'];
  private branches: Network['branches'];
  private readonly extra = new Map<string, number>();
  private readonly changes: ConductanceChange[] = [];
  private readonly gone = { junctions: [] as JunctionStamp[], transistors: [] as TransistorStamp[], laws: [] as LawStamp[] };
  private readonly come = { junctions: [] as JunctionStamp[], transistors: [] as TransistorStamp[], laws: [] as LawStamp[] };
  private readonly branchChanges: { row: number; ohm: number; volt: number }[] = [];
  private readonly loose = {
    conductances: [] as ConductanceChange[],
    junctions: [] as JunctionStamp[],
    transistors: [] as TransistorStamp[],
    laws: [] as LawStamp[],
  };
  /** Branches taken out that wait for what goes in their place. */
  private readonly waiting: BranchStamp[] = [];

  constructor(private readonly base: Network) {
    this.constant = Float64Array.from(base.constant);
    ({ drive: this.drive, conductances: this.conductances, junctions: this.junctions, transistors: this.transistors } = base);
    ({ chips: this.chips, branches: this.branches } = base);
  }

  run(before: readonly Element[], after: readonly Element[]): Exchange | undefined {
    for (const element of before) if (!after.includes(element) && !this.remove(element)) return undefined;
    for (const element of after) if (!before.includes(element) && !this.add(element)) return undefined;
    if (this.waiting.length > 0) return undefined;
    // A node that only the new circuit has is tied like every floating node until something holds it: the tie is taken out again.
    for (const node of this.extra.values()) this.putConductance(node, -1, -1);
    const { base, constant, drive, conductances, junctions, transistors, chips, branches, changes, gone, come, branchChanges, extra, loose } = this;
    const laws = this.newLaws();
    const whole = loose.conductances.length + loose.junctions.length + loose.transistors.length + loose.laws.length === 0;
    const network: Network = { ...base, constant, drive, conductances, junctions, transistors, laws, chips, branches, extra: extra.size };
    const without = <T>(all: readonly T[], some: readonly T[]): readonly T[] => (some.length === 0 ? all : all.filter((one) => !some.includes(one)));
    return {
      network,
      inMatrix: whole
        ? network
        : { ...network, junctions: without(junctions, loose.junctions), transistors: without(transistors, loose.transistors), laws: without(laws, loose.laws) },
      whole,
      loose: { conductances: loose.conductances, branches: [], come: loose, extra: extra.size },
      difference: { conductances: changes, gone, come, branches: branchChanges, extra: extra.size },
    };
  }

  private newLaws(): Network['laws'] {
    const { base, goneLaws, come } = this;
    if (goneLaws.length + come.laws.length === 0) return base.laws;
    const laws = base.laws.slice();
    for (const place of goneLaws) laws[place] = { ...laws[place]!, driver: NEVER };
    laws.push(...come.laws);
    return laws;
  }

  private number(name: string): number {
    const known = nodeOf(this.base, name) ?? this.extra.get(name);
    if (known !== undefined) return known;
    const fresh = this.base.size + this.extra.size;
    this.extra.set(name, fresh);
    return fresh;
  }

  private putConductance(a: number, b: number, siemens: number): void {
    const { base, constant } = this;
    this.changes.push({ a, b, siemens });
    const slots = [slotOf(base.pattern, a, a), slotOf(base.pattern, b, b), slotOf(base.pattern, a, b), slotOf(base.pattern, b, a)] as const;
    const size = base.size;
    if (a >= size || b >= size || (a >= 0 && b >= 0 && a !== b && (slots[2] < 0 || slots[3] < 0))) this.loose.conductances.push({ a, b, siemens });
    else slots.forEach((slot, i) => slot >= 0 && (constant[slot]! += i < 2 ? siemens : -siemens));
  }

  private remove(element: Element): boolean {
    switch (element.type) {
      case 'capacitance':
        return true;
      case 'conductance':
      case 'coil': {
        const found = this.conductances.find((stamp) => stamp.element === element);
        if (!found) return this.removeBranch(element);
        this.conductances = this.conductances.filter((stamp) => stamp !== found);
        this.putConductance(found.a, found.b, -found.siemens);
        return true;
      }
      case 'branch':
        return this.removeBranch(element);
      case 'junction': {
        const found = this.junctions.find((stamp) => stamp.element === element);
        if (!found) return false;
        this.junctions = this.junctions.filter((stamp) => stamp !== found);
        this.gone.junctions.push(found);
        // The leak of a junction stays, so that no node hangs on nothing.
        this.putConductance(found.a, found.b, LEAK_SIEMENS);
        return true;
      }
      case 'transistor': {
        const found = this.transistors.find((stamp) => stamp.element === element);
        if (!found) return false;
        this.transistors = this.transistors.filter((stamp) => stamp !== found);
        this.gone.transistors.push(found);
        const [c, b, e] = found.nodes;
        this.putConductance(c, b, LEAK_SIEMENS);
        this.putConductance(b, e, LEAK_SIEMENS);
        return true;
      }
      case 'law': {
        const place = placesOf(this.base.laws).byElement.get(element);
        if (place === undefined) return false;
        this.goneLaws.push(place);
        this.gone.laws.push(this.base.laws[place]!);
        return true;
      }
      case 'logic':
        // A chip keeps its place among the chips: what goes in for it has its name.
        return this.chips.some(({ logic }) => logic === element.logic);
      default:
        return false;
    }
  }

  private removeBranch(element: Element): boolean {
    const found = this.branches.find((stamp) => stamp.element === element);
    if (found) this.waiting.push(found);
    return found !== undefined;
  }

  private add(element: Element): boolean {
    switch (element.type) {
      case 'capacitance':
        return true;
      case 'branch':
        return this.replaceBranch(element, element.ohm, element.volt);
      case 'conductance':
      case 'coil': {
        const siemens = element.type === 'coil' ? 1 / element.ohm : element.siemens;
        if (this.replaceBranch(element, 1 / siemens, 0)) return true;
        const [a, b] = [this.number(element.a), this.number(element.b)];
        if (!Number.isFinite(siemens) || !this.joined(a, b)) return false;
        this.putConductance(a, b, siemens);
        this.conductances = [...this.conductances, { element, a, b, siemens, spread: element.spread }];
        return true;
      }
      case 'junction': {
        const stamp = { ...NO_SLOTS, a: this.number(element.anode), b: this.number(element.cathode), element };
        this.junctions = [...this.junctions, stamp];
        this.come.junctions.push(stamp);
        this.loose.junctions.push(stamp);
        return this.joined(stamp.a, stamp.b);
      }
      case 'transistor': {
        const nodes = nodesOf(element).map((name) => this.number(name)) as [number, number, number];
        const stamp = { element, nodes, slots: new Int32Array(9).fill(-1) };
        this.transistors = [...this.transistors, stamp];
        this.come.transistors.push(stamp);
        this.loose.transistors.push(stamp);
        return this.joined(nodes[0], nodes[1]) && this.joined(nodes[1], nodes[2]);
      }
      case 'law':
        return this.addLaw(element);
      case 'logic':
        return this.addChip(element);
      default:
        return false;
    }
  }

  /** Puts an element in the place of a branch that was taken out between the same nodes. */
  private replaceBranch(element: Element, ohm: number, volt: number): boolean {
    if (this.waiting.length === 0) return false;
    const [a, b] = nodesOf(element).map((name) => this.number(name));
    const i = this.waiting.findIndex((stamp) => stamp.a === a && stamp.b === b);
    const old = this.waiting[i];
    if (!old) return false;
    this.waiting.splice(i, 1);
    const before = old.element.type === 'branch' ? old.element.ohm : 0;
    this.branchChanges.push({ row: old.row, ohm: ohm - before, volt: volt - old.volt });
    const slot = slotOf(this.base.pattern, old.row, old.row);
    this.constant[slot]! -= ohm - before;
    this.drive = Float64Array.from(this.drive);
    this.drive[old.row]! += volt - old.volt;
    this.branches = this.branches.map((stamp) => (stamp === old ? { ...stamp, element, volt } : stamp));
    return true;
  }

  private joined(a: number, b: number): boolean {
    const { size, component } = this.base;
    if (a >= size || b >= size) return true;
    return (a < 0 ? 0 : component[a]) === (b < 0 ? 0 : component[b]);
  }

  /** A law. Where the circuit has one on the same nodes, only what it says is new. */
  private addLaw(element: Extract<Element, { type: 'law' }>): boolean {
    const [a, b] = [this.number(element.a), this.number(element.b)];
    const controls = element.controls.map((name) => this.number(name));
    const model = placesOf(this.base.laws).byNodes.get(nodesKey(a, b, controls));
    if (!model) {
      if (!this.joined(a, b)) return false;
      this.putConductance(a, b, LEAK_SIEMENS);
    }
    const { gate } = element;
    const stamp: LawStamp = {
      ...(model ?? { a, b, controls: Int32Array.from(controls), slots: new Int32Array(2 * controls.length).fill(-1) }),
      element,
      driver: gate ? this.base.drivers.indexOf(gate.driver) : ALWAYS,
      when: gate ? DRIVE[gate.when] : DRIVE.off,
    };
    this.come.laws.push(stamp);
    if (!model) this.loose.laws.push(stamp);
    return true;
  }

  private addChip({ logic }: Extract<Element, { type: 'logic' }>): boolean {
    const numbers = new Map(this.base.drivers.map((driver, i) => [driver, i]));
    const stamp = logicStamp(logic, (name) => this.number(name), numbers);
    this.chips = this.chips.map((old) => (old.logic.ref === logic.ref ? stamp : old));
    return true;
  }
}
