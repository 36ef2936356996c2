import type { Unit } from './parse';

const SYMBOL: Readonly<Record<Unit, string>> = {
  '': '',
  ohm: 'Ω',
  V: 'V',
  A: 'A',
  F: 'F',
  H: 'H',
  Hz: 'Hz',
};
// prettier-ignore
const STEPS: readonly (readonly [number, string])[] = [
  [1e12, 'T'], [1e9, 'G'], [1e6, 'M'], [1e3, 'k'], [1, ''], [1e-3, 'm'], [1e-6, 'µ'], [1e-9, 'n'], [1e-12, 'p'],
];

/** The prefix step (1e3, 1, 1e-3 …) and its letter under which a value reads as 1 to 999. */
function prefixFor(value: number): readonly [number, string] {
  const size = Math.abs(value);
  if (size === 0) return [1, ''];
  return STEPS.find(([step]) => size >= step * 0.9999999) ?? STEPS[STEPS.length - 1]!;
}

/**
 * Prints a value in engineering notation, `4.7 kΩ`, with at most `digits` significant figures and
 * no trailing zeros. value: SI units. digits: default 4, what a 4000-count meter resolves.
 */
export function formatQuantity(value: number, unit: Unit, digits = 4): string {
  if (!Number.isFinite(value)) return 'OL';
  const rounded = Number(value.toPrecision(digits));
  const [step, letter] = prefixFor(rounded);
  const shown = Number((rounded / step).toPrecision(digits));
  return `${shown}${SYMBOL[unit] || letter ? ' ' : ''}${letter}${SYMBOL[unit]}`;
}

/**
 * Prints a value as a meter with `counts` counts does on the range whose full scale is `fullScale`:
 * fixed decimals, range's prefix.
 * value, fullScale: SI units. Returns for example `4.70 kΩ` for 4700 on the 40 kΩ range of a
 * 4000-count meter.
 */
export function formatOnRange(value: number, unit: Unit, fullScale: number, counts = 4000): string {
  const [step, letter] = prefixFor(fullScale);
  const count = fullScale / counts;
  const decimals = Math.max(0, Math.round(-Math.log10(count / step)));
  const steps = Math.round(value / count);
  return `${((steps * count) / step).toFixed(decimals)} ${letter}${SYMBOL[unit]}`;
}

/**
 * Prints a value in the compact letter notation, `4k7`, `22u`, `183R`: what `parseQuantity` reads
 * back.
 */
export function formatCompact(value: number, unit: Unit): string {
  const [step, letter] = prefixFor(value);
  const point = letter === 'µ' ? 'u' : letter || (unit === 'ohm' ? 'R' : unit === 'V' ? 'V' : '');
  const digits = Number((value / step).toPrecision(4)).toString();
  if (point === '') return digits;
  return digits.includes('.') ? digits.replace('.', point) : digits + point;
}

/** Time of a step in words: `half a minute`, `a minute`, `6 minutes`. */
export function minutesInWords(minutes: number): string {
  if (minutes < 0.75) return 'half a minute';
  if (minutes < 1.5) return 'a minute';
  return `${Math.round(minutes)} minutes`;
}

/** What a reading or a trial tells of what it is, in words. bits: expected information. */
export function tellsInWords(bits: number): string {
  if (bits >= 1) return 'a great deal';
  if (bits >= 0.4) return 'much';
  if (bits >= 0.15) return 'something';
  return bits >= 0.05 ? 'a little' : 'next to nothing';
}
