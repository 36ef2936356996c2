import type { DiodeModel, TransistorModel } from '../board';

/** A node of the circuit: a net (its name), or a node inside a part (`D1#a`). */
export type NodeName = string;

/** One stamp of the circuit. A part is one or a few of these; a fault changes them. `spread` is the standard deviation that part tolerance
 *  gives the logarithm of the element's value (dimensionless), 0 where it is exact. */
export type Element =
  | { readonly type: 'conductance'; readonly a: NodeName; readonly b: NodeName; readonly siemens: number; readonly spread: number }
  /** v(a) - v(b) = volt + ohm * current, current flowing from a through the branch to b. */
  | { readonly type: 'branch'; readonly a: NodeName; readonly b: NodeName; readonly volt: number; readonly ohm: number }
  /** A current that flows from a through the source to b. */
  | { readonly type: 'current'; readonly a: NodeName; readonly b: NodeName; readonly ampere: number }
  | { readonly type: 'junction'; readonly anode: NodeName; readonly cathode: NodeName; readonly model: DiodeModel }
  | { readonly type: 'transistor'; readonly collector: NodeName; readonly base: NodeName; readonly emitter: NodeName; readonly model: TransistorModel }
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
  /** At DC a plain conductance or branch; at frequency resistance in series with inductance. Kept apart so that small-signal work can tell. */
  | { readonly type: 'coil'; readonly a: NodeName; readonly b: NodeName; readonly ohm: number; readonly henry: number; readonly spread: number };

/** The two nodes of a two-terminal element, or the three of a transistor. */
export function nodesOf(element: Element): readonly NodeName[] {
  switch (element.type) {
    case 'junction':
      return [element.anode, element.cathode];
    case 'transistor':
      return [element.collector, element.base, element.emitter];
    default:
      return [element.a, element.b];
  }
}

/** The same element with its nodes renamed. */
export function rewire(element: Element, rename: (node: NodeName) => NodeName): Element {
  switch (element.type) {
    case 'junction':
      return { ...element, anode: rename(element.anode), cathode: rename(element.cathode) };
    case 'transistor':
      return { ...element, collector: rename(element.collector), base: rename(element.base), emitter: rename(element.emitter) };
    default:
      return { ...element, a: rename(element.a), b: rename(element.b) };
  }
}

export const conductance = (a: NodeName, b: NodeName, ohm: number, spread = 0): Element => ({ type: 'conductance', a, b, siemens: 1 / ohm, spread });
