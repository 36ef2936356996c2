// Distributions and intervals against published tables.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  betaBelow,
  betaQuantile,
  countAtMost,
  countInterval,
  gammaBelow,
  gammaQuantile,
  logGamma,
  shareAtMost,
  shareInterval,
} from '../src/statistics';

describe('the gamma function and what is below', () => {
  it('is the factorial, and the root of pi', () => {
    for (let n = 1, f = 1; n < 20; n += 1, f *= n - 1)
      expect(Math.exp(logGamma(n)) / f).toBeCloseTo(1, 12);
    expect(Math.exp(logGamma(0.5))).toBeCloseTo(Math.sqrt(Math.PI), 12);
  });

  // Source: chi-squared table, Abramowitz & Stegun, table 26.8: P = gammaBelow(f / 2, x / 2).
  it.each([
    [1, 3.84146, 0.95],
    [2, 5.99147, 0.95],
    [5, 11.0705, 0.95],
    [10, 18.307, 0.95],
    [10, 3.9403, 0.05],
    [30, 43.773, 0.95],
    [100, 124.342, 0.95],
  ])('chi-squared of %i degrees at %f', (degrees, x, p) => {
    expect(gammaBelow(degrees / 2, x / 2)).toBeCloseTo(p, 4);
    expect(2 * gammaQuantile(degrees / 2, p)).toBeCloseTo(x, 2);
  });

  it('sums a Poisson where the shape is whole', () => {
    // P(at least k of mean m) = gammaBelow(k, m), worked out term by term.
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.double({ min: 0.01, max: 80, noNaN: true }),
        (k, m) => {
          let term = Math.exp(-m);
          let below = 0;
          for (let i = 0; i < k; i += 1) {
            below += term;
            term *= m / (i + 1);
          }
          expect(gammaBelow(k, m)).toBeCloseTo(1 - below, 10);
        },
      ),
    );
  });
});

describe('the beta distribution', () => {
  it('sums a binomial where both are whole', () => {
    const whole = fc.integer({ min: 1, max: 40 });
    fc.assert(
      fc.property(whole, whole, fc.double({ min: 0.001, max: 0.999, noNaN: true }), (a, b, x) => {
        const n = a + b - 1;
        let sum = 0;
        for (let j = a; j <= n; j += 1)
          sum += Math.exp(
            logGamma(n + 1) -
              logGamma(j + 1) -
              logGamma(n - j + 1) +
              j * Math.log(x) +
              (n - j) * Math.log(1 - x),
          );
        expect(betaBelow(a, b, x)).toBeCloseTo(sum, 9);
        expect(betaBelow(a, b, x) + betaBelow(b, a, 1 - x)).toBeCloseTo(1, 12);
      }),
    );
  });

  it('comes back from what is below', () => {
    const shape = fc.double({ min: 0.5, max: 300, noNaN: true });
    fc.assert(
      fc.property(shape, shape, fc.double({ min: 0.001, max: 0.999, noNaN: true }), (a, b, p) => {
        expect(betaBelow(a, b, betaQuantile(a, b, p))).toBeCloseTo(p, 5);
        expect(gammaBelow(a, gammaQuantile(a, p))).toBeCloseTo(p, 9);
      }),
    );
  });
});

describe('what was seen of a share, and of a count', () => {
  // Source: Clopper & Pearson's charts as tabled in Biometrika Tables for Statisticians, table 41;
  // figures from memory.
  it.each([
    [0, 10, 0, 0.3085],
    [1, 10, 0.0025, 0.445],
    [5, 10, 0.1871, 0.8129],
    [10, 10, 0.6915, 1],
    [1, 20, 0.0013, 0.2487],
    [6, 6, 0.5407, 1],
  ])('%i of %i', (k, n, low, high) => {
    const interval = shareInterval(k, n);
    expect(interval.low).toBeCloseTo(low, 4);
    expect(interval.high).toBeCloseTo(high, 4);
  });

  // Source: Garwood's limits as tabled in Biometrika Tables for Statisticians, table 40; from memory.
  it.each([
    [0, 0, 3.69],
    [1, 0.0253, 5.57],
    [2, 0.242, 7.22],
    [5, 1.62, 11.67],
    [10, 4.8, 18.39],
    [30, 20.24, 42.83],
  ])('a count of %i', (k, low, high) => {
    const interval = countInterval(k);
    expect(interval.low).toBeCloseTo(low, 2);
    expect(interval.high).toBeCloseTo(high, 2);
  });

  it('is the rule of three where nothing was seen', () => {
    // Source: J. A. Hanley and A. Lippman-Hand, JAMA 249, 1983: 3/n at 95 %.
    for (const n of [30, 100, 1000]) {
      expect(shareAtMost(0, n) * n).toBeGreaterThan(2.85);
      expect(shareAtMost(0, n) * n).toBeLessThan(3);
      // In closed form: 1 - 0.05^(1/n).
      expect(shareAtMost(0, n)).toBeCloseTo(1 - 0.05 ** (1 / n), 10);
    }
    expect(countAtMost(0)).toBeCloseTo(-Math.log(0.05), 10);
  });

  it('covers the truth at least as often as it says', () => {
    // Exactly, over every outcome of 12 tries.
    for (let p = 0.05; p < 1; p += 0.05) {
      let covered = 0;
      for (let k = 0; k <= 12; k += 1) {
        const chance = Math.exp(
          logGamma(13) -
            logGamma(k + 1) -
            logGamma(13 - k) +
            k * Math.log(p) +
            (12 - k) * Math.log(1 - p),
        );
        const { low, high } = shareInterval(k, 12);
        if (low <= p && p <= high) covered += chance;
      }
      expect(covered).toBeGreaterThanOrEqual(0.95 - 1e-9);
    }
  });

  it('does not judge what cannot be', () => {
    expect(() => shareInterval(3, 2)).toThrow(RangeError);
    expect(() => shareAtMost(-1, 2)).toThrow(RangeError);
    expect(() => countInterval(Number.NaN)).toThrow(RangeError);
    expect(shareInterval(0, 0)).toEqual({ low: 0, high: 1 });
    expect(shareAtMost(0, 0)).toBe(1);
  });
});
