import { logGamma, solveRising } from './gamma';

const LONGEST = 10_000;
const ENOUGH = 1e-15;

/**
 * Probability that a Beta(a, b) variable is below x: the regularised incomplete beta function, by its
 * continued fraction. Source: Abramowitz & Stegun, Handbook of Mathematical Functions, 26.5.8.
 */
export function betaBelow(a: number, b: number, x: number): number {
  if (!(a > 0 && b > 0)) throw new RangeError(`betaBelow: Beta(${a}, ${b})`);
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  // The fraction is quick on one side of the mean only; the other is its mirror.
  if (x > (a + 1) / (a + b + 2)) return 1 - betaBelow(b, a, 1 - x);
  const log = logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log1p(-x);
  return (Math.exp(log) / a) * fraction(a, b, x);
}

function fraction(a: number, b: number, x: number): number {
  let c = 1;
  let d = 1 / (1 - ((a + b) * x) / (a + 1) || 1e-300);
  let value = d;
  for (let m = 1; m < LONGEST; m += 1) {
    const even = (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m));
    d = 1 / (1 + even * d || 1e-300);
    c = 1 + even / c || 1e-300;
    value *= c * d;
    const odd = (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 / (1 + odd * d || 1e-300);
    c = 1 + odd / c || 1e-300;
    value *= c * d;
    if (Math.abs(c * d - 1) < ENOUGH) break;
  }
  return value;
}

/** The x below which a Beta(a, b) variable lies with this probability. */
export function betaQuantile(a: number, b: number, probability: number): number {
  if (probability <= 0) return 0;
  if (probability >= 1) return 1;
  return solveRising((x) => betaBelow(a, b, x), probability, 0, 1);
}
