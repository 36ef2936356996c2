import type { DiodeModel, FamilyModel, TransistorModel } from '../board';
import type { Level, Program } from '../logic';
import type { Characteristic } from './characteristic';

/** A node of the circuit: a net (its name), or a node inside a part (`D1#a`). */
export type NodeName = string;

/**
 * One stamp of the circuit. A part is one or a few of these; a fault changes them. `spread` is the
 * standard deviation that part tolerance gives the logarithm of the element's value
 * (dimensionless), 0 where it is exact.
 */
export type Element =
  | {
      readonly type: 'conductance';
      readonly a: NodeName;
      readonly b: NodeName;
      readonly siemens: number;
      readonly spread: number;
    }
  /** v(a) - v(b) = volt + ohm * current, current flowing from a through the branch to b. */
  | {
      readonly type: 'branch';
      readonly a: NodeName;
      readonly b: NodeName;
      readonly volt: number;
      readonly ohm: number;
    }
  /** A current that flows from a through the source to b. */
  | {
      readonly type: 'current';
      readonly a: NodeName;
      readonly b: NodeName;
      readonly ampere: number;
    }
  | {
      readonly type: 'junction';
      readonly anode: NodeName;
      readonly cathode: NodeName;
      readonly model: DiodeModel;
    }
  | {
      readonly type: 'transistor';
      readonly collector: NodeName;
      readonly base: NodeName;
      readonly emitter: NodeName;
      readonly model: TransistorModel;
    }
  /** No path at DC. At frequency: capacitance in series with its loss. */
  | {
      readonly type: 'capacitance';
      readonly a: NodeName;
      readonly b: NodeName;
      readonly farad: number;
      readonly ohm: number;
      readonly spread: number;
      readonly ohmSpread: number;
    }
  /**
   * At DC a plain conductance or branch; at frequency resistance in series with inductance. Kept
   * apart so that small-signal work can tell.
   */
  | {
      readonly type: 'coil';
      readonly a: NodeName;
      readonly b: NodeName;
      readonly ohm: number;
      readonly henry: number;
      readonly spread: number;
    }
  /**
   * A current from a to b by a characteristic of a few nodes. gate: it conducts only while that driver is in
   * that state. holds: whether it gives a net its level (an input's pull does, a clamp does not).
   * pin: package pin it belongs to, from 0.
   */
  | {
      readonly type: 'characteristic';
      readonly a: NodeName;
      readonly b: NodeName;
      readonly controls: readonly NodeName[];
      readonly characteristic: Characteristic;
      readonly holds: boolean;
      readonly gate?: { readonly driver: string; readonly when: 'low' | 'high' } | undefined;
      readonly pin?: number | undefined;
      /**
       * Of an amplifier: within this many volts between its first two controls it is linear. The
       * search for an operating point does not step over that.
       */
      readonly linearVolt?: number;
    }
  /** The function of a chip: reads levels at nodes, sets drivers. Stamps nothing itself. */
  | { readonly type: 'logic'; readonly logic: ChipLogic };

/** A chip's function on a board: where it reads and which drivers it sets. */
export interface ChipLogic {
  readonly ref: string;
  readonly program: Program;
  readonly family: FamilyModel;
  readonly supply: NodeName;
  readonly ground: NodeName;
  readonly inputs: readonly LogicInput[];
  readonly outputs: readonly LogicOutput[];
  /** False for driver arrays that work without a supply of their own. */
  readonly needsSupply: boolean;
  /** True where the chip drives nothing any more. */
  readonly dead: boolean;
}

export interface LogicInput {
  /** Package pin, from 0. */
  readonly pin: number;
  readonly node: NodeName;
  /** Of a comparator: the node it is compared with. */
  readonly against?: NodeName | undefined;
  readonly schmitt: boolean;
  readonly stuck?: Level | undefined;
}

export interface LogicOutput {
  readonly pin: number;
  readonly node: NodeName;
  readonly driver: string;
  /** Which of its states the output stage has. */
  readonly pulls: 'both' | 'low' | 'high';
  /** Position among the program's outputs. */
  readonly output: number;
  readonly stuck?: Level | undefined;
}

/**
 * The nodes between which an element conducts: two, or the three of a transistor, none for a chip's
 * function.
 */
export function nodesOf(element: Element): readonly NodeName[] {
  switch (element.type) {
    case 'junction':
      return [element.anode, element.cathode];
    case 'transistor':
      return [element.collector, element.base, element.emitter];
    case 'logic':
      return [];
    default:
      return [element.a, element.b];
  }
}

/**
 * Every node an element speaks of: where it conducts, what it looks at, what a chip reads and
 * drives.
 */
export function everyNode(element: Element): readonly NodeName[] {
  if (element.type === 'characteristic') return [element.a, element.b, ...element.controls];
  if (element.type !== 'logic') return nodesOf(element);
  const { supply, ground, inputs, outputs } = element.logic;
  return [
    supply,
    ground,
    ...inputs.flatMap(({ node, against }) => (against === undefined ? [node] : [node, against])),
    ...outputs.map(({ node }) => node),
  ];
}

export const conductance = (a: NodeName, b: NodeName, ohm: number, spread = 0): Element => ({
  type: 'conductance',
  a,
  b,
  siemens: 1 / ohm,
  spread,
});
