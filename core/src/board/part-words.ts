import { parseQuantity, parseTolerance } from '../quantity';
import { diodeModel, transistorModel } from './common-models';
import type { DeckModel } from './formats/deck-models';
import { NOT_KNOWN, unknownPart } from './formats/not-known';
import type { DeviceLibrary } from './library';
import { Dielectric, type Part, type PartKind } from './schema';

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

export type PartMade =
  | { readonly ok: true; readonly part: Part; readonly as: string }
  | { readonly ok: false; readonly why: string; readonly expected: string };

/** Words for kinds of part, in small letters. */
// prettier-ignore
const KIND_WORDS: Readonly<Record<string, PartKind>> = {
  resistor: 'resistor', capacitor: 'capacitor', polarized_capacitor: 'capacitor', inductor: 'inductor', coil: 'inductor', choke: 'inductor', winding: 'winding', motor: 'winding',
  diode: 'diode', led: 'diode', zener: 'diode', schottky: 'diode', transistor: 'transistor', npn: 'transistor', pnp: 'transistor', npn_transistor: 'transistor', pnp_transistor: 'transistor',
  fuse: 'fuse', switch: 'switch', pin: 'connectorPin', link: 'link', jumper: 'link', opto: 'opto', interrupter: 'opto', relay: 'relay', transformer: 'transformer', box: 'unspecified', supply: 'voltageSource',
};
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

/** The net of a pin that nobody has said. */
export const unsaidNet = (ref: string, pin: number): string => `nc_${ref}_${pin}`;

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

/** The model that one of the words names. */
function ownModel(words: readonly string[], models: PartSaid['models']): DeckModel | undefined {
  return words.flatMap((word) => models?.get(word.toLowerCase()) ?? [])[0];
}

interface Values {
  readonly unknown: boolean;
  /** The first quantity without a unit or with the unit asked for. */
  readonly amount: (unit: string) => number | undefined;
  readonly volt: number | undefined;
  readonly tolerance: number | undefined;
  /** Words that are none of these. */
  readonly names: readonly string[];
}

function valuesOf(words: readonly string[]): Values {
  const quantities: { value: number; unit: string }[] = [];
  const names: string[] = [];
  let tolerance: number | undefined;
  let unknown = false;
  for (const word of words) {
    if (word === NOT_KNOWN) unknown = true;
    else if (KIND_WORDS[word.toLowerCase()]) continue;
    else if (word.endsWith('%')) tolerance ??= parseTolerance(word);
    else {
      const read = parseQuantity(word);
      if (read.ok && read.value !== 'OL') quantities.push({ value: read.value, unit: read.unit });
      else names.push(word);
    }
  }
  return {
    unknown,
    amount: (unit) => quantities.find((one) => one.unit === unit || one.unit === '')?.value,
    volt: quantities.find(({ unit }) => unit === 'V')?.value,
    tolerance,
    names,
  };
}

const DIELECTRIC_WORDS: Readonly<Record<string, Dielectric>> = {
  ...Object.fromEntries(Dielectric.options.map((name) => [name, name])),
  elko: 'electrolytic',
  np: 'bipolar',
  bp: 'bipolar',
};

function valued(
  kind: PartKind,
  named: { readonly ref: string; readonly pins: string[] },
  words: readonly string[],
  models: PartSaid['models'],
): PartMade {
  const own = ownModel(words, models);
  const { unknown, amount, volt, tolerance, names } = valuesOf(words);
  const base = { ...named, ...(tolerance === undefined ? {} : { tolerance }) };
  const made = (part: Part, as: string): PartMade => ({ ok: true, part, as });
  const rating = names.length > 0 ? { rating: names.join(' ').slice(0, 80) } : {};
  switch (kind) {
    case 'resistor': {
      const ohm = amount('ohm');
      if (ohm === undefined || unknown)
        return made(unknownPart('resistor', { ...base, ...rating }), 'a resistor, value not known');
      if (ohm <= 0) return made({ kind: 'link', ...named }, 'a link of 0 Ω');
      return made({ kind: 'resistor', ...base, resistanceOhm: ohm, ...rating }, 'a resistor');
    }
    case 'capacitor': {
      const farad = amount('F');
      const dielectric = names.flatMap((name) => DIELECTRIC_WORDS[name.toLowerCase()] ?? [])[0];
      const more = {
        ...(dielectric ? { dielectric } : {}),
        ...(volt !== undefined && volt > 0 ? { ratedVolt: volt } : {}),
      };
      if (farad === undefined || farad <= 0 || unknown)
        return made(
          { ...unknownPart('capacitor', base), ...more } as Part,
          'a capacitor, value not known',
        );
      return made({ kind: 'capacitor', ...base, capacitanceFarad: farad, ...more }, 'a capacitor');
    }
    case 'inductor': {
      const henry = amount('H');
      if (henry === undefined || unknown)
        return made(
          unknownPart('inductor', { ...base, ...rating }),
          'an inductor, value not known',
        );
      return made({ kind: 'inductor', ...base, inductanceHenry: henry, ...rating }, 'an inductor');
    }
    case 'winding':
      return made(
        {
          kind: 'winding',
          ...base,
          inductanceHenry: amount('H') ?? 1e-3,
          dcResistanceOhm: amountWithUnit(words, 'ohm') ?? 10,
        },
        'a winding',
      );
    case 'voltageSource': {
      const supply = amount('V');
      return supply === undefined
        ? {
            ok: false,
            why: 'its volts are not said',
            expected: `volts, for example ${named.ref} VCC 0 5V`,
          }
        : made({ kind: 'voltageSource', ...base, volt: supply }, 'a supply');
    }
    case 'currentSource': {
      const ampere = amount('A');
      return ampere === undefined
        ? {
            ok: false,
            why: 'its amperes are not said',
            expected: `amperes, for example ${named.ref} VCC 0 10mA`,
          }
        : made({ kind: 'currentSource', ...base, ampere }, 'a current');
    }
    case 'diode': {
      const name = diodeName(words, names, volt);
      const { known, ...model } = diodeModel(name);
      if (own?.kind === 'diode')
        return made({ kind: 'diode', ...base, model: own.model }, 'a diode');
      return made(
        { kind: 'diode', ...base, model },
        known ? 'a diode' : 'a diode, taken as an ordinary silicon one',
      );
    }
    case 'transistor': {
      if (own?.kind === 'transistor')
        return made({ kind: 'transistor', ...base, model: own.model }, 'a transistor');
      const model = [...names, ...words].flatMap(
        (word) => transistorModel(word.replace(/_TRANSISTOR$/i, '')) ?? [],
      )[0];
      return model
        ? made(
            { kind: 'transistor', ...base, model: { ...model, name: names[0] ?? model.name } },
            'a transistor',
          )
        : {
            ok: false,
            why: 'npn or pnp is not said',
            expected: 'NPN, PNP or a number such as 2N3904',
          };
    }
    case 'fuse': {
      const written = words
        .filter((word) => KIND_WORDS[word.toLowerCase()] === undefined)
        .join(' ');
      return made(
        { kind: 'fuse', ...base, ...(written && !unknown ? { rating: written.slice(0, 80) } : {}) },
        'a fuse',
      );
    }
    case 'switch':
      return made(
        { kind: 'switch', ...base, rest: names.includes('open') ? 'open' : 'closed' },
        'a switch',
      );
    case 'connectorPin':
      return made({ kind: 'connectorPin', ...base }, 'a contact');
    case 'link':
      return made({ kind: 'link', ...base }, 'a link');
    case 'opto':
      return made(
        {
          kind: 'opto',
          ...base,
          transferRatio: words.some((word) => /^interrupter$/i.test(word)) ? 0.1 : 0.5,
        },
        'a light barrier, typical figures',
      );
    case 'relay':
      return made(
        { kind: 'relay', ...base, coilOhm: amount('ohm') ?? 400, pullInVolt: volt ?? 7.5 },
        'a relay, typical figures',
      );
    case 'transformer':
      return made(
        { kind: 'transformer', ...base, primaryOhm: 400, secondaryOhm: 1.2, peakVolt: volt ?? 17 },
        'a transformer, typical figures',
      );
    default:
      return { ok: false, why: 'what it is is not known', expected: 'a kind of part' };
  }
}

function amountWithUnit(words: readonly string[], unit: string): number | undefined {
  for (const word of words) {
    const read = parseQuantity(word);
    if (
      read.ok &&
      read.value !== 'OL' &&
      (read.unit === unit || (unit === 'ohm' && /R/.test(word)))
    )
      return read.value;
  }
  return undefined;
}

/** `LED red` is a LED, `zener 5V6` a breakdown diode of 5.6 V. */
function diodeName(
  words: readonly string[],
  names: readonly string[],
  volt: number | undefined,
): string {
  const kind = words.find((word) => /^(led|schottky|zener)$/i.test(word))?.toUpperCase();
  if (kind === 'ZENER' && volt !== undefined)
    return `Z${String(volt).replace('.', 'V')}${Number.isInteger(volt) ? 'V' : ''}`;
  if (kind === 'LED' || kind === 'SCHOTTKY') return kind;
  return names[0] ?? words.find((word) => /^\d+N\d+|V\d|\d+V$/i.test(word)) ?? 'D';
}
