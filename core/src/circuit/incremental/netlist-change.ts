import { LEAK_SIEMENS, nodesOf, type Element } from '../../device';
import {
  ALWAYS,
  DRIVE,
  logicStamp,
  NEVER,
  nodeOf,
  type BranchStamp,
  type ConductanceStamp,
  type JunctionStamp,
  type CharacteristicStamp,
  type Network,
  type TransistorStamp,
} from '../network';
import { ExchangedNetwork, inMatrixOnly, noChange, type NetworkChange } from './changed-network';
import { slotOf } from '../sparse';
import { oncePer } from '../../once-per';

/**
 * A conductance between two unknowns that a circuit has more (negative: less) than another; -1 is
 * ground.
 */
export interface ConductanceChange {
  readonly a: number;
  readonly b: number;
  readonly siemens: number;
}

/**
 * What one circuit has that another has not, by the numbers of the other's unknowns. Nodes that
 * only the new one has follow after all its unknowns.
 */
export interface Difference {
  readonly conductances: readonly ConductanceChange[];
  readonly gone: {
    readonly junctions: readonly JunctionStamp[];
    readonly transistors: readonly TransistorStamp[];
    readonly characteristics: readonly CharacteristicStamp[];
  };
  readonly come: {
    readonly junctions: readonly JunctionStamp[];
    readonly transistors: readonly TransistorStamp[];
    readonly characteristics: readonly CharacteristicStamp[];
  };
  /** More ohms and volts in a branch. */
  readonly branches: readonly {
    readonly row: number;
    readonly ohm: number;
    readonly volt: number;
  }[];
  /** Nodes that only the new circuit has. */
  readonly extra: number;
}

/** The part of a difference that has no place in the other circuit's matrix. */
export type LowRankDifference = Omit<Difference, 'gone'>;

/** A circuit with some of its elements exchanged for others. */
export interface NetlistChange {
  /** Its lists are those of the new circuit. */
  readonly network: Network;
  /**
   * The new circuit as far as the other's matrix has places for it, and what is left: nothing where
   * `whole`.
   */
  readonly inMatrix: Network;
  readonly correction: LowRankDifference;
  readonly whole: boolean;
  readonly difference: Difference;
}

/**
 * The network with some of its elements exchanged, its structure and analysis shared. Returns
 * undefined where the structure does not hold such a change, and a network of its own has to be
 * built. before, after: as in exchangeElements.
 */
export function deriveNetwork(
  base: Network,
  before: readonly Element[],
  after: readonly Element[],
): Network | undefined {
  const netlistChange = exchangeElements(base, before, after);
  return netlistChange?.whole ? netlistChange.network : undefined;
}

/**
 * Exchanges some elements of a network for others: what a fault comes to. before: elements of this
 * network, as the same objects; those that are in `after` too
 * stay. Returns undefined where it cannot be told beside this network at all. Cost: one copy of the
 * values.
 */
export function exchangeElements(
  base: Network,
  before: readonly Element[],
  after: readonly Element[],
): NetlistChange | undefined {
  return new Exchanging(base).run(before, after);
}

const NO_SLOTS = { aa: -1, bb: -1, ab: -1, ba: -1 } as const;

const nodesKey = (a: number, b: number, controls: Iterable<number>): string =>
  `${a}|${b}|${[...controls].join()}`;

/** The place of each element in a list of stamps. */
const placesByElement = oncePer(
  (stamps: readonly { readonly element: Element }[]): ReadonlyMap<Element, number> =>
    new Map(stamps.map((stamp, place) => [stamp.element, place])),
);

/** The stamp of an element in a list, by an index that is kept with the list. */
function stampOf<T extends { readonly element: Element }>(
  stamps: readonly T[],
  element: Element,
): T | undefined {
  const place = placeOf(stamps, element);
  return place === undefined ? undefined : stamps[place];
}

function placeOf(
  stamps: readonly { readonly element: Element }[],
  element: Element,
): number | undefined {
  return placesByElement(stamps).get(element);
}

/** The first characteristic on each set of nodes, kept with the characteristics. */
const firstOnNodes = oncePer((characteristics: Network['characteristics']) => {
  const found = new Map<string, CharacteristicStamp>();
  for (const stamp of characteristics) {
    const key = nodesKey(stamp.a, stamp.b, stamp.controls);
    if (!found.has(key)) found.set(key, stamp);
  }
  return found;
});

const driverNumbers = oncePer(
  ({ drivers }: Network): ReadonlyMap<string, number> =>
    new Map(drivers.map((driver, i) => [driver, i])),
  ({ drivers }) => drivers,
);

/** Gathers what an exchange changes. Lives as long as one netlistChange. */
class Exchanging {
  private readonly conductances = noChange<ConductanceStamp>();
  private readonly junctions = noChange<JunctionStamp>();
  private readonly transistors = noChange<TransistorStamp>();
  private readonly goneCharacteristics: number[] = [];
  private readonly comeCharacteristics: CharacteristicStamp[] = [];
  private readonly constant: { slot: number; siemens: number }[] = [];
  private readonly branches: { old: BranchStamp; fresh: BranchStamp; ohm: number }[] = [];
  private chips: Network['chips'];
  private readonly extra = new Map<string, number>();
  private readonly changes: ConductanceChange[] = [];
  /** What has no place in the matrix: junctions and transistors that come never have one. */
  private readonly looseConductances: ConductanceChange[] = [];
  private readonly looseCharacteristics: CharacteristicStamp[] = [];
  /** Branches taken out that wait for what goes in their place. */
  private readonly waiting: BranchStamp[] = [];

  constructor(private readonly base: Network) {
    this.chips = base.chips;
  }

  run(before: readonly Element[], after: readonly Element[]): NetlistChange | undefined {
    for (const element of before)
      if (!after.includes(element) && !this.remove(element)) return undefined;
    for (const element of after)
      if (!before.includes(element) && !this.add(element)) return undefined;
    if (this.waiting.length > 0) return undefined;
    // A node that only the new circuit has is tied like every floating node until something holds
    // it: the tie is taken out again.
    for (const node of this.extra.values()) this.putConductance(node, -1, -1);
    const {
      base,
      junctions,
      transistors,
      goneCharacteristics,
      comeCharacteristics,
      looseConductances,
      looseCharacteristics,
    } = this;
    const extra = this.extra.size;
    const change: NetworkChange = {
      conductances: this.conductances,
      junctions,
      transistors,
      characteristics: { gone: goneCharacteristics, come: comeCharacteristics },
      branches: this.branches,
      constant: this.constant,
      chips: this.chips,
      extra,
    };
    const network = new ExchangedNetwork(base, change);
    const correction = {
      junctions: junctions.come,
      transistors: transistors.come,
      characteristics: looseCharacteristics,
    };
    const whole =
      looseConductances.length +
        junctions.come.length +
        transistors.come.length +
        looseCharacteristics.length ===
      0;
    return {
      network,
      inMatrix: whole
        ? network
        : new ExchangedNetwork(base, inMatrixOnly(change, looseCharacteristics)),
      whole,
      correction: { conductances: looseConductances, branches: [], come: correction, extra },
      difference: {
        conductances: this.changes,
        gone: {
          junctions: junctions.gone,
          transistors: transistors.gone,
          characteristics: goneCharacteristics.map((place) => base.characteristics[place]!),
        },
        come: {
          junctions: junctions.come,
          transistors: transistors.come,
          characteristics: comeCharacteristics,
        },
        branches: this.branches.map(({ old, fresh, ohm }) => ({
          row: old.row,
          ohm,
          volt: fresh.volt - old.volt,
        })),
        extra,
      },
    };
  }

  private number(name: string): number {
    const known = nodeOf(this.base, name) ?? this.extra.get(name);
    if (known !== undefined) return known;
    const fresh = this.base.size + this.extra.size;
    this.extra.set(name, fresh);
    return fresh;
  }

  private putConductance(a: number, b: number, siemens: number): void {
    const { pattern, size } = this.base;
    this.changes.push({ a, b, siemens });
    const slots = [
      slotOf(pattern, a, a),
      slotOf(pattern, b, b),
      slotOf(pattern, a, b),
      slotOf(pattern, b, a),
    ] as const;
    if (a >= size || b >= size || (a >= 0 && b >= 0 && a !== b && (slots[2] < 0 || slots[3] < 0)))
      this.looseConductances.push({ a, b, siemens });
    else
      slots.forEach(
        (slot, i) => slot >= 0 && this.constant.push({ slot, siemens: i < 2 ? siemens : -siemens }),
      );
  }

  private remove(element: Element): boolean {
    const { base } = this;
    switch (element.type) {
      case 'capacitance':
        return true;
      case 'conductance':
      case 'coil': {
        const found = stampOf(base.conductances, element);
        if (!found) return this.removeBranch(element);
        this.conductances.gone.push(found);
        this.putConductance(found.a, found.b, -found.siemens);
        return true;
      }
      case 'branch':
        return this.removeBranch(element);
      case 'junction': {
        const found = stampOf(base.junctions, element);
        if (!found) return false;
        this.junctions.gone.push(found);
        // The leak of a junction stays, so that no node hangs on nothing.
        this.putConductance(found.a, found.b, LEAK_SIEMENS);
        return true;
      }
      case 'transistor': {
        const found = stampOf(base.transistors, element);
        if (!found) return false;
        this.transistors.gone.push(found);
        const [c, b, e] = found.nodes;
        this.putConductance(c, b, LEAK_SIEMENS);
        this.putConductance(b, e, LEAK_SIEMENS);
        return true;
      }
      case 'characteristic': {
        const place = placeOf(base.characteristics, element);
        if (place === undefined) return false;
        this.goneCharacteristics.push(place);
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
    const found = stampOf(this.base.branches, element);
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
        this.conductances.come.push({ element, a, b, siemens, spread: element.spread });
        return true;
      }
      case 'junction': {
        const stamp = {
          ...NO_SLOTS,
          a: this.number(element.anode),
          b: this.number(element.cathode),
          element,
        };
        this.junctions.come.push(stamp);
        return this.joined(stamp.a, stamp.b);
      }
      case 'transistor': {
        const nodes = nodesOf(element).map((name) => this.number(name)) as [number, number, number];
        this.transistors.come.push({ element, nodes, slots: new Int32Array(9).fill(-1) });
        return this.joined(nodes[0], nodes[1]) && this.joined(nodes[1], nodes[2]);
      }
      case 'characteristic':
        return this.addCharacteristic(element);
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
    this.branches.push({ old, fresh: { ...old, element, volt }, ohm: ohm - before });
    return true;
  }

  private joined(a: number, b: number): boolean {
    const { size, component } = this.base;
    if (a >= size || b >= size) return true;
    return (a < 0 ? 0 : component[a]) === (b < 0 ? 0 : component[b]);
  }

  /** A characteristic. Where the circuit has one on the same nodes, only what it says is new. */
  private addCharacteristic(element: Extract<Element, { type: 'characteristic' }>): boolean {
    const [a, b] = [this.number(element.a), this.number(element.b)];
    const controls = element.controls.map((name) => this.number(name));
    const model = firstOnNodes(this.base.characteristics).get(nodesKey(a, b, controls));
    if (!model) {
      if (!this.joined(a, b)) return false;
      this.putConductance(a, b, LEAK_SIEMENS);
    }
    const { gate } = element;
    const stamp: CharacteristicStamp = {
      ...(model ?? {
        a,
        b,
        controls: Int32Array.from(controls),
        slots: new Int32Array(2 * controls.length).fill(-1),
      }),
      element,
      driver: gate ? (driverNumbers(this.base).get(gate.driver) ?? NEVER) : ALWAYS,
      when: gate ? DRIVE[gate.when] : DRIVE.off,
    };
    this.comeCharacteristics.push(stamp);
    if (!model) this.looseCharacteristics.push(stamp);
    return true;
  }

  private addChip({ logic }: Extract<Element, { type: 'logic' }>): boolean {
    const stamp = logicStamp(logic, (name) => this.number(name), driverNumbers(this.base));
    this.chips = this.chips.map((old) => (old.logic.ref === logic.ref ? stamp : old));
    return true;
  }
}
