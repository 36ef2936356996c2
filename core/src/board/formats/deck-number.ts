// prettier-ignore
const SCALE: readonly (readonly [string, number])[] = [
  ['meg', 1e6], ['t', 1e12], ['g', 1e9], ['k', 1e3], ['m', 1e-3], ['u', 1e-6], ['n', 1e-9], ['p', 1e-12], ['f', 1e-15],
];

/**
 * Reads a number of a circuit deck: `4.7k`, `10uF`, `1meg`, `2.2e-6`. Letters after the scale are
 * ignored and case is, as the format has it. Returns undefined for anything else.
 */
export function parseDeckNumber(token: string): number | undefined {
  const match = /^([+-]?(?:\d+\.?\d*|\.\d+)(?:e[+-]?\d{1,3})?)([a-zµ]*)$/i.exec(token);
  if (!match) return undefined;
  const letters = match[2]!.toLowerCase().replace('µ', 'u');
  const scale = SCALE.find(([prefix]) => letters.startsWith(prefix))?.[1] ?? 1;
  const exponent = Math.round(Math.log10(scale));
  const [mantissa, power = '0'] = match[1]!.toLowerCase().split('e');
  const value = Number(`${mantissa}e${Number(power) + exponent}`);
  return Number.isFinite(value) ? value : undefined;
}

/**
 * Prints a number so that `parseDeckNumber` gives exactly the same value back, with a scale letter
 * where that is exact.
 */
export function printDeckNumber(value: number): string {
  for (const [letters, scale] of SCALE) {
    const scaled = Number((value / scale).toPrecision(12));
    const text = `${scaled}${letters}`;
    if (
      Math.abs(scaled) >= 1 &&
      Math.abs(scaled) < 1000 &&
      parseDeckNumber(text) === value &&
      scale !== 1e-15
    )
      return text;
  }
  return String(value);
}
