import { betaQuantile } from './beta';
import { gammaQuantile } from './gamma';

/** Both ends of an interval, inside the limits of what it is about. */
export interface Interval {
  readonly low: number;
  readonly high: number;
}

function held(words: string, k: number, n: number): void {
  if (!(k >= 0 && n >= k)) throw new RangeError(`${words}: ${k} of ${n}`);
}

/**
 * The interval of a share of which k of n were seen, each side left out with half of what the
 * confidence leaves. Source: C. J. Clopper and E. S. Pearson, Biometrika 26, 1934.
 */
export function shareInterval(k: number, n: number, confidence = 0.95): Interval {
  held('shareInterval', k, n);
  const out = (1 - confidence) / 2;
  return {
    low: k === 0 ? 0 : betaQuantile(k, n - k + 1, out),
    high: k === n ? 1 : betaQuantile(k + 1, n - k, 1 - out),
  };
}

/**
 * The share that k of n still leave open at the confidence, one-sided: about 3/n where none was seen.
 * Source: as above.
 */
export function shareAtMost(k: number, n: number, confidence = 0.95): number {
  held('shareAtMost', k, n);
  return k === n ? 1 : betaQuantile(k + 1, n - k, confidence);
}

/**
 * The interval of the expected count where k were seen. Source: F. Garwood, Biometrika 28, 1936.
 */
export function countInterval(k: number, confidence = 0.95): Interval {
  if (!(k >= 0)) throw new RangeError(`countInterval: ${k}`);
  const out = (1 - confidence) / 2;
  return { low: k === 0 ? 0 : gammaQuantile(k, out), high: gammaQuantile(k + 1, 1 - out) };
}

/** The expected count that k seen still leave open at the confidence, one-sided. Source: as above. */
export function countAtMost(k: number, confidence = 0.95): number {
  if (!(k >= 0)) throw new RangeError(`countAtMost: ${k}`);
  return gammaQuantile(k + 1, confidence);
}
