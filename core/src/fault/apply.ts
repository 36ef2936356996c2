import { namedSetup, nameKey, replaceableRef, type Board, type BoardIndex, type NamedSetup, type Part, type PinPlace, type Setup } from '../board';
import { conductance, dim, elementsOf, isSource, modesOf, SEVERITY, typicalSeverity, type Element, type NodeName } from '../device';
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
export function isPlugged(board: Board, part: Part, setup: Setup): boolean {
  if (setup === 'off') return !isSource(part);
  if (setup === 'unloaded') return !part.role?.toLowerCase().startsWith('load');
  const named = namedSetup(board, setup);
  return !named?.unplugged?.some((ref) => nameKey(ref) === nameKey(replaceableRef(part.ref)) || nameKey(ref) === nameKey(part.ref));
}

/** The node inside the part behind a dry joint: what a probe on that pin touches. */
export function innerNode(pin: PinPlace): NodeName {
  return `${pin.part.ref}.${pin.index + 1}#pin`;
}

/** The circuit of a board state, part by part. Faults act on the elements of their part only; the board itself is never copied.
 *  seen: a last change to where a part's pins go, for an instrument that is put into the circuit. */
export function stateElements(index: BoardIndex, state: BoardState, seen?: (part: Part) => Part): readonly Element[] {
  const { board } = index;
  const absent = new Set(state.absent.map(nameKey));
  const named = namedSetup(board, state.setup);
  const elements: Element[] = [];
  for (const part of board.parts) {
    if (!isPlugged(board, part, state.setup) || (absent.size > 0 && absent.has(nameKey(replaceableRef(part.ref))))) continue;
    const own = state.faults.filter(({ fault }) => (fault.type === 'mode' && fault.part === part) || (fault.type === 'dry' && fault.pin.part === part));
    const placed = seen ? seen(part) : part;
    const whole = own.length === 0 ? elementsOf(placed) : faulty(placed, own);
    elements.push(...inSetup(part, whole, state.setup, named));
  }
  for (const { fault, severity } of state.faults) {
    if (fault.type === 'bridge') elements.push(conductance(fault.nets[0], fault.nets[1], severity ?? typicalSeverity(SEVERITY.short)));
  }
  return elements;
}

/** The elements of a part with its faults. Behind a dry joint everything of the part that goes to this pin goes to a node of its own. */
function faulty(part: Part, faults: readonly FaultState[]): readonly Element[] {
  const pins = [...part.pins];
  const joints: Element[] = [];
  for (const { fault, severity } of faults) {
    if (fault.type !== 'dry') continue;
    const inner = innerNode(fault.pin);
    joints.push(conductance(part.pins[fault.pin.index]!, inner, severity ?? typicalSeverity(severityOf(fault))));
    pins[fault.pin.index] = inner;
  }
  const lifted = joints.length === 0 ? part : ({ ...part, pins } as Part);
  let elements = elementsOf(lifted);
  for (const { fault, severity } of faults) {
    if (fault.type !== 'mode') continue;
    // The same mode, but of the part with its lifted pins.
    const mode =
      joints.length === 0 && lifted === fault.part ? fault.mode : modesOf(lifted).find(({ name, pin }) => name === fault.mode.name && pin === fault.mode.pin)!;
    elements = mode.change(elements, severity ?? typicalSeverity(mode.severity));
  }
  return [...elements, ...joints];
}

/** What a setup does to a part: a voltage that comes from outside through it is gone when the board is off, light is blocked, a switch is thrown, a motor turns. */
function inSetup(part: Part, elements: readonly Element[], setup: Setup, named: NamedSetup | undefined): readonly Element[] {
  if (setup === 'off') return isSource(part) ? elements : elements.map((e) => (e.type === 'branch' && e.volt !== 0 ? { ...e, volt: 0 } : e));
  if (!named) return elements;
  const listed = (refs: readonly string[] | undefined): boolean => refs?.some((ref) => nameKey(ref) === nameKey(part.ref)) === true;
  if (part.kind === 'opto' && listed(named.blocked)) return elements.map(dim);
  if (part.kind === 'switch' && listed(named.thrown)) return elementsOf({ ...part, rest: part.rest === 'open' ? 'closed' : 'open' });
  const emf = Object.entries(named.turning ?? {}).find(([ref]) => nameKey(ref) === nameKey(part.ref))?.[1];
  if (emf === undefined) return elements;
  return elements.map((e) => (e.type === 'coil' ? { type: 'branch', a: e.a, b: e.b, volt: emf, ohm: e.ohm } : e));
}
