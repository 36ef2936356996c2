// Outside checks: least squares worked by hand; index periods of 300 and 360 turns; strobe rings of
// the mains (twice the mains frequency over the bars, a second); parallel resistors by Ohm's law.
import fc from 'fast-check';
import { arrayElements, judgeElement, worstOf } from '@hanzai/core/check';
import { board } from './boards';
import { describe, expect, it } from 'vitest';
import {
  fitWinding,
  GUIDED_CHECKS,
  judgeWinding,
  judgeWindings,
  slip,
  speedOfIndex,
  speedOfStrobe,
  withoutParallel,
  type Given,
} from '../src/check';

const check = (name: string, given: Given) =>
  GUIDED_CHECKS.find((one) => one.name === name)!.judge(given);

describe('a winding with a centre tap', () => {
  it('is fitted by least squares, as by hand', () => {
    // 12.3, 12.1 and 24.2: the halves are a fifth of an ohm more than the whole, a third of it each.
    const fit = fitWinding(12.3, 12.1, 24.2);
    expect(fit.first).toBeCloseTo(12.2333, 4);
    expect(fit.second).toBeCloseTo(12.0333, 4);
    expect(fit.misfit).toBeCloseTo(0.2, 9);
  });
  it('has the least squares of all halves', () => {
    const ohm = fc.double({ min: 0.1, max: 1000, noNaN: true });
    const squares = (r1: number, r2: number, a: number, b: number, c: number): number =>
      (r1 - a) ** 2 + (r2 - b) ** 2 + (r1 + r2 - c) ** 2;
    fc.assert(
      fc.property(ohm, ohm, ohm, ohm, ohm, (a, b, c, d, e) => {
        const { first, second } = fitWinding(a, b, c);
        const best = squares(first, second, a, b, c);
        expect(best).toBeLessThanOrEqual(
          squares(first + d / 100, second - e / 100, a, b, c) + 1e-9 * (1 + best),
        );
      }),
    );
  });
  it.each([
    [12, 12.1, 24, 'good'],
    [12, 9, 21, 'bad'],
    [12, 11.1, 23.1, 'doubtful'],
    [12, 12, 12, 'doubtful'],
    // Nothing, or what leads have, is no winding that was judged.
    [0, 0, 0, 'doubtful'],
    [0.3, 0.3, 0.6, 'doubtful'],
  ] as const)('%f, %f and %f are %s', (a, b, c, verdict) => {
    expect(judgeWinding(a, b, c).verdict).toBe(verdict);
  });
  it('names the lead that is open, and the reading that cannot be', () => {
    const OL = Infinity;
    expect(judgeWinding(OL, 12, OL).because[0]).toMatch(/first end is open/);
    expect(judgeWinding(12, OL, OL).because[0]).toMatch(/second end is open/);
    expect(judgeWinding(OL, OL, 24).because[0]).toMatch(/the tap is open/);
    expect(judgeWinding(OL, OL, OL)).toMatchObject({ verdict: 'bad' });
    expect(judgeWinding(12, 12, OL)).toMatchObject({ verdict: 'doubtful' });
    // 12 and 12 with 12 from end to end: the whole is the odd one.
    expect(judgeWinding(12, 12, 12).settle).toMatch(/whole/);
    expect(judgeWinding(12, 30, 24).settle).toMatch(/second half/);
  });
  it('is held against its brother', () => {
    expect(judgeWinding(12, 12, 24, 24.5).verdict).toBe('good');
    expect(judgeWinding(12, 12, 24, 40)).toMatchObject({ verdict: 'doubtful' });
    expect(judgeWinding(12, 12, 24, Infinity).verdict).toBe('good');
  });
});

describe('arithmetic', () => {
  it('of speed: 200 ms and 166.7 ms are 300 and 360 turns; 20 bars stand still at 300 with 50 Hz', () => {
    expect(speedOfIndex(0.2)).toBeCloseTo(300, 9);
    expect(speedOfIndex(0.16667)).toBeCloseTo(360, 1);
    expect(speedOfStrobe(20, 50)).toBe(300);
    expect(speedOfStrobe(24, 60)).toBe(300);
  });
  it('of slip: 1000 turns over one to three are 333 without, 320 with four in a hundred', () => {
    expect(slip(1000, 1000 / 3, 1 / 3)).toBeCloseTo(0, 9);
    expect(slip(1000, 320, 1 / 3)).toBeCloseTo(0.04, 9);
  });
  it('of what stands beside: 33 beside 330 reads 30, and back', () => {
    expect(withoutParallel(30, 330)).toBeCloseTo(33, 9);
    expect(withoutParallel(33, Infinity)).toBe(33);
    expect(withoutParallel(330, 330)).toBe(Infinity);
    expect(withoutParallel(400, 330)).toBeUndefined();
  });
});

describe('a guided check', () => {
  it('of an array convicts above nominal and open, and lets nominal in circuit go no further', () => {
    expect(check('array', { nominal: 33, read: 40 })).toMatchObject({ verdict: 'bad' });
    expect(check('array', { nominal: 33, read: Infinity })).toMatchObject({ verdict: 'bad' });
    // Open, with 330 beside it.
    expect(check('array', { nominal: 33, read: 329, beside: 330 })).toMatchObject({
      verdict: 'bad',
    });
    expect(check('array', { nominal: 33, read: 33 })).toMatchObject({ verdict: 'doubtful' });
    expect(check('array', { nominal: 33, read: 33, beside: Infinity })).toMatchObject({
      verdict: 'good',
    });
    expect(check('array', { nominal: 33, read: 30, beside: 330 })).toMatchObject({
      verdict: 'good',
    });
    expect(check('array', { nominal: 33, read: 20, brothers: 20 })!.because[0]).toMatch(
      /beside all of them/,
    );
  });
  it('of an inductor does not acquit turns by copper, nor joints by a beep', () => {
    expect(check('inductor', { ohm: 0.4, copper: 0.4 })).toMatchObject({ verdict: 'doubtful' });
    expect(check('inductor', { ohm: 0.4, copper: 0.4, rings: 12 })).toMatchObject({
      verdict: 'good',
    });
    expect(
      check('inductor', { ohm: 0.4, copper: 0.4, henry: 20e-6, nominal: 47e-6 }),
    ).toMatchObject({ verdict: 'bad' });
    expect(
      check('inductor', { ohm: 0.4, copper: 0.4, rings: 12, joints: 'a dull ring' }),
    ).toMatchObject({ verdict: 'bad' });
    expect(check('inductor', { ohm: Infinity })).toMatchObject({ verdict: 'bad' });
  });
  it('of a light barrier looks at emitter, output and detector, the worst first', () => {
    const good = { drop: 1.2, free: 0.2, blocked: 4.8, supply: 5 };
    expect(check('light-barrier', good)).toMatchObject({ verdict: 'good' });
    expect(check('light-barrier', { ...good, drop: 4.9 })!.because[0]).toMatch(
      /open, or the wrong way/,
    );
    expect(check('light-barrier', { ...good, drop: 0.02 })!.because[0]).toMatch(/shorted/);
    expect(check('light-barrier', { ...good, blocked: 0.3 })).toMatchObject({ verdict: 'bad' });
    // Which way round its output is decides nothing.
    expect(check('light-barrier', { ...good, free: 4.8, blocked: 0.2 })).toMatchObject({
      verdict: 'good',
    });
    expect(check('light-barrier', { ...good, dark: 1e6, light: 9e5 })!.settle).toMatch(/polarity/);
    expect(check('light-barrier', { ...good, supply: 0 })).toBeUndefined();
  });
  it('of a motor turns it by hand first, then weighs starts, currents and windings', () => {
    // A free shaft alone acquits nothing.
    expect(check('motor', { hand: 'free both ways' })).toMatchObject({ verdict: 'doubtful' });
    expect(check('motor', { hand: 'free both ways', w1: 30, w2: 30 })).toMatchObject({
      verdict: 'good',
    });
    expect(check('motor', { hand: 'one way only' })).toMatchObject({ verdict: 'bad' });
    expect(
      check('motor', {
        hand: 'free both ways',
        rated: 12,
        starts: 3,
        run: 0.1,
        stall: 0.6,
        w1: 20,
        w2: 20,
      }),
    ).toMatchObject({ verdict: 'good' });
    expect(check('motor', { hand: 'free both ways', rated: 12, starts: 10 })).toMatchObject({
      verdict: 'bad',
    });
    expect(check('motor', { hand: 'free both ways', run: 0.5, stall: 0.6 })).toMatchObject({
      verdict: 'bad',
    });
    expect(check('motor', { rated: 12 })).toBeUndefined();
    expect(judgeWindings([30, 30.5, 29.8]).verdict).toBe('good');
    expect(judgeWindings([30, 30.5, 21]).verdict).toBe('bad');
    expect(judgeWindings([30, Infinity, 30]).because[0]).toMatch(/winding two is open/);
    expect(judgeWindings([30]).verdict).toBe('doubtful');
  });
  it('of a contact and of speed', () => {
    expect(check('switch', { closed: 0.1, open: Infinity })).toMatchObject({ verdict: 'good' });
    expect(check('switch', { closed: 2, open: Infinity })!.settle).toMatch(/clean/);
    expect(check('switch', { closed: 0.1, open: Infinity, bounce: 0.05 })).toMatchObject({
      verdict: 'bad',
    });
    expect(check('speed', { wanted: 300, index: 0.2 })).toMatchObject({ verdict: 'good' });
    expect(check('speed', { wanted: 300, index: 0.22 })).toMatchObject({ verdict: 'bad' });
    expect(
      check('speed', { wanted: 300, index: 0.2, motor: 1000, ratio: 0.32 })!.because.join(),
    ).toMatch(/belt loses 6\.[23] %/);
    expect(check('speed', { wanted: 300, bars: 20 })).toBeUndefined();
  });
  it('of steering diodes: one junction forward, OL back, on both, and what each other pair means', () => {
    const OL = Infinity;
    const four = (forward1: number, back1: number, forward2 = 0.6, back2: number = OL) =>
      check('steering-diodes', { forward1, back1, forward2, back2 });
    expect(four(0.6, OL)).toMatchObject({ verdict: 'good' });
    expect(four(OL, OL)!.because[0]).toMatch(/first: OL forward, OL back: coil, diode or a joint/);
    expect(four(0.01, 0.01)!.because[0]).toMatch(/first.*shorted/);
    expect(four(OL, 0.6)).toMatchObject({
      verdict: 'doubtful',
      settle: expect.stringMatching(/exchange the leads/) as string,
    });
    expect(four(0.6, 0.7)).toMatchObject({ verdict: 'bad' });
    expect(four(0.6, 1.9)).toMatchObject({ verdict: 'doubtful' });
    expect(four(1.6, OL)).toMatchObject({ verdict: 'bad' });
    expect(four(0.6, OL, 0.72)).toMatchObject({ verdict: 'doubtful' });
    expect(
      check('steering-diodes', { forward1: 0.6, back1: OL, forward2: 0.6, back2: OL, ends: OL })!
        .because[0],
    ).toMatch(/coil itself is open/);
    expect(check('steering-diodes', { forward1: 0.6, back1: OL })).toBeUndefined();
  });
  it('of a trimmer adds both ends up: more than the whole is the wiper’s own contact, twice', () => {
    const good = { nominal: 1000, whole: 1000, a: 400, b: 610, turned: 'smooth' };
    // 400 + 610 - 1000 = 10, half of it in each: 5 Ω of 1 k.
    expect(check('trimmer', good)).toMatchObject({ verdict: 'good' });
    expect(check('trimmer', good)!.because.join()).toMatch(/contact has 5 Ω of 1 kΩ/);
    expect(check('trimmer', { ...good, b: 900 })).toMatchObject({ verdict: 'bad' });
    expect(check('trimmer', { ...good, b: 700 })!.settle).toMatch(/cleaner/);
    expect(check('trimmer', { ...good, b: 500 })!.settle).toMatch(/lift its wiper/);
    expect(check('trimmer', { ...good, whole: Infinity })!.because[0]).toMatch(/track is open/);
    expect(check('trimmer', { ...good, a: Infinity })!.because[0]).toMatch(/no contact/);
    expect(check('trimmer', { ...good, nominal: 500 })).toMatchObject({ verdict: 'bad' });
    // What stands beside it can only lower it: below nominal convicts nobody.
    expect(check('trimmer', { ...good, nominal: 5000 })).toMatchObject({ verdict: 'doubtful' });
    expect(check('trimmer', { ...good, turned: 'constructor' })).toMatchObject({
      verdict: 'doubtful',
    });
    expect(check('trimmer', { ...good, turned: 'jumps' })).toMatchObject({ verdict: 'doubtful' });
    expect(check('trimmer', { ...good, turned: 'goes open' })).toMatchObject({ verdict: 'bad' });
    // Not turned acquits nobody.
    expect(check('trimmer', { ...good, turned: undefined })).toMatchObject({ verdict: 'doubtful' });
    expect(check('trimmer', { whole: 1000, a: 400 })).toBeUndefined();
  });
  it('says nothing before it was given what it needs, and lives through anything', () => {
    for (const one of GUIDED_CHECKS) {
      expect(one.judge({}), one.name).toBeUndefined();
      const number = fc.constantFrom(0, 1e-12, 1, 50, 1e9, Infinity, NaN);
      fc.assert(
        fc.property(
          fc.dictionary(fc.constantFrom(...one.fields.map(({ key }) => key)), number),
          (given) => {
            const words = Object.fromEntries(
              one.fields.flatMap(({ key, choices }) => (choices ? [[key, choices[0]!]] : [])),
            );
            const result = one.judge({ ...given, ...words });
            if (!result) return;
            expect(result.because.length).toBeGreaterThan(0);
            expect(result.because.join()).not.toMatch(/NaN|undefined/);
            // What is in doubt says what would settle it.
            if (result.verdict === 'doubtful') expect(result.settle, one.name).toBeTruthy();
          },
        ),
        { numRuns: 300 },
      );
    }
  });
});

// Ohm's law, worked out by hand: 100 and 100 in series beside 33 are 200.
describe('an array of the sheet, element by element', () => {
  const index = board(
    'V1 P 0 5\nRN1.1 A B 33\nRN1.2 C 0 33\nRN1.3 D E 33\nR1 A M 100\nR2 M B 100\nR3 D F 1k\nR4 E F 1k\n',
  );
  const [one, two, three] = arrayElements(index, 'rn1');
  it('knows what stands beside each', () => {
    expect(one!.besideOhm).toBeCloseTo(200, 0);
    expect(two!.besideOhm).toBe(Infinity);
    expect(three!.besideOhm).toBeCloseTo(2000, 0);
    expect(arrayElements(index, 'R1')).toEqual([]);
    expect(arrayElements(index, 'RN9')).toEqual([]);
  });
  it('judges a reading with it: 28.3 is 33 beside 200, 200 is an open element', () => {
    const verdict = (element: typeof one, read: number): string | undefined =>
      judgeElement(element!, read, [28, 33]).result?.verdict;
    expect(verdict(one, (33 * 200) / 233)).toBe('good');
    expect(verdict(one, 199)).toBe('bad');
    expect(verdict(two, 33)).toBe('good');
    expect(verdict(two, Infinity)).toBe('bad');
    expect(verdict(two, 20)).toBe('doubtful');
  });
  it('of several the worst counts', () => {
    const judged = [33, 20, Infinity].map((read) => judgeElement(two!, read, []));
    expect(worstOf(judged)?.result?.verdict).toBe('bad');
    expect(worstOf(judged.slice(0, 2))?.result?.verdict).toBe('doubtful');
    expect(worstOf([])).toBeUndefined();
  });
});
