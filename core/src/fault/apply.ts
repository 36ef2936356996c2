import {
  namedSetup,
  nameKey,
  replaceableRef,
  type Board,
  type BoardIndex,
  type NamedSetup,
  type Part,
  type PinPlace,
  type Setup,
} from '../board';
import {
  conductance,
  dim,
  elementsOf,
  everyNode,
  isSource,
  modesOf,
  SEVERITY,
  typicalSeverity,
  type Element,
  type NodeName,
} from '../device';
import { parseFault, severityOf, type Fault, type FaultResult } from './fault';
import { parseQuantity } from '../quantity';
import { isFed, starvedBy } from './feed';
import { isPlugged } from './plugged';

/** A fault with how bad it is; without `severity` the typical one stands for the mode. */
export interface FaultState {
  readonly fault: Fault;
  readonly severity?: number;
}

/**
 * Reads the name of a fault that may say how bad it is: `C3:high-esr=5`, `R4:open=2M`. Unit: that
 * of the mode's severities.
 */
export function parseFaultState(
  index: BoardIndex,
  text: string,
): { readonly ok: true; readonly state: FaultState } | Extract<FaultResult, { ok: false }> {
  // A net's own name may have an equals sign in it: only one behind the colon counts.
  const [, name = text, written] = /^(.*:[^:=]*)=(.*)$/s.exec(text) ?? [];
  const result = parseFault(index, name);
  if (!result.ok) return result;
  if (written === undefined) return { ok: true, state: { fault: result.fault } };
  const value = parseQuantity(written);
  if (!value.ok || value.value === 'OL' || value.value <= 0)
    return {
      ok: false,
      what: `${text}: cannot read how bad it is from "${written}"`,
      expected: 'ohms, or a factor on the sound value, above zero',
    };
  return { ok: true, state: { fault: result.fault, severity: value.value } };
}

/** One text for all that is the same faults at the same severities. */
export function faultsKey(faults: readonly FaultState[]): string {
  return faults.map(({ fault, severity }) => `${fault.name}@${severity}`).join('+');
}

/** The board as it stands on the bench: what is plugged, what is missing, what is wrong. */
export interface BoardState {
  readonly setup: Setup;
  readonly faults: readonly FaultState[];
  /**
   * Parts that are off the board at the moment, by the designator under which they are replaced:
   * `U2` takes all of U2 with it.
   */
  readonly absent: readonly string[];
}

/** The node inside the part behind a dry joint: what a probe on that pin touches. */
export function innerNode(pin: PinPlace): NodeName {
  return `${pin.part.ref}.${pin.index + 1}#pin`;
}

/** The node that the pins behind a cut are left on. */
function cutNode({ name }: Extract<Fault, { type: 'cut' }>): NodeName {
  return `${name}#side`;
}

/**
 * The node that a probe on a pin touches where a fault has taken the pin off its net; undefined
 * where it is on its net.
 */
export function nodeBehind(pin: PinPlace, faults: readonly FaultState[]): NodeName | undefined {
  const is = (other: PinPlace): boolean => other.part === pin.part && other.index === pin.index;
  for (const { fault } of faults) {
    if (fault.type === 'dry' && is(fault.pin)) return innerNode(fault.pin);
    if (fault.type === 'cut' && fault.pins.some(is)) return cutNode(fault);
  }
  return undefined;
}

/** One part's share of the circuit. */
export interface PartElements {
  readonly part: Part;
  readonly elements: readonly Element[];
}

/**
 * The circuit of a board state, part by part; last the bridges and cuts, which belong to no part.
 * Faults act on the elements of their part only; the board itself is never copied. sound: the parts
 * of the same board and setup without faults, whose elements are used where there are none. seen: a
 * last change to where a part's pins go, for an instrument that is put into the circuit.
 */
export function stateParts(
  index: BoardIndex,
  state: BoardState,
  sound?: readonly PartElements[],
  seen?: (part: Part) => Part,
): readonly PartElements[] {
  const { board } = index;
  if (sound)
    return sound.map((own) =>
      starved(index, state, withOwnFaults(own, state, namedSetup(board, state.setup))),
    );
  const absent = new Set(state.absent.map(nameKey));
  const named = namedSetup(board, state.setup);
  const found: PartElements[] = [];
  for (const part of board.parts) {
    if (
      !isPlugged(board, part, state.setup) ||
      (absent.size > 0 && absent.has(nameKey(replaceableRef(part.ref))))
    )
      continue;
    const own = faultsOf(part, state.faults);
    const placed = seen ? seen(part) : part;
    const lifted = own.some(({ fault }) => fault.type !== 'mode') ? lift(placed, own) : placed;
    const whole = inSetup(part, elementsOf(lifted), state.setup, named);
    found.push(
      starved(index, state, {
        part,
        elements: own.length === 0 ? whole : withFaults(lifted, whole, own),
      }),
    );
  }
  return found;
}

/** A transformer gives nothing where its mains does not reach it. */
function starved(
  index: BoardIndex,
  { setup, absent, faults }: BoardState,
  own: PartElements,
): PartElements {
  if (
    own.part.kind !== 'transformer' ||
    isFed(
      index,
      own.part,
      setup,
      absent,
      faults.map(({ fault }) => fault),
    )
  )
    return own;
  return {
    part: own.part,
    elements: own.elements.map((element) =>
      element.type === 'branch' && element.volt !== 0 ? { ...element, volt: 0 } : element,
    ),
  };
}

function withOwnFaults(
  sound: PartElements,
  state: BoardState,
  named: NamedSetup | undefined,
): PartElements {
  const { part } = sound;
  const own = faultsOf(part, state.faults);
  if (own.length === 0) return sound;
  if (own.every(({ fault }) => fault.type === 'mode'))
    return { part, elements: withFaults(part, sound.elements, own) };
  const lifted = lift(part, own);
  return {
    part,
    elements: withFaults(
      lifted,
      unlessChanged(inSetup(part, elementsOf(lifted), state.setup, named), sound.elements),
      own,
    ),
  };
}

/**
 * The elements of a part with some pins lifted, and in place of those that do not touch such a pin
 * the sound part's own: the same objects are the same circuit.
 */
function unlessChanged(lifted: readonly Element[], sound: readonly Element[]): readonly Element[] {
  if (lifted.length !== sound.length) return lifted;
  return lifted.map((element, i) => (isWhereItWas(element, sound[i]!) ? sound[i]! : element));
}

function isWhereItWas(element: Element, before: Element): boolean {
  if (element.type !== before.type) return false;
  const [nodes, others] = [everyNode(element), everyNode(before)];
  return nodes.length === others.length && nodes.every((node, i) => node === others[i]);
}

/** `stateParts` as one list. */
export function stateElements(
  index: BoardIndex,
  state: BoardState,
  seen?: (part: Part) => Part,
): readonly Element[] {
  return [
    ...stateParts(index, state, undefined, seen).flatMap(({ elements }) => elements),
    ...siteElements(state.faults),
  ];
}

/** What bridges between nets and cuts of tracks add to the circuit: they belong to no part. */
export function siteElements(faults: readonly FaultState[]): readonly Element[] {
  return faults.flatMap(({ fault, severity }) => {
    if (fault.type === 'bridge')
      return [
        conductance(fault.nets[0], fault.nets[1], severity ?? typicalSeverity(SEVERITY.short)),
      ];
    return fault.type === 'cut'
      ? [conductance(fault.net, cutNode(fault), severity ?? typicalSeverity(SEVERITY.open))]
      : [];
  });
}

/** The parts whose own a fault is: none where it is a bridge. */
export function partsOf(fault: Fault): readonly Part[] {
  if (fault.type === 'mode') return [fault.part];
  if (fault.type === 'dry') return [fault.pin.part];
  return fault.type === 'cut' ? fault.pins.map(({ part }) => part) : [];
}

/**
 * The parts that a fault makes others of: its own, and transformers that it leaves without their
 * mains.
 */
export function partsChangedBy(index: BoardIndex, fault: Fault): readonly Part[] {
  const starved = starvedBy(index, fault);
  return starved.length === 0 ? partsOf(fault) : [...partsOf(fault), ...starved];
}

/** The faults that are this part's own. */
function faultsOf(part: Part, faults: readonly FaultState[]): readonly FaultState[] {
  return faults.filter(({ fault }) => partsOf(fault).includes(part));
}

/** The part with its dry pins, and those behind a cut, on nodes of their own. */
function lift(part: Part, faults: readonly FaultState[]): Part {
  const pins = [...part.pins];
  for (const { fault } of faults) {
    if (fault.type === 'dry') pins[fault.pin.index] = innerNode(fault.pin);
    if (fault.type === 'cut')
      for (const pin of fault.pins) if (pin.part === part) pins[pin.index] = cutNode(fault);
  }
  return { ...part, pins } as Part;
}

/** The elements of a part with its faults. part: with dry pins lifted; healthy: its elements. */
export function withFaults(
  part: Part,
  healthy: readonly Element[],
  faults: readonly FaultState[],
): readonly Element[] {
  let elements = healthy;
  for (const { fault, severity } of faults) {
    if (fault.type === 'dry')
      elements = [
        ...elements,
        conductance(
          fault.pin.part.pins[fault.pin.index]!,
          innerNode(fault.pin),
          severity ?? typicalSeverity(severityOf(fault)),
        ),
      ];
    if (fault.type !== 'mode') continue;
    // The same mode, but of the part with its lifted pins; one of the sheet's is none of the part's
    // own and goes with any.
    const mode =
      part === fault.part
        ? fault.mode
        : (modesOf(part).find(
            ({ name, pin }) => name === fault.mode.name && pin === fault.mode.pin,
          ) ?? fault.mode);
    elements = mode.change(elements, severity ?? typicalSeverity(mode.severity));
  }
  return elements;
}

/**
 * Whether a setup of the board makes another of a part: a switch that is thrown in it, a motor that
 * turns.
 */
export function isAlteredInASetup(board: Board, part: Part): boolean {
  const elements = elementsOf(part);
  return (board.setups ?? []).some((named) =>
    inSetup(part, elements, named.name, named).some((element, i) => element !== elements[i]),
  );
}

/**
 * What a setup does to a part: a voltage that comes from outside through it is gone when the board
 * is off, light is blocked, a switch is thrown, a motor turns.
 */
function inSetup(
  part: Part,
  elements: readonly Element[],
  setup: Setup,
  named: NamedSetup | undefined,
): readonly Element[] {
  if (setup === 'off')
    return isSource(part)
      ? elements
      : elements.map((e) => (e.type === 'branch' && e.volt !== 0 ? { ...e, volt: 0 } : e));
  if (!named) return elements;
  const listed = (refs: readonly string[] | undefined): boolean =>
    refs?.some((ref) => nameKey(ref) === nameKey(part.ref)) === true;
  if (part.kind === 'opto' && listed(named.blocked)) return elements.map(dim);
  if (part.kind === 'switch' && listed(named.thrown))
    return elementsOf({ ...part, rest: part.rest === 'open' ? 'closed' : 'open' });
  const emf = Object.entries(named.turning ?? {}).find(
    ([ref]) => nameKey(ref) === nameKey(part.ref),
  )?.[1];
  if (emf === undefined) return elements;
  return elements.map((e) =>
    e.type === 'coil' ? { type: 'branch', a: e.a, b: e.b, volt: emf, ohm: e.ohm } : e,
  );
}
