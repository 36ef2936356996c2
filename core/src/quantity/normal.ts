/** Density of the standard normal distribution at z. */
export function normalDensity(z: number): number {
  return Math.exp(-0.5 * z * z) / 2.5066282746310002;
}

/** Probability that a standard normal variable is below z. Absolute error under 1.5e-7.
 * Source: Abramowitz & Stegun, Handbook of Mathematical Functions, 7.1.26. */
export function normalBelow(z: number): number {
  const t = 1 / (1 + 0.3275911 * (Math.abs(z) / Math.SQRT2));
  const poly =
    t *
    (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429))));
  const tail = 0.5 * poly * Math.exp(-0.5 * z * z);
  return z >= 0 ? 1 - tail : tail;
}
