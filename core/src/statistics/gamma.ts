/** Coefficients of Lanczos with g = 7. Source: C. Lanczos, SIAM J. Numer. Anal. B 1, 1964. */
const LANCZOS = [
  0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313,
  -176.61502916214059, 12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6,
  1.5056327351493116e-7,
] as const;

/** Natural logarithm of the gamma function. x: above zero. */
export function logGamma(x: number): number {
  if (x < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * x)) - logGamma(1 - x);
  let sum: number = LANCZOS[0];
  for (let i = 1; i < LANCZOS.length; i += 1) sum += LANCZOS[i]! / (x - 1 + i);
  const t = x + 6.5;
  return 0.5 * Math.log(2 * Math.PI) + (x - 0.5) * Math.log(t) - t + Math.log(sum);
}

const LONGEST = 10_000;
const ENOUGH = 1e-15;

/**
 * Probability that a gamma variable of this shape and scale 1 is below x: the regularised lower
 * incomplete gamma function. Series below shape + 1, continued fraction above. Source: Abramowitz &
 * Stegun, Handbook of Mathematical Functions, 6.5.29 and 6.5.31.
 */
export function gammaBelow(shape: number, x: number): number {
  if (!(shape > 0)) throw new RangeError(`gammaBelow: shape ${shape}`);
  if (x <= 0) return 0;
  if (x === Infinity) return 1;
  const front = Math.exp(shape * Math.log(x) - x - logGamma(shape));
  if (x < shape + 1) {
    let term = 1 / shape;
    let sum = term;
    for (let n = 1; n < LONGEST && term > sum * ENOUGH; n += 1) {
      term *= x / (shape + n);
      sum += term;
    }
    return Math.min(1, sum * front);
  }
  return Math.max(0, 1 - front * upperFraction(shape, x));
}

/** Lentz's way through the continued fraction of the upper incomplete gamma function. */
function upperFraction(shape: number, x: number): number {
  let b = x + 1 - shape;
  let c = 1e300;
  let d = 1 / b;
  let value = d;
  for (let n = 1; n < LONGEST; n += 1) {
    const a = -n * (n - shape);
    b += 2;
    d = 1 / (a * d + b || 1e-300);
    c = b + a / c || 1e-300;
    value *= c * d;
    if (Math.abs(c * d - 1) < ENOUGH) break;
  }
  return value;
}

/** The x below which a gamma variable of this shape and scale 1 lies with this probability. */
export function gammaQuantile(shape: number, probability: number): number {
  if (probability <= 0) return 0;
  if (probability >= 1) return Infinity;
  let high = Math.max(1, shape);
  while (gammaBelow(shape, high) < probability) high *= 2;
  return solveRising((x) => gammaBelow(shape, x), probability, 0, high);
}

/** Where a rising function takes a value, by halving, to the last figure that a number holds. */
export function solveRising(
  of: (x: number) => number,
  value: number,
  low: number,
  high: number,
): number {
  let [a, b] = [low, high];
  for (let i = 0; i < 200; i += 1) {
    const middle = (a + b) / 2;
    if (middle === a || middle === b) break;
    if (of(middle) < value) a = middle;
    else b = middle;
  }
  return (a + b) / 2;
}
