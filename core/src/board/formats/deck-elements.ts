import type { Part } from '../schema';
import type { DeckModel } from './deck-models';
import { parseDeckNumber } from './deck-number';
import { NOT_KNOWN, unknownPart } from './not-known';

/**
 * Packages that an X line may name without a library: pins and how the part comes to be. Values
 * other than these come by annotation.
 */
export const DECK_PACKAGES: Readonly<
  Record<string, { readonly pins: number; readonly make: (ref: string, pins: string[]) => Part }>
> = {
  FUSE: { pins: 2, make: (ref, pins) => ({ kind: 'fuse', ref, pins }) },
  SWITCH: { pins: 2, make: (ref, pins) => ({ kind: 'switch', ref, pins, rest: 'closed' }) },
  SWITCH_OPEN: { pins: 2, make: (ref, pins) => ({ kind: 'switch', ref, pins, rest: 'open' }) },
  PIN: { pins: 2, make: (ref, pins) => ({ kind: 'connectorPin', ref, pins }) },
  LINK: { pins: 2, make: (ref, pins) => ({ kind: 'link', ref, pins }) },
  WINDING: {
    pins: 2,
    make: (ref, pins) => ({
      kind: 'winding',
      ref,
      pins,
      inductanceHenry: 1e-3,
      dcResistanceOhm: 10,
    }),
  },
  OPTO: { pins: 4, make: (ref, pins) => ({ kind: 'opto', ref, pins, transferRatio: 0.5 }) },
  INTERRUPTER: { pins: 4, make: (ref, pins) => ({ kind: 'opto', ref, pins, transferRatio: 0.1 }) },
  RELAY: {
    pins: 5,
    make: (ref, pins) => ({ kind: 'relay', ref, pins, coilOhm: 400, pullInVolt: 7.5 }),
  },
  TRANSFORMER: {
    pins: 4,
    make: (ref, pins) => ({
      kind: 'transformer',
      ref,
      pins,
      primaryOhm: 400,
      secondaryOhm: 1.2,
      peakVolt: 17,
    }),
  },
};

export type ElementResult =
  | { readonly ok: true; readonly part: Part }
  | { readonly ok: false; readonly what: string; readonly expected: string };

const fail = (what: string, expected: string): ElementResult => ({ ok: false, what, expected });

/**
 * Reads one R, C, L, V, I, D or Q statement (already split at blanks) into a part. models: by
 * lower-case name.
 */
export function parseElement(
  words: readonly string[],
  models: ReadonlyMap<string, DeckModel>,
): ElementResult {
  const ref = words[0]!;
  const letter = ref[0]!.toUpperCase();
  if (letter === 'D') return parseDiode(words, models);
  if (letter === 'Q') return parseTransistor(words, models);
  if (letter === 'V' || letter === 'I') return parseSource(words);
  const pins = words.slice(1, 3);
  if (pins.length < 2) return fail(`${ref} has ${pins.length} nets`, '2 nets and a value');
  const text = words[3];
  if (text === undefined)
    return fail(
      `${ref} has no value`,
      `a value after the two nets, for example ${ref} ${pins.join(' ')} 4.7k`,
    );
  const bare = text.replace(/^[rcl]=/i, '');
  if (bare === NOT_KNOWN)
    return {
      ok: true,
      part: unknownPart(letter === 'R' ? 'resistor' : letter === 'C' ? 'capacitor' : 'inductor', {
        ref,
        pins,
      }),
    };
  const value = parseDeckNumber(bare);
  if (value === undefined)
    return fail(
      `${ref}: cannot read the value "${clip(text)}"`,
      'a number such as 4.7k, 10u or 1meg, or ? where it is not known',
    );
  if (value < 0 || (value === 0 && letter !== 'L'))
    return fail(`${ref}: value ${text} is not above zero`, 'a value above zero');
  if (letter === 'R')
    return { ok: true, part: { kind: 'resistor', ref, pins, resistanceOhm: value } };
  if (letter === 'C')
    return { ok: true, part: { kind: 'capacitor', ref, pins, capacitanceFarad: value } };
  return { ok: true, part: { kind: 'inductor', ref, pins, inductanceHenry: value } };
}

function parseSource(words: readonly string[]): ElementResult {
  const ref = words[0]!;
  const pins = words.slice(1, 3);
  if (pins.length < 2) return fail(`${ref} has ${pins.length} nets`, '2 nets and a value');
  const rest = words.slice(3).join(' ').replace(/[(),]/g, ' ').trim().split(/\s+/).filter(Boolean);
  const value = sourceDcValue(rest);
  if (value === undefined)
    return fail(
      `${ref}: cannot read the value "${clip(rest.join(' '))}"`,
      'a DC value such as 5, or DC 5',
    );
  const part: Part =
    ref[0]!.toUpperCase() === 'V'
      ? { kind: 'voltageSource', ref, pins, volt: value }
      : { kind: 'currentSource', ref, pins, ampere: value };
  return { ok: true, part };
}

/**
 * The DC value of a source: `5`, `DC 5`, or the starting value of a waveform; 0 for a source that
 * is AC only.
 */
function sourceDcValue(words: readonly string[]): number | undefined {
  const lower = words.map((word) => word.toLowerCase());
  const dc = lower.findIndex((word) => word === 'dc' || word.startsWith('dc='));
  if (dc >= 0)
    return parseDeckNumber(
      lower[dc]!.startsWith('dc=') ? lower[dc]!.slice(3) : (words[dc + 1] ?? ''),
    );
  if (lower.length === 0) return undefined;
  const first = parseDeckNumber(words[0]!);
  if (first !== undefined) return first;
  const wave = lower.findIndex((word) => ['pulse', 'sin', 'exp', 'sffm'].includes(word));
  if (wave >= 0) return parseDeckNumber(words[wave + 1] ?? '');
  const pieces = lower.indexOf('pwl');
  if (pieces >= 0) return parseDeckNumber(words[pieces + 2] ?? '');
  return lower[0] === 'ac' ? 0 : undefined;
}

function parseDiode(
  words: readonly string[],
  models: ReadonlyMap<string, DeckModel>,
): ElementResult {
  const ref = words[0]!;
  const [, anode, cathode, modelName, area] = words;
  if (!anode || !cathode || !modelName)
    return fail(`${ref} is not complete`, `${ref} ANODE CATHODE MODEL`);
  const found = models.get(modelName.toLowerCase());
  if (found?.kind !== 'diode')
    return fail(
      `${ref}: no diode model ${clip(modelName)}`,
      `a card .model ${clip(modelName)} D (…)`,
    );
  const times = area === undefined ? 1 : parseDeckNumber(area);
  const model =
    times === undefined || times === 1 || times <= 0
      ? found.model
      : {
          ...found.model,
          name: `${found.model.name}_x${times}`,
          saturationCurrentAmpere: found.model.saturationCurrentAmpere * times,
          seriesResistanceOhm: found.model.seriesResistanceOhm / times,
        };
  return { ok: true, part: { kind: 'diode', ref, pins: [anode, cathode], model } };
}

function parseTransistor(
  words: readonly string[],
  models: ReadonlyMap<string, DeckModel>,
): ElementResult {
  const ref = words[0]!;
  const at = [4, 5].find((position) => models.has((words[position] ?? '').toLowerCase()));
  if (at === undefined)
    return fail(
      `${ref}: no transistor model ${clip(words[4] ?? '(none given)')}`,
      `${ref} C B E MODEL and a card .model MODEL NPN|PNP (…)`,
    );
  const found = models.get(words[at]!.toLowerCase())!;
  if (found.kind !== 'transistor')
    return fail(`${ref}: ${words[at]} is not a transistor model`, 'a model of type NPN or PNP');
  const times = parseDeckNumber(words[at + 1] ?? '') ?? 1;
  const model =
    times === 1 || times <= 0
      ? found.model
      : {
          ...found.model,
          name: `${found.model.name}_x${times}`,
          saturationCurrentAmpere: found.model.saturationCurrentAmpere * times,
        };
  return { ok: true, part: { kind: 'transistor', ref, pins: words.slice(1, 4), model } };
}

/**
 * Shortens what is taken or quoted from a file, so that rubbish stays readable. most: characters,
 * 40 in a message.
 */
export function clip(text: string, most = 40): string {
  // eslint-disable-next-line no-control-regex -- control characters are exactly what must not reach a terminal
  const safe = text.replace(/[\u0000-\u001f\u007f-\u009f]/g, '?');
  return safe.length > most ? `${safe.slice(0, most - 1)}…` : safe;
}
