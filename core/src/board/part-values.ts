import { parseQuantity, parseTolerance } from '../quantity';
import { diodeModel, transistorModel } from './common-models';
import type { DeckModel } from './formats/deck-models';
import { NOT_KNOWN, unknownPart } from './formats/not-known';
import { Dielectric, type Part, type PartKind } from './schema';

export type PartMade =
  | { readonly ok: true; readonly part: Part; readonly as: string }
  | { readonly ok: false; readonly why: string; readonly expected: string };

/** Words for kinds of part, in small letters. */
// prettier-ignore
export const KIND_WORDS: Readonly<Record<string, PartKind>> = {
  resistor: 'resistor', capacitor: 'capacitor', polarized_capacitor: 'capacitor', inductor: 'inductor', coil: 'inductor', choke: 'inductor', winding: 'winding', motor: 'winding',
  diode: 'diode', led: 'diode', zener: 'diode', schottky: 'diode', transistor: 'transistor', npn: 'transistor', pnp: 'transistor', npn_transistor: 'transistor', pnp_transistor: 'transistor',
  fuse: 'fuse', switch: 'switch', pin: 'connectorPin', link: 'link', jumper: 'link', opto: 'opto', interrupter: 'opto', relay: 'relay', transformer: 'transformer', box: 'unspecified', supply: 'voltageSource',
};
type Models = ReadonlyMap<string, DeckModel> | undefined;

/** The model that one of the words names. */
function ownModel(words: readonly string[], models: Models): DeckModel | undefined {
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

/** A part of a kind with what its words say of it. models: those that the sheet describes itself. */
export function valued(
  kind: PartKind,
  named: { readonly ref: string; readonly pins: string[] },
  words: readonly string[],
  models: Models,
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
