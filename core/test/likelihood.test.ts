import { describe, expect, it } from 'vitest';
import { BLUNDER, blank, decibans, logLikelihood, scaled } from '../src/diagnosis';
import { logicChances, readout, withinBand, type Response } from '../src/instrument';
import { normalBelow } from '../src/quantity';

const SPAN = 20;
const response = (value: number, spread = 0, fullScale = 40): Response => ({
  value,
  spread,
  fullScale,
});
const log = (
  kind: 'voltage' | 'resistance' | 'continuity' | 'logic' | 'diode',
  value: Parameters<typeof logLikelihood>[1],
  r: Response,
): number => logLikelihood(kind, value, scaled(kind, r), SPAN);

describe('the likelihood of a reading', () => {
  it('is highest where the prediction is, and falls on both sides', () => {
    const at = (value: number): number => log('voltage', value, response(5, 0.05));
    expect(at(5)).toBeGreaterThan(at(5.1));
    expect(at(5.1)).toBeGreaterThan(at(5.3));
    expect(at(4.9)).toBeCloseTo(at(5.1), 9);
  });

  it('never falls below what a blunder gives: one slipped probe rules nothing out', () => {
    expect(log('voltage', 0, response(5, 0.01))).toBeCloseTo(Math.log(BLUNDER / SPAN), 9);
    expect(log('resistance', 'OL', response(100, 1, 400))).toBeCloseTo(
      Math.log(BLUNDER * blank('resistance', 'OL', SPAN)),
      6,
    );
    expect(log('continuity', 'open', response(0.05, 0, 400))).toBeCloseTo(
      Math.log(BLUNDER * 0.5),
      6,
    );
  });

  it('integrates to one over all readings, OL included', () => {
    let sum = 0;
    const step = 0.002;
    for (let volt = -10; volt < 10; volt += step)
      sum += Math.exp(log('voltage', volt, response(3, 0.2))) * step;
    expect(sum).toBeCloseTo(1, 2);
  });

  it('shares a reading near the end of the range between the number and OL', () => {
    const near = response(40e6, 1e6, 40e6);
    const share = Math.exp(log('resistance', 'OL', near));
    expect(share).toBeGreaterThan(0.4);
    expect(share).toBeLessThan(0.6);
    expect(Math.exp(log('resistance', 'OL', response(Infinity, 0, Infinity)))).toBeGreaterThan(
      0.99,
    );
  });

  it('gives each logic level its chance', () => {
    // Low below 0.8 V, high above 2.0 V: at 0.8 V with any spread the chance of low is one half.
    expect(logicChances(0.8, 0.1)['0']).toBeCloseTo(0.5, 6);
    expect(logicChances(2, 0.1)['1']).toBeCloseTo(0.5, 6);
    expect(logicChances(1.4, 0.1).Z).toBeGreaterThan(0.999);
    const chances = logicChances(1.9, 0.3);
    expect(chances['0'] + chances['1'] + chances.Z).toBeCloseTo(1, 9);
  });
});

describe('bands', () => {
  it('hold two combined standard uncertainties, and say what is inside', () => {
    const shown = readout('voltage', response(5, 0.1));
    const half = 2 * Math.hypot(0.1, (0.005 * 5 + 2 * 0.01) / Math.sqrt(3));
    expect(shown).toMatchObject({
      low: expect.closeTo(5 - half, 9) as number,
      high: expect.closeTo(5 + half, 9) as number,
    });
    expect([
      withinBand(5, shown),
      withinBand(5 + half * 1.01, shown),
      withinBand('OL', shown),
    ]).toEqual([true, false, false]);
  });
  it('of ohms never go below zero, and end in OL where the range does', () => {
    expect(readout('resistance', response(0.05, 0.2, 400)).low).toBe(0);
    const high = readout('resistance', response(39e6, 2e6, 40e6));
    expect(high.high).toBe('OL');
    expect(withinBand('OL', high)).toBe(true);
  });
});

describe('figures', () => {
  // Standard normal table: 0.8413, 0.9772, 0.9987 at 1, 2, 3; published in any table of the
  // distribution.
  it('the normal distribution is that of the tables', () =>
    expect([0, 1, 2, 3, -1].map((z) => Number(normalBelow(z).toFixed(4)))).toEqual([
      0.5, 0.8413, 0.9772, 0.9987, 0.1587,
    ]));
  // Good: odds of 10 to 1 are 10 decibans, even odds 0.
  it('decibans are ten times the logarithm of the odds', () =>
    expect(
      [decibans(0.5), decibans(10 / 11), decibans(1 / 11), decibans(1)].map((d) =>
        Number(d.toFixed(6)),
      ),
    ).toEqual([0, 10, -10, 300]));
});
