/** A tolerance of 200 % is as wide as one can be stated. */
const WIDEST = 2;

/**
 * Reads a tolerance: `5%`, `0.5 %`, or a bare fraction such as `0.05`. Returns the limit as a
 * fraction of the value, undefined where it is none.
 */
export function parseTolerance(text: string): number | undefined {
  const match = /^±?\s*((?:\d+(?:[.,]\d*)?|[.,]\d+)(?:e[+-]?\d{1,3})?)\s*(%)?$/i.exec(text.trim());
  if (!match) return undefined;
  const number = Number(match[1]!.replace(',', '.'));
  const fraction = Number((match[2] ? number / 100 : number).toPrecision(12));
  return fraction > 0 && fraction <= WIDEST ? fraction : undefined;
}

/** Prints a tolerance as `5%`; `parseTolerance` reads the same fraction back. */
export function formatTolerance(fraction: number): string {
  return `${Number((fraction * 100).toPrecision(12))}%`;
}
