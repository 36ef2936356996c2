import type { Board, Part } from './schema';

/** Ground, the net that volts are measured to. */
export const GROUND = '0';

/** The key under which names compare: case does not count, and `gnd` is net 0. */
export function nameKey(text: string): string {
  const key = text.toLowerCase();
  return key === 'gnd' ? GROUND : key;
}

/**
 * The part that is replaced: the designator up to its first dot (`RN2` for `RN2.3`, `U3` for
 * `U3.R1`).
 */
export function replaceableRef(ref: string): string {
  const dot = ref.indexOf('.');
  return dot < 0 ? ref : ref.slice(0, dot);
}

/**
 * How many parts a board has as people count them: what is replaced on its own, supplies left out.
 */
export function countParts(board: Board): number {
  const refs = board.parts
    .filter(({ kind }) => kind !== 'voltageSource' && kind !== 'currentSource')
    .map(({ ref }) => replaceableRef(ref));
  return new Set(refs).size;
}

/**
 * True for an element inside a package (`U3.R1`, from a flattened subcircuit): no probe reaches its
 * own ends. Array elements (`RN2.3`) have pins of their own.
 */
export function isInsidePackage(ref: string): boolean {
  return /\.[^\d]/.test(ref);
}

/** A pin of a part: `index` counts from 0, `net` is the net's name as first written. */
export interface PinPlace {
  readonly part: Part;
  readonly index: number;
  readonly net: string;
}

/** Where a probe is put: on a net, or on one pin of one part (which is also on a net). */
export type Point = { readonly net: string; readonly pin?: PinPlace };

/** Lookups over a board's names. Built once a board by `indexBoard`. */
export interface BoardIndex {
  readonly board: Board;
  /** Every net, named as first written, ground included, in order of appearance. */
  readonly nets: readonly string[];
  readonly netByKey: ReadonlyMap<string, string>;
  readonly partByKey: ReadonlyMap<string, Part>;
  readonly pinsOfNet: ReadonlyMap<string, readonly PinPlace[]>;
  /** Replaceable parts in board order, each with its elements. */
  readonly replaceable: ReadonlyMap<string, readonly Part[]>;
}

/** Builds the name lookups of a board. Cost: linear in its pins. */
export function indexBoard(board: Board): BoardIndex {
  const netByKey = new Map<string, string>();
  const partByKey = new Map<string, Part>();
  const pinsOfNet = new Map<string, PinPlace[]>();
  const replaceable = new Map<string, Part[]>();
  for (const part of board.parts) {
    partByKey.set(nameKey(part.ref), part);
    const owner = replaceableRef(part.ref);
    replaceable.set(owner, [...(replaceable.get(owner) ?? []), part]);
    part.pins.forEach((written, index) => {
      const key = nameKey(written);
      if (!netByKey.has(key)) netByKey.set(key, key === GROUND ? GROUND : written);
      const net = netByKey.get(key)!;
      const place = { part, index, net };
      const list = pinsOfNet.get(net);
      if (list) list.push(place);
      else pinsOfNet.set(net, [place]);
    });
  }
  return { board, nets: [...netByKey.values()], netByKey, partByKey, pinsOfNet, replaceable };
}

/**
 * A part as it is replaced, by any spelling of its designator: its name as the board writes it, and
 * its elements. Undefined where the board has none.
 */
export function replaceablePart(
  index: BoardIndex,
  ref: string,
): { readonly ref: string; readonly parts: readonly [Part, ...Part[]] } | undefined {
  const key = nameKey(ref);
  for (const [known, parts] of index.replaceable)
    if (nameKey(known) === key) return { ref: known, parts: parts as [Part, ...Part[]] };
  return undefined;
}

/** Pins on a net, by any spelling of its name; none where the board has no such net. */
export function pinsOn(index: BoardIndex, net: string): readonly PinPlace[] {
  return index.pinsOfNet.get(index.netByKey.get(nameKey(net)) ?? '') ?? [];
}

/**
 * A net with more pins than this carries a supply: over it everything is a neighbour of everything.
 */
const BUSY_NET_PINS = 12;

/** Whether so much hangs on a net that lying on it says nothing of what is near. */
export function isBusyNet(index: BoardIndex, net: string): boolean {
  return pinsOn(index, net).length > BUSY_NET_PINS;
}

const PIN_LETTERS: Partial<Record<Part['kind'], Readonly<Record<string, number>>>> = {
  diode: { a: 0, k: 1, c: 1 },
  transistor: { c: 0, b: 1, e: 2 },
};

/**
 * The name of a pin as printed beside its part: C, B, E of a transistor, A, K of a diode, else its
 * number.
 */
export function pinName(part: Part, index: number): string {
  if (part.kind === 'transistor') return 'CBE'[index]!;
  if (part.kind === 'diode') return 'AK'[index]!;
  return String(index + 1);
}

/**
 * Finds the pin written as `C3.1`, `RN2.3.1` or `Q3.b`. Returns undefined when there is no such
 * pin.
 */
export function findPin(index: BoardIndex, text: string): PinPlace | undefined {
  const dot = text.lastIndexOf('.');
  if (dot <= 0) return undefined;
  const part = index.partByKey.get(nameKey(text.slice(0, dot)));
  if (!part) return undefined;
  const label = text.slice(dot + 1).toLowerCase();
  const pin = PIN_LETTERS[part.kind]?.[label] ?? (/^\d+$/.test(label) ? Number(label) - 1 : -1);
  const written = part.pins[pin];
  if (written === undefined) return undefined;
  return { part, index: pin, net: index.netByKey.get(nameKey(written))! };
}

/** The probe point on a pin of a part of this board. pin: counted from 0. */
export function pinPoint(index: BoardIndex, part: Part, pin: number): Point {
  const net = index.netByKey.get(nameKey(part.pins[pin]!))!;
  return { net, pin: { part, index: pin, net } };
}

/**
 * Finds a probe point: a net by name, else a pin; the empty text is ground. Returns undefined when
 * the board has neither.
 */
export function findPoint(index: BoardIndex, text: string): Point | undefined {
  const trimmed = text.trim();
  if (trimmed === '' || nameKey(trimmed) === GROUND) return { net: GROUND };
  const net = index.netByKey.get(nameKey(trimmed));
  if (net !== undefined) return { net };
  const pin = findPin(index, trimmed);
  return pin && { net: pin.net, pin };
}
