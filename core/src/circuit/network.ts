import { GROUND, nameKey } from '../board';
import type { ChipLogic, Element, NodeName } from '../device';
import type { Pattern, SparseLu } from './sparse';

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
