import { parseQuantity, type Unit } from '../quantity';
import type { Size } from './spec';

/** A quantity as it stands among words. */
export interface Amount {
  readonly value: number;
  readonly unit: Unit;
  readonly word: string;
}

const number = (text: string): number => Number(text.replace(',', '.'));

/** `h=11 d=6.3 pitch=2.5`, with commas or blanks between; mm. Also `5x11` as a can is sold. */
export function readSize(text: string): Size {
  const named = (letters: string): number | undefined => {
    const found = new RegExp(
      `\\b(?:${letters})\\s*[=:]\\s*(\\d+(?:[.,]\\d+)?)(?:\\s*mm)?`,
      'i',
    ).exec(text);
    return found ? number(found[1]!.replace(/,$/, '')) : undefined;
  };
  const can = /(?:^|\s)(\d+(?:\.\d+)?)\s*[x×]\s*(\d+(?:\.\d+)?)(?:\s*mm)?(?=\s|,|$)/i.exec(text);
  const height = named('h|height') ?? (can ? number(can[2]!) : undefined);
  const diameter = named('d|dia|diameter') ?? (can ? number(can[1]!) : undefined);
  const pitch = named('pitch|p|rm');
  return {
    ...(height === undefined ? {} : { height }),
    ...(diameter === undefined ? {} : { diameter }),
    ...(pitch === undefined ? {} : { pitch }),
  };
}

/** Words that name a figure: `esr=0.3`, `0.3R esr`, `esr 0.3`. Undefined where they do not. */
export function named(text: string, names: string, unit: Unit): number | undefined {
  const found =
    new RegExp(`\\b(?:${names})\\s*[=:]\\s*([^\\s,;]+)`, 'i').exec(text) ??
    new RegExp(`([^\\s,;=]+)\\s+(?:${names})\\b`, 'i').exec(text) ??
    new RegExp(`\\b(?:${names})\\s+([^\\s,;]+)`, 'i').exec(text);
  if (!found) return undefined;
  const parsed = parseQuantity(found[1]!);
  return parsed.ok && parsed.value !== 'OL' && (parsed.unit === '' || parsed.unit === unit)
    ? parsed.value
    : undefined;
}

/** The same with an equals sign only. */
export function assigned(text: string, names: string): number | undefined {
  const found = new RegExp(`\\b(?:${names})\\s*[=:]\\s*([^\\s,;]+)`, 'i').exec(text);
  const parsed = found && parseQuantity(found[1]!);
  return parsed?.ok && parsed.value !== 'OL' ? parsed.value : undefined;
}

/** The quantities among words that stand by themselves; what is behind an equals sign is named. */
export function amounts(text: string): readonly Amount[] {
  return text
    .replace(/\b[a-z]+\s*[=:]\s*[^\s,;]+/gi, ' ')
    .replace(/(\d)\s+(V(?:ac|dc)?|m?A|ohms?|Ω|[munpk]?F|[mun]?H|[kM]?Hz)(?=\s|,|$)/g, '$1$2')
    .split(/[\s,/;]+/)
    .flatMap((word) => {
      if (word === '' || word.endsWith('%')) return [];
      const parsed = parseQuantity(word.replace(/V(ac|dc)$/i, 'V'));
      return parsed.ok && parsed.value !== 'OL'
        ? [{ value: parsed.value, unit: parsed.unit, word }]
        : [];
    });
}

export const amountOf = (list: readonly Amount[], unit: Unit): number | undefined =>
  list.find((one) => one.unit === unit)?.value;

/** The first quantity that carries a unit or none at all: a bare number is what the kind counts in. */
export const valueOf = (list: readonly Amount[], unit: Unit): number | undefined =>
  list.find((one) => one.unit === unit || one.unit === '')?.value;

export function wattOf(text: string): number | undefined {
  const found = /(?:^|\s)(?:(\d+)\/(\d+)|(\d+(?:[.,]\d+)?))\s*(m?)W(?=\s|,|$)/.exec(text);
  if (!found) return undefined;
  const value = found[3] === undefined ? Number(found[1]) / Number(found[2]) : number(found[3]);
  return Number.isFinite(value) ? value * (found[4] === 'm' ? 1e-3 : 1) : undefined;
}

export function celsiusOf(text: string): number | undefined {
  const found = /(?:^|\s)(\d{2,3})\s*°?C(?=\s|,|$)/.exec(text)?.[1];
  return found === undefined ? undefined : Number(found);
}

export function toleranceOf(text: string): number | undefined {
  const found = /(?:^|\s)[±+]?-?(\d+(?:[.,]\d+)?)\s*%/.exec(text)?.[1];
  return found === undefined ? undefined : number(found) / 100;
}

export function lifeHoursOf(text: string): number | undefined {
  const found = /(?:^|\s)(\d{3,6})\s*(?:h|hours?|hrs?)(?=\s|,|$)/i.exec(text)?.[1];
  return found === undefined ? undefined : Number(found);
}

/** A length in millimetres: `1.2mm`, `1.2 mm`. All of them, in order. */
export function millimetres(text: string): readonly number[] {
  return [...text.matchAll(/(\d+(?:[.,]\d+)?)\s*mm\b/gi)].map((found) => number(found[1]!));
}

/** The order of legs as letters: `EBC`, `A-K-E-C`; each letter once. */
export function orderOf(text: string, letters: string): string | undefined {
  for (const word of text.toUpperCase().split(/[\s,/;()]+/)) {
    const plain = word.replace(/[-.]/g, '');
    if (plain.length === letters.length && [...letters].every((letter) => plain.includes(letter)))
      return plain;
  }
  return undefined;
}
