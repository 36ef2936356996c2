// Outside checks: the definition of tan δ (IEC 60384-1), the ten-degree rule as data sheets give it,
// Weibull's distribution (J. Appl. Mech. 18, 1951), the shortest of all orders by trying each, and
// sums done by hand.
import { lifeHours } from '@hanzai/core/part';
import { LIBRARY } from '@hanzai/data';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { indexBoard, readSheetLines, type BoardIndex, type Part } from '../src/board';
import { handMinutes } from '../src/plan';
import {
  acrossEsr,
  dissipationOfEsr,
  esrLimit,
  esrOfDissipation,
  extentPlans,
  failsWithin,
  judgeOffBoard,
  largestDissipation,
  surveyOrder,
  USUAL_FIGURES,
  worthOf,
  zeroAsked,
  type CapacitorVerdict,
} from '../src/survey';

type Capacitor = Extract<Part, { kind: 'capacitor' }>;
const sheet = (text: string): BoardIndex => indexBoard(readSheetLines(text, LIBRARY).board);
const capacitors = (index: BoardIndex): Capacitor[] =>
  index.board.parts.filter((part): part is Capacitor => part.kind === 'capacitor');
const capacitor = (text: string): Capacitor => capacitors(sheet(`C1 A 0 ${text}`))[0]!;
const verdict = (
  ref: string,
  word: CapacitorVerdict['verdict'],
  bad: number,
): CapacitorVerdict => ({
  ref,
  verdict: word,
  probabilityBad: bad,
  because: '',
  settle: null,
});

describe('dissipation', () => {
  it('is ESR over reactance: 0.16 of 1000 µF at 120 Hz is 0.212 Ω', () => {
    expect(esrOfDissipation(0.16, 1000e-6, 120)).toBeCloseTo(0.2122, 4);
    expect(esrOfDissipation(0.2, 47e-6, 100)).toBeCloseTo(6.773, 3);
  });
  it('goes there and back', () => {
    const positive = fc.double({ min: 1e-9, max: 1e3, noNaN: true });
    fc.assert(
      fc.property(positive, positive, positive, (tan, farad, hertz) => {
        expect(
          dissipationOfEsr(esrOfDissipation(tan, farad, hertz), farad, hertz) / tan,
        ).toBeCloseTo(1, 9);
      }),
    );
  });
  it('may be less the higher the volts, and more by 0.02 for each 1000 µF beyond the first', () => {
    expect(largestDissipation(100e-6, 10)).toBeGreaterThan(largestDissipation(100e-6, 25));
    expect(largestDissipation(1000e-6, 25)).toBe(largestDissipation(100e-6, 25));
    expect(largestDissipation(3300e-6, 25) - largestDissipation(100e-6, 25)).toBeCloseTo(0.06, 9);
  });
  it('limits wet ones alone', () => {
    expect(esrLimit(capacitor('47u 16V electrolytic'))).toBeCloseTo(
      0.2 / (2 * Math.PI * 100 * 47e-6),
      6,
    );
    expect(esrLimit(capacitor('100n'))).toBeUndefined();
    expect(esrLimit(capacitor('10u ceramic'))).toBeUndefined();
  });
});

describe('age', () => {
  it('doubles life for every ten degrees less: 2000 h at 105 °C are 32 000 h at 65 °C', () => {
    expect(lifeHours(2000, 105, 65)).toBe(32_000);
    expect(lifeHours(2000, 85, 85)).toBe(2000);
    expect(lifeHours(1000, 85, 95)).toBe(500);
    // Not below room temperature: other things end it first.
    expect(lifeHours(1000, 85, -20)).toBe(lifeHours(1000, 85, 25));
  });
  it('fails as Weibull has it: 63.2 % by the end of its life, and surely some day', () => {
    expect(failsWithin(1000, 0, 1000)).toBeCloseTo(1 - Math.exp(-1), 9);
    expect(failsWithin(1000, 0, 0)).toBe(0);
    expect(failsWithin(1000, 5000, 1000)).toBeCloseTo(1, 9);
    // Older ones are likelier to fail in the same time.
    expect(failsWithin(1000, 800, 100)).toBeGreaterThan(failsWithin(1000, 100, 100));
  });
});

describe('the order of a survey', () => {
  const along = (index: BoardIndex, path: readonly Capacitor[]): number =>
    path
      .slice(1)
      .reduce(
        (sum, part, i) =>
          sum + handMinutes(index, acrossEsr(index, path[i]!), acrossEsr(index, part)),
        0,
      );
  const orders = <T>(of: readonly T[]): T[][] =>
    of.length <= 1
      ? [[...of]]
      : of.flatMap((one, i) => orders(of.filter((_, k) => k !== i)).map((rest) => [one, ...rest]));
  it('has every capacitor once, and is near the shortest of all', () => {
    const place = fc.record({
      x: fc.integer({ min: 0, max: 200 }),
      y: fc.integer({ min: 0, max: 150 }),
    });
    fc.assert(
      fc.property(fc.array(place, { minLength: 2, maxLength: 6 }), (places) => {
        const index = sheet(
          places.map(({ x, y }, i) => `C${i + 1} A${i} 0 10u pos=${x},${y}`).join('\n'),
        );
        const order = surveyOrder(index);
        expect(order.map(({ ref }) => ref).sort()).toEqual(places.map((_, i) => `C${i + 1}`));
        const best = Math.min(...orders(order).map((path) => along(index, path)));
        // The first is fixed in a corner, so a little more than the best is no fault.
        expect(along(index, order)).toBeLessThanOrEqual(1.6 * best + 1e-9);
      }),
      { numRuns: 60 },
    );
  });
  it('does one side before it turns the board, and ends with those whose place is not known', () => {
    const index = sheet(
      'C1 A 0 10u pos=10,10\nC2 A 0 10u pos=11,10 side=bottom\nC3 A 0 10u pos=90,10\nC10 A 0 1u\nC4 A 0 1u\nC5 A 0 1u pos=80,12 side=bottom',
    );
    expect(surveyOrder(index).map(({ ref }) => ref)).toEqual(['C1', 'C3', 'C5', 'C2', 'C4', 'C10']);
  });
});

describe('off the board', () => {
  const part = capacitor('100u 25V electrolytic');
  it('a capacitor is judged by what was measured of it', () => {
    expect(judgeOffBoard(part, { farad: 95e-6 })).toMatchObject({ verdict: 'good' });
    expect(judgeOffBoard(part, { farad: 75e-6 })).toMatchObject({ verdict: 'doubtful' });
    expect(judgeOffBoard(part, { farad: 60e-6 })).toMatchObject({ verdict: 'bad' });
    expect(judgeOffBoard(part, { farad: 140e-6 }).because[0]).toMatch(/leakage/);
    expect(judgeOffBoard(part, { dissipation: 0.1 })).toMatchObject({ verdict: 'good' });
    expect(judgeOffBoard(part, { dissipation: 0.4 })).toMatchObject({ verdict: 'bad' });
    // 0.01 of 100 µF times 25 V is 25 µA.
    expect(judgeOffBoard(part, { leakAmpere: 20e-6 })).toMatchObject({ verdict: 'good' });
    expect(judgeOffBoard(part, { leakAmpere: 60e-6 }).because[0]).toMatch(/ten minutes/);
    expect(judgeOffBoard(part, { leakAmpere: 1e-3 })).toMatchObject({ verdict: 'bad' });
  });
  it('is not good for what was not measured, nor without volts', () => {
    expect(judgeOffBoard(part, {})).toEqual({
      verdict: 'doubtful',
      because: ['nothing was measured'],
    });
    expect(judgeOffBoard(capacitor('100u'), { leakAmpere: 1e-6 })).toMatchObject({
      verdict: 'doubtful',
    });
    expect(judgeOffBoard(part, { farad: 95e-6, dissipation: 0.9 })).toMatchObject({
      verdict: 'bad',
    });
  });
});

describe('how far to go', () => {
  const index = sheet(
    'C1 A 0 47u 16V electrolytic\nC2 A 0 47u 16V electrolytic\nC3 B 0 220u 25V electrolytic\nC4 B 0 100n',
  );
  const parts = capacitors(index);
  const verdicts = [
    verdict('C1', 'bad', 0.97), verdict('C2', 'good', 0.02), verdict('C3', 'good', 0.02), verdict('C4', 'cannot-judge', 0.02),
  ]; // prettier-ignore
  const figures = {
    ...USUAL_FIGURES,
    reopenPrice: 100,
    partPrice: 1,
    minutesEach: 5,
    minutePrice: 0.6,
    padRisk: 0.02,
    padPrice: 25,
  };
  it('weighs a part as by hand: one, three for minutes, one for pads, against 97 in 100 of a return', () => {
    const [first] = worthOf(parts, verdicts, figures);
    expect(first!.ref).toBe('C1');
    expect(first!.price).toBeCloseTo(1 + 5 * 0.6 + 2 * 0.02 * 25, 9);
    expect(first!.atStake).toBeGreaterThan(97);
    expect(first!.isWorth).toBe(true);
    expect(first!.breakEven).toBeCloseTo(first!.price / first!.returns, 9);
  });
  it('offers the bad ones, their like, and all that wear out, each with hours, price and returns', () => {
    const plans = extentPlans(parts, verdicts, figures);
    const of = (extent: string) => plans.find((plan) => plan.extent === extent)!;
    expect(of('bad')).toMatchObject({ refs: ['C1'], hours: 5 / 60, price: 5, padsLifted: 0.04 });
    expect(of('kind').refs).toEqual(['C1', 'C2']);
    expect(of('all').refs).toEqual(['C1', 'C2', 'C3']);
    // The more is replaced, the less comes back, and what stays is what can.
    expect(of('bad').returns).toBeGreaterThan(of('kind').returns);
    expect(of('kind').returns).toBeGreaterThan(of('all').returns);
    expect(of('bad').priceInAll).toBeCloseTo(5 + 100 * of('bad').returns, 9);
  });
  it('moves its line with the price of reopening, one way only', () => {
    const worthy = (reopenPrice: number): number =>
      worthOf(parts, verdicts, { ...figures, reopenPrice }).filter(({ isWorth }) => isWorth).length;
    const counts = [0, 1, 10, 100, 1000, 1e5].map(worthy);
    expect(counts[0]).toBe(0);
    expect(counts.at(-1)).toBe(4);
    counts.slice(1).forEach((count, i) => expect(count).toBeGreaterThanOrEqual(counts[i]!));
  });
  it('offers nothing where nothing is bad and nothing wears out, and names no plan twice', () => {
    const dry = capacitors(sheet('C1 A 0 100n\nC2 A 0 10n'));
    const good = dry.map(({ ref }) => verdict(ref, 'good', 0.01));
    expect(extentPlans(dry, good, figures)).toEqual([]);
    const one = capacitors(sheet('C1 A 0 47u'));
    expect(extentPlans(one, [verdict('C1', 'bad', 1)], figures)).toHaveLength(1);
  });
});

describe('the zero of the leads', () => {
  const minute = 60_000;
  it('is asked for first, again by the clock, and where it decides', () => {
    expect(zeroAsked(undefined, 0, [])).toMatch(/zero the meter first/);
    const zero = { ohm: 0.04, at: 0 };
    expect(zeroAsked(zero, 5 * minute, [])).toBeUndefined();
    expect(zeroAsked(zero, 21 * minute, [])).toMatch(/20 minutes/);
    expect(zeroAsked(zero, 5 * minute, [1.2])).toBeUndefined();
    expect(zeroAsked(zero, 5 * minute, [0.15])).toMatch(/decides it/);
  });
});
