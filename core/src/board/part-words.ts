import type { DeckModel } from './formats/deck-models';
import type { DeviceLibrary } from './library';
import { KIND_WORDS, valued, type PartMade } from './part-values';
import type { Part, PartKind } from './schema';

export type { PartMade } from './part-values';

/** A net with the pin it lies on, as it was written: number or name of the pin. */
export interface PinSaid {
  readonly pin: string;
  readonly net: string;
  /** What a list of pins calls it beside its number. */
  readonly name?: string;
}

/** A part as a person or another program says it. */
export interface PartSaid {
  readonly ref: string;
  /** Words that may say what it is: a device, a value, a number. */
  readonly words: readonly string[];
  readonly pins: readonly PinSaid[];
  /** Pins count as in a deck: a diode's anode first, a transistor's collector, base, emitter. */
  readonly deckOrder: boolean;
  /** Models that the sheet describes itself, by name in small letters. */
  readonly models?: ReadonlyMap<string, DeckModel>;
}

/**
 * What the letters of a designator stand for. Source: IEEE 315, from memory, and common practice for
 * switches, links and motors.
 */
// prettier-ignore
const KIND_OF_LETTERS: Readonly<Record<string, PartKind>> = {
  R: 'resistor', RN: 'resistor', C: 'capacitor', L: 'inductor', FB: 'inductor', D: 'diode', ZD: 'diode', LED: 'diode', Q: 'transistor', TR: 'transistor', F: 'fuse', S: 'switch', SW: 'switch',
  W: 'link', JP: 'link', K: 'relay', T: 'transformer', M: 'winding', V: 'voltageSource', I: 'currentSource',
};

/** The letters before the number of a designator, in capitals. */
export const lettersOf = (ref: string): string => /^[A-Za-z]+/.exec(ref)?.[0].toUpperCase() ?? '';

/** Names that pins of a kind go by, in the order of its pins. */
// prettier-ignore
const PIN_NAMES: Partial<Record<PartKind, readonly (readonly string[])[]>> = {
  diode: [['a', 'anode'], ['k', 'c', 'cathode', 'kathode']],
  transistor: [['c', 'collector'], ['b', 'base'], ['e', 'emitter']],
  opto: [['a', 'anode'], ['k', 'cathode'], ['c', 'collector'], ['e', 'emitter']],
  relay: [['coil1', 'a1'], ['coil2', 'a2'], ['common', 'com'], ['rest', 'nc'], ['work', 'no']],
  transformer: [['p1', 'pri1'], ['p2', 'pri2'], ['s1', 'sec1'], ['s2', 'sec2']],
  capacitor: [['+', 'p', 'plus', 'pos'], ['-', 'n', 'minus', 'neg']],
  voltageSource: [['+'], ['-']],
};
/** How many pins parts of a kind have, where all have as many. */
// prettier-ignore
const PIN_COUNT: Partial<Record<PartKind, number>> = {
  resistor: 2, capacitor: 2, inductor: 2, winding: 2, voltageSource: 2, currentSource: 2, diode: 2, transistor: 3, fuse: 2, switch: 2, connectorPin: 2, link: 2, opto: 4, relay: 5, transformer: 4,
};
/** Kinds whose numbered pins say nothing of which is which, but in the order of a deck. */
const ORDER_TELLS: ReadonlySet<PartKind> = new Set([
  'diode',
  'transistor',
  'opto',
  'relay',
  'transformer',
]);

/** The net of a pin that nobody has said, and whether a net is one. */
export const unsaidNet = (ref: string, pin: number): string => `nc_${ref}_${pin}`;
export const isUnsaid = (net: string): boolean => /^nc_/i.test(net);

/** How many nets stand on a line for a part of a kind without names of its pins; undefined where they are named. */
export function positionalPins(kind: PartKind | undefined): number | undefined {
  const count = kind && PIN_COUNT[kind];
  return count !== undefined && count <= 3 ? count : undefined;
}

/** What kind of part it is by its words, else by the letters of its designator. */
export function kindSaid(ref: string, words: readonly string[]): PartKind | undefined {
  for (const word of words) {
    const kind = KIND_WORDS[word.toLowerCase()];
    if (kind) return kind;
  }
  return KIND_OF_LETTERS[lettersOf(ref)];
}

/**
 * The part that is meant. What cannot be told is said, with what would tell it; nothing is guessed
 * but typical figures of a kind that the schema needs.
 */
export function makePart(said: PartSaid, library: DeviceLibrary): PartMade {
  const { ref, words } = said;
  if (words.some((word) => KIND_WORDS[word.toLowerCase()] === 'unspecified')) return blackBox(said);
  const inLibrary = words.flatMap((word) => library.find(word) ?? [])[0];
  const letters = lettersOf(ref);
  const kind = kindSaid(ref, words);
  if (inLibrary && (kind === undefined || letters === 'U' || letters === 'IC'))
    return fromLibrary(said, inLibrary);
  if (kind === undefined || kind === 'unspecified')
    return {
      ok: false,
      why: 'what it is is not known',
      expected: `a number of the library such as ${library.examples.join(', ') || '74LS86'}, or a word such as resistor, relay, box`,
    };
  const nets = netsInOrder(said, kind);
  return typeof nets === 'string'
    ? { ok: false, why: nets, expected: pinsExpected(kind) }
    : valued(kind, { ref, pins: nets }, words, said.models);
}

function pinsExpected(kind: PartKind): string {
  const names = PIN_NAMES[kind]?.map(([name]) => `${name}=NET`);
  return names ? names.join(' ') : `${PIN_COUNT[kind] ?? 'its'} nets`;
}

/** A part of which only the pins are known. */
export function blackBox({ ref, pins }: PartSaid): PartMade {
  const numbers = pins.map(({ pin }) => (/^\d{1,3}$/.test(pin) ? Number(pin) : Number.NaN));
  const counted = numbers.every((n) => n >= 1 && n <= 400);
  const count = counted ? Math.max(1, ...numbers) : pins.length;
  const nets = Array.from({ length: count }, (_, i) =>
    counted ? (pins[numbers.indexOf(i + 1)]?.net ?? unsaidNet(ref, i + 1)) : pins[i]!.net,
  );
  const note = counted
    ? {}
    : { note: `pins in this order: ${pins.map(({ pin }) => pin).join(', ')}`.slice(0, 400) };
  return {
    ok: true,
    part: { kind: 'unspecified', ref, pins: nets, ...note },
    as: 'a black box with pins',
  };
}

function fromLibrary(
  said: PartSaid,
  { pins: count, make }: NonNullable<ReturnType<DeviceLibrary['find']>>,
): PartMade {
  const { ref } = said;
  const empty = Array.from({ length: count }, (_, i) => unsaidNet(ref, i + 1));
  const sample = make(ref, empty);
  const names = namesOf(sample);
  const pins = [...empty];
  for (const { pin, net } of said.pins) {
    const place = /^\d+$/.test(pin) ? Number(pin) : names.indexOf(pin.toUpperCase()) + 1;
    if (place < 1 || place > count)
      return {
        ok: false,
        why: `there is no pin ${pin}`,
        expected: `pins 1 to ${count}${names.length > 0 ? ` or ${names.join(', ')}` : ''}`,
      };
    pins[place - 1] = net;
  }
  const made = make(ref, pins);
  return { ok: true, part: made, as: 'model' in made ? made.model.name : made.kind };
}

/** Names of the pins of a part out of the library, in capitals, by place. */
function namesOf(part: Part): readonly string[] {
  if (part.kind === 'chip') return part.model.pins.map(({ name }) => name.toUpperCase());
  if (part.kind === 'regulator') return part.model.roles.map((role) => role.toUpperCase());
  return [];
}

/** The nets of a kind's pins in their order, or why they cannot be told. */
function netsInOrder({ ref, pins, deckOrder }: PartSaid, kind: PartKind): string[] | string {
  const count = PIN_COUNT[kind]!;
  const found = Array.from({ length: count }, (_, i) => unsaidNet(ref, i + 1));
  const names = PIN_NAMES[kind] ?? [];
  if (pins.length > count) return `it has ${pins.length} pins`;
  for (const { pin, net, name = '' } of pins) {
    const byName = names.findIndex((known) =>
      [pin, name].some((one) => known.includes(one.toLowerCase())),
    );
    const number = /^\d+$/.test(pin) ? Number(pin) : 0;
    if (byName < 0 && ORDER_TELLS.has(kind) && !deckOrder)
      return `which of its pins is which is not said (pin ${pin}${name ? `, ${name}` : ''})`;
    const place = byName >= 0 ? byName + 1 : number;
    if (place < 1 || place > count) return `there is no pin ${pin} on it`;
    found[place - 1] = net;
  }
  return found;
}
