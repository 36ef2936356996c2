import { formatQuantity, parseQuantity, parseTolerance, type Unit } from '../quantity';
import type { FigureUnit } from './calculator';

const ELECTRICAL: readonly FigureUnit[] = ['', 'ohm', 'V', 'A', 'F', 'H', 'Hz'];
/** Other units: what they may be written as, and how many of ours that is. */
const WRITTEN: Readonly<Partial<Record<FigureUnit, readonly (readonly [RegExp, number])[]>>> = {
  s: [[/^(s|sec|seconds?)$/i, 1], [/^ms$/, 1e-3], [/^[uµ]s$/, 1e-6], [/^ns$/, 1e-9], [/^min$/i, 60], [/^h$/i, 3600]],
  W: [[/^W$/i, 1], [/^mW$/, 1e-3], [/^kW$/i, 1e3]],
  mm: [[/^mm$/i, 1], [/^cm$/i, 10], [/^m$/i, 1000], [/^(in|inch|")$/i, 25.4]],
  degC: [[/^(°?C|degC)$/i, 1]],
  '%': [[/^%$/, 1]],
  J: [[/^J$/i, 1], [/^mJ$/, 1e-3], [/^[uµ]J$/, 1e-6]],
  A2s: [[/^A[2²]s$/i, 1]],
  rpm: [[/^(rpm|rev\/min|1\/min)$/i, 1]],
  h: [[/^h(ours?)?$/i, 1], [/^k ?h$/i, 1000]],
  dB: [[/^dB$/i, 1]],
}; // prettier-ignore
/** How a unit is printed; the others of quantity as there. */
const PRINTED: Readonly<Partial<Record<FigureUnit, string>>> = {
  degC: '°C',
  '%': '%',
  A2s: 'A²s',
  rpm: 'rev/min',
  h: 'h',
  dB: 'dB',
  mm: 'mm',
};

/** A number as it was typed, and how far it may be off either way, both in its unit. */
export interface ReadFigure {
  readonly value: number;
  readonly limit: number;
}

/**
 * Reads a figure in bench notation, with a tolerance behind it where there is one: `4k7 5%`,
 * `12.1V ±0.1`. Returns what is expected where it is none.
 */
export function readFigure(
  typed: string,
  unit: FigureUnit,
):
  | { readonly ok: true; readonly value: ReadFigure }
  | { readonly ok: false; readonly expected: string } {
  const [front, off] = apart(typed.trim(), unit);
  const value = readNumber(front, unit);
  const limit = value === undefined || off === undefined ? 0 : limitOf(value, off, unit);
  if (value !== undefined && limit !== undefined) return { ok: true, value: { value, limit } };
  const expected = `a number${unit === '' ? '' : ` of ${unitWords(unit)}`} such as ${EXAMPLES[unit] ?? '4.7'}, with ± and how far it may be off where that is known`;
  return { ok: false, expected };
}

/** The value and what stands behind it: after a sign for both ways, or as per cent. */
function apart(typed: string, unit: FigureUnit): readonly [front: string, off: string | undefined] {
  const [front = '', off] = typed.split(/±|\+\/?-/);
  if (off !== undefined) return [front.trim(), off.trim()];
  const [, value, share] = /^(.*\S)\s+([\d.,]+\s*%)$/.exec(typed) ?? [];
  return value !== undefined && unit !== '%' ? [value, share] : [typed, undefined];
}

function limitOf(value: number, off: string, unit: FigureUnit): number | undefined {
  const share = off.endsWith('%') && unit !== '%' ? parseTolerance(off) : undefined;
  const limit = share === undefined ? readNumber(off, unit) : Math.abs(value) * share;
  return limit === undefined || limit < 0 ? undefined : limit;
}

const EXAMPLES: Readonly<Partial<Record<FigureUnit, string>>> = {
  ohm: '4k7', V: '3V3', A: '20m', F: '100n', H: '47u', Hz: '100k', s: '10ms', W: '0.25W', mm: '30mm', degC: '45', '%': '5%', h: '2000',
}; // prettier-ignore

function readNumber(typed: string, unit: FigureUnit): number | undefined {
  if (ELECTRICAL.includes(unit)) {
    const read = parseQuantity(typed);
    if (!read.ok || read.value === 'OL') return undefined;
    return read.unit === '' || read.unit === unit ? read.value : undefined;
  }
  const [, digits, word = ''] =
    /^([+-]?(?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d{1,3})?)\s*(\D*)$/i.exec(typed.trim()) ?? [];
  if (digits === undefined) return undefined;
  const plain = Number(digits.replace(',', '.'));
  if (word.trim() === '') return Number.isFinite(plain) ? plain : undefined;
  const scale = WRITTEN[unit]?.find(([pattern]) => pattern.test(word.trim()))?.[1];
  return scale === undefined || !Number.isFinite(plain) ? undefined : plain * scale;
}

const unitWords = (unit: FigureUnit): string =>
  (
    ({
      ohm: 'ohms',
      V: 'volts',
      A: 'amperes',
      F: 'farads',
      H: 'henries',
      Hz: 'hertz',
      s: 'seconds',
      W: 'watts',
      mm: 'millimetres',
      degC: 'degrees',
      '%': 'per cent',
    }) as Readonly<Record<string, string>>
  )[unit] ?? unit;

/** Prints a figure: `4.7 kΩ`, `12 mm`, `6.9 ms`. */
export function figureText(value: number, unit: FigureUnit, digits = 4): string {
  if (Number.isNaN(value)) return 'no number';
  if (!Number.isFinite(value)) return value > 0 ? 'without end' : 'none';
  if (unit === 'n') return String(Number(value.toPrecision(Math.max(digits, 9))));
  if (ELECTRICAL.includes(unit)) return formatQuantity(value, unit as Unit, digits);
  const printed = PRINTED[unit];
  if (printed !== undefined) return `${Number(value.toPrecision(digits))} ${printed}`;
  if (unit === 's' && Math.abs(value) >= 60) {
    if (Math.abs(value) >= 3600) return `${Number((value / 3600).toPrecision(digits))} h`;
    return `${Number((value / 60).toPrecision(digits))} min`;
  }
  // Seconds, watts and joules take the prefixes of quantity.
  const plain = formatQuantity(value, '', digits);
  return /[A-Za-zµ]$/.test(plain) ? `${plain}${unit}` : `${plain} ${unit}`;
}
