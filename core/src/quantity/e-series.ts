// Preferred values of resistors and capacitors. Source: IEC 60063; the tests hold the tables here
// against rows of it.

/** How many values a decade has. */
export type ESeries = 6 | 12 | 24 | 48 | 96 | 192;

/** E24, two figures; E12 is every second of them, E6 every fourth. */
const E24 = [
  1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6,
  6.2, 6.8, 7.5, 8.2, 9.1,
] as const;

/** The one value of the fine series that its own rule would give otherwise: 9.19. */
const BY_DECREE: readonly [index: number, value: number] = [185, 9.2];

/** The values of one decade, 1 to below 10, ascending. */
export function preferredValues(series: ESeries): readonly number[] {
  if (series <= 24) return E24.filter((_, i) => i % (24 / series) === 0);
  const step = 192 / series;
  return Array.from({ length: series }, (_, i) =>
    i * step === BY_DECREE[0] ? BY_DECREE[1] : Math.round(100 * 10 ** (i / series)) / 100,
  );
}

/** Of a decade each, E192 with E24: E24 is no part of the finer ones. */
const ALL: readonly number[] = [...new Set([...E24, ...preferredValues(192)])].sort(
  (a, b) => a - b,
);

/** Relative; figures of three digits lie at least a tenth of a per cent apart. */
const SAME = 1e-6;

/** The preferred value of a series that lies nearest, by ratio. value: above zero, any unit. */
export function nearestPreferred(value: number, series: ESeries): number {
  return nearest(value, preferredValues(series));
}

/** Whether any series has this value. value: above zero, any unit. */
export function isPreferred(value: number): boolean {
  return Math.abs(nearest(value, ALL) / value - 1) < SAME;
}

function nearest(value: number, decade: readonly number[]): number {
  const power = Math.floor(Math.log10(value));
  const candidates = [...decade.map((one) => one * 10 ** power), 10 ** (power + 1)];
  const off = (one: number): number => Math.abs(Math.log(one / value));
  return candidates.reduce((best, one) => (off(one) < off(best) ? one : best));
}
