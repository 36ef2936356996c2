import { nameKey, replaceableRef, type BoardIndex, type Part, type PinPlace, type Setup } from '../board';
import { conductance, elementsOf, isSource, rewire, SEVERITY, typicalSeverity, type Element, type NodeName } from '../device';
import { severityOf, type Fault } from './fault';

/** A fault with how bad it is; without `severity` the typical one stands for the mode. */
export interface FaultState {
  readonly fault: Fault;
  readonly severity?: number;
}

/** The board as it stands on the bench: what is plugged, what is missing, what is wrong. */
export interface BoardState {
  readonly setup: Setup;
  readonly faults: readonly FaultState[];
  /** Parts that are off the board at the moment, by the designator under which they are replaced: `U2` takes all of U2 with it. */
  readonly absent: readonly string[];
}

/** True where the part takes part in the circuit in this setup. */
export function isPlugged(part: Part, setup: Setup): boolean {
  if (setup === 'off') return !isSource(part);
  return setup === 'on' || !part.role?.toLowerCase().startsWith('load');
}

/** The node inside the part behind a dry joint: what a probe on that pin touches. */
export function innerNode(pin: PinPlace): NodeName {
  return `${pin.part.ref}.${pin.index + 1}#pin`;
}

/** The circuit of a board state, part by part. Faults act on the elements of their part only; the board itself is never copied.
 *  alter: a last change to the elements of a part, for an instrument that is put into the circuit. */
export function stateElements(
  index: BoardIndex,
  state: BoardState,
  alter?: (part: Part, elements: readonly Element[]) => readonly Element[],
): readonly Element[] {
  const absent = new Set(state.absent.map(nameKey));
  const elements: Element[] = [];
  for (const part of index.board.parts) {
    if (!isPlugged(part, state.setup) || absent.has(nameKey(replaceableRef(part.ref)))) continue;
    const own = state.faults.filter(({ fault }) => (fault.type === 'mode' && fault.part === part) || (fault.type === 'dry' && fault.pin.part === part));
    const changed = own.reduce<readonly Element[]>(applyOne, elementsOf(part));
    elements.push(...(alter ? alter(part, changed) : changed));
  }
  for (const { fault, severity } of state.faults) {
    if (fault.type === 'bridge') elements.push(conductance(fault.nets[0], fault.nets[1], severity ?? typicalSeverity(SEVERITY.short)));
  }
  return elements;
}

function applyOne(elements: readonly Element[], { fault, severity }: FaultState): readonly Element[] {
  const amount = severity ?? typicalSeverity(severityOf(fault));
  if (fault.type === 'mode') return fault.mode.change(elements, amount);
  if (fault.type === 'bridge') return elements;
  // Everything of the part that goes to this pin goes to a node behind the joint instead. Two pins on one net share it by name, so a part
  // with both ends on the same net is lifted as a whole: its elements then carry no current either way.
  const outer = fault.pin.part.pins[fault.pin.index]!;
  const inner = innerNode(fault.pin);
  return [...elements.map((element) => rewire(element, (node) => (nameKey(node) === nameKey(outer) ? inner : node))), conductance(outer, inner, amount)];
}
