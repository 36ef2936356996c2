import { preferredValues, type ESeries } from '../quantity';

/** Two values of a series that come nearest to one, in series or side by side. */
export function nearestPair(
  wanted: number,
  series: ESeries,
  together: 'add' | 'reciprocal',
): { readonly one: number; readonly other: number; readonly value: number } {
  const decade = preferredValues(series);
  const power = Math.floor(Math.log10(wanted));
  // Beside one value a thousand times away the other changes nothing that a tolerance leaves.
  const values = [-2, -1, 0, 1, 2, 3].flatMap((step) =>
    decade.map((one) => Number((one * 10 ** (power + step)).toPrecision(6))),
  );
  let best = { one: 0, other: 0, value: Infinity };
  const off = (value: number): number => Math.abs(Math.log(value / wanted));
  values.forEach((one, i) => {
    for (const other of values.slice(0, i + 1)) {
      const value = together === 'add' ? one + other : (one * other) / (one + other);
      if (off(value) < off(best.value) - 1e-12) best = { one, other, value };
    }
  });
  return best;
}

/** How far a ratio is from 1, in words. */
export function offText(ratio: number): string {
  const off = 100 * (ratio - 1);
  return Math.abs(off) < 0.005
    ? 'exact'
    : `${Math.abs(off).toFixed(Math.abs(off) < 1 ? 2 : 1)} % ${off > 0 ? 'above' : 'below'}`;
}
