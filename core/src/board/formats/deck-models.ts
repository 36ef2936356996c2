import { parseDeckNumber } from './deck-number';
import type { DiodeModel, TransistorModel } from '../schema';

export type DeckModel =
  | { readonly kind: 'diode'; readonly model: DiodeModel }
  | { readonly kind: 'transistor'; readonly model: TransistorModel }
  | { readonly kind: 'other'; readonly type: string };

type ModelResult =
  | { readonly ok: true; readonly name: string; readonly model: DeckModel }
  | { readonly ok: false; readonly what: string; readonly expected: string };

/**
 * The defaults that stand where a card leaves a value out (docs/formats/board.md, section
 * "Models").
 */
export const DIODE_DEFAULT = {
  saturationCurrentAmpere: 1e-14,
  emissionCoefficient: 1,
  seriesResistanceOhm: 0,
  breakdownCurrentAmpere: 1e-3,
} as const;
export const TRANSISTOR_DEFAULT = {
  saturationCurrentAmpere: 1e-16,
  forwardGain: 100,
  reverseGain: 1,
  forwardEmission: 1,
  reverseEmission: 1,
} as const;

/**
 * Reads a `.model NAME TYPE(key=value …)` card. Keys other than those the engine uses are kept out
 * and ignored.
 */
export function parseModelCard(text: string): ModelResult {
  const words = text
    .replace(/[(),]/g, ' ')
    .replace(/\s*=\s*/g, '=')
    .trim()
    .split(/\s+/);
  const [, name, type] = words;
  if (!name || !type)
    return {
      ok: false,
      what: 'model card without name or type',
      expected: '.model NAME D|NPN|PNP (KEY=value …)',
    };
  const values = new Map<string, number>();
  for (const word of words.slice(3)) {
    const [key = '', written] = word.split('=');
    const value = written === undefined ? undefined : parseDeckNumber(written);
    const known = /^(is|n|rs|bv|ibv|bf|br|nf|nr)$/i.test(key);
    if (value === undefined && known)
      return { ok: false, what: `model ${name}: cannot read ${word}`, expected: 'KEY=number' };
    if (value !== undefined) values.set(key.toLowerCase(), value);
  }
  const kind = type.toLowerCase();
  if (kind === 'd') return diodeModel(name, values);
  if (kind === 'npn' || kind === 'pnp') return transistorModel(name, kind, values);
  return { ok: true, name, model: { kind: 'other', type } };
}

function badValue(name: string, key: string): ModelResult {
  return {
    ok: false,
    what: `model ${name}: ${key} is not above zero`,
    expected: 'a number above zero',
  };
}

function diodeModel(name: string, values: ReadonlyMap<string, number>): ModelResult {
  for (const key of ['is', 'n', 'bv', 'ibv'])
    if ((values.get(key) ?? 1) <= 0) return badValue(name, key.toUpperCase());
  const seriesResistanceOhm = values.get('rs') ?? DIODE_DEFAULT.seriesResistanceOhm;
  if (seriesResistanceOhm < 0) return badValue(name, 'RS');
  const breakdownVolt = values.get('bv');
  const model: DiodeModel = {
    name,
    saturationCurrentAmpere: values.get('is') ?? DIODE_DEFAULT.saturationCurrentAmpere,
    emissionCoefficient: values.get('n') ?? DIODE_DEFAULT.emissionCoefficient,
    seriesResistanceOhm,
    breakdownCurrentAmpere: values.get('ibv') ?? DIODE_DEFAULT.breakdownCurrentAmpere,
    ...(breakdownVolt === undefined ? {} : { breakdownVolt }),
  };
  return { ok: true, name, model: { kind: 'diode', model } };
}

function transistorModel(
  name: string,
  polarity: 'npn' | 'pnp',
  values: ReadonlyMap<string, number>,
): ModelResult {
  for (const key of ['is', 'bf', 'br', 'nf', 'nr'])
    if ((values.get(key) ?? 1) <= 0) return badValue(name, key.toUpperCase());
  const model: TransistorModel = {
    name,
    polarity,
    saturationCurrentAmpere: values.get('is') ?? TRANSISTOR_DEFAULT.saturationCurrentAmpere,
    forwardGain: values.get('bf') ?? TRANSISTOR_DEFAULT.forwardGain,
    reverseGain: values.get('br') ?? TRANSISTOR_DEFAULT.reverseGain,
    forwardEmission: values.get('nf') ?? TRANSISTOR_DEFAULT.forwardEmission,
    reverseEmission: values.get('nr') ?? TRANSISTOR_DEFAULT.reverseEmission,
  };
  return { ok: true, name, model: { kind: 'transistor', model } };
}
