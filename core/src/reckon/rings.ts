import { NoAnswer } from './calculator';

interface Band {
  readonly digit?: number;
  readonly power?: number;
  /** Per cent. */
  readonly tolerance?: number;
  /** Millionths a kelvin. */
  readonly drift?: number;
}

/** Rings of resistors. Source: IEC 60062:2016, table 1. */
export const RINGS: Readonly<Record<string, Band>> = {
  black: { digit: 0, power: 0, drift: 250 },
  brown: { digit: 1, power: 1, tolerance: 1, drift: 100 },
  red: { digit: 2, power: 2, tolerance: 2, drift: 50 },
  orange: { digit: 3, power: 3, tolerance: 0.05, drift: 15 },
  yellow: { digit: 4, power: 4, tolerance: 0.02, drift: 25 },
  green: { digit: 5, power: 5, tolerance: 0.5, drift: 20 },
  blue: { digit: 6, power: 6, tolerance: 0.25, drift: 10 },
  violet: { digit: 7, power: 7, tolerance: 0.1, drift: 5 },
  grey: { digit: 8, power: 8, tolerance: 0.01, drift: 1 },
  white: { digit: 9, power: 9 },
  gold: { power: -1, tolerance: 5 },
  silver: { power: -2, tolerance: 10 },
  pink: { power: -3 },
};
const OTHER_NAMES: Readonly<Record<string, string>> = { purple: 'violet', gray: 'grey' };
const POWERS = Object.entries(RINGS).flatMap(([name, { power }]) =>
  power === undefined ? [] : [[power, name] as const],
);
const DIGITS = Object.entries(RINGS).flatMap(([name, { digit }]) =>
  digit === undefined ? [] : [name],
);

/** What the rings of a resistor say. Throws NoAnswer where they say nothing. */
export function readRings(said: string): {
  readonly ohm: number;
  readonly tolerance: number;
  readonly drift: number | undefined;
} {
  const names = said
    .toLowerCase()
    .split(/[\s,;/-]+/)
    .filter(Boolean)
    .map((one) => OTHER_NAMES[one] ?? one);
  const unknown = names.find((one) => !Object.hasOwn(RINGS, one));
  if (unknown !== undefined)
    throw new NoAnswer(`no ring is ${unknown}; known are ${Object.keys(RINGS).join(', ')}`);
  if (names.length < 3 || names.length > 6)
    throw new NoAnswer(`${names.length} rings; a resistor has three to six`);
  // Three and four rings have two figures, five and six have three.
  const figures = names.length > 4 ? 3 : 2;
  const digits = names.slice(0, figures).map((one) => RINGS[one]!.digit);
  const bad = digits.indexOf(undefined);
  if (bad >= 0) throw new NoAnswer(`${names[bad]} is no figure: is it read from the other end?`);
  const { power } = RINGS[names[figures]!]!;
  if (power === undefined) throw new NoAnswer(`${names[figures]} is no multiplier`);
  const close = names[figures + 1];
  const tolerance = close === undefined ? 20 : RINGS[close]!.tolerance;
  if (tolerance === undefined)
    throw new NoAnswer(`${close} is no tolerance: is it read from the other end?`);
  const last = names[figures + 2];
  const drift = last === undefined ? undefined : RINGS[last]!.drift;
  if (last !== undefined && drift === undefined) throw new NoAnswer(`${last} is no drift`);
  const value = Number(`${digits.join('')}e${power}`);
  return { ohm: value, tolerance, drift };
}

/** The rings of a value: figures, multiplier and tolerance; undefined where they cannot show it. */
export function ringsOf(ohm: number, tolerance: number): readonly string[] | undefined {
  const figures = tolerance <= 2 ? 3 : 2;
  if (!(ohm > 0)) return undefined;
  const power = Math.floor(Math.log10(ohm) + 1e-9) - (figures - 1);
  const digits = Math.round(ohm / 10 ** power);
  const ring = POWERS.find(([of]) => of === power)?.[1];
  const close = Object.entries(RINGS).find(([, band]) => band.tolerance === tolerance)?.[0];
  if (
    Math.abs(digits * 10 ** power - ohm) > 1e-6 * ohm ||
    ring === undefined ||
    close === undefined
  )
    return undefined;
  return [
    ...String(digits)
      .split('')
      .map((digit) => DIGITS[Number(digit)]!),
    ring,
    close,
  ];
}
