import { describe, expect, it } from 'vitest';
import {
  agedParts,
  bitsOpen,
  countsOf,
  coursesOf,
  inTen,
  likeParts,
  ownerMessage,
  quoteOf,
  salvageOf,
  usualMinutes,
  wasStored,
  type Course,
  type CourseName,
  type JobFigures,
  type QuoteInput,
  type Standing,
} from '@hanzai/core/decide';
import { board } from './boards';

/** Round figures, so that every expectation below is worked out by hand. */
const FIGURES: JobFigures = {
  minutePrice: 1,
  partPrice: 2,
  replaceMinutes: 10,
  testMinutes: 12,
  padRisk: 0.1,
  padPrice: 20,
  roundMinutes: 98,
  proveMinutes: 20,
  donorPrice: 50,
  donorGood: 0.8,
  donorMinutes: 30,
  harm: 0,
};
const standing = (more: Partial<Standing> = {}): Standing => ({
  suspects: [
    { ref: 'C3', probability: 0.5 },
    { ref: 'C4', probability: 0.25 },
    { ref: 'U1', probability: 0.25 },
  ],
  likeOf: () => ['C3', 'C4'],
  kindOf: () => ['C3', 'C4', 'C5', 'C6'],
  hasDonor: false,
  earlier: '',
  ...more,
});
const by = (courses: readonly Course[], name: CourseName): Course =>
  courses.find((one) => one.name === name)!;

describe('courses, expectation worked out by hand', () => {
  const courses = coursesOf(standing(), FIGURES);
  it('replace the one: 30 min + 2 + a tenth of a pad of 20 = 34; half of the time another round of 100', () =>
    expect(by(courses, 'one')).toMatchObject({
      refs: ['C3'],
      minutes: 30,
      price: 34,
      padsLifted: 0.1,
      cures: 0.5,
      inAll: 84,
    }));
  it('and its like: 40 + 4 + 4 = 48; three of four are met', () =>
    expect(by(courses, 'like')).toMatchObject({
      refs: ['C3', 'C4'],
      minutes: 40,
      price: 48,
      cures: 0.75,
      inAll: 73,
      teaches: 0.5,
    }));
  it('and all of its kind: 60 + 8 + 8 = 76, with nothing more met', () =>
    expect(by(courses, 'kind')).toMatchObject({ minutes: 60, price: 76, cures: 0.75, inAll: 101 }));
  it('off and tested: 12 min, and in half of the cases 20 min and a part more', () => {
    const test = by(courses, 'test');
    expect(test).toMatchObject({ minutes: 22, price: 25, cures: 0.5, inAll: 75 });
    // One bit of the bit and a half that is open.
    expect(bitsOpen(standing().suspects)).toBeCloseTo(1.5, 12);
    expect(test.teaches).toBeCloseTo(1 / 1.5, 12);
  });
  it('a reading of a bit and a half for 10 min makes the best of the others sure: 10 + 48', () => {
    const measured = by(
      coursesOf(standing({ next: { minutes: 10, bits: 1.5 } }), FIGURES),
      'measure',
    );
    expect(measured).toMatchObject({ price: 10, teaches: 1, inAll: 58 });
    const third = by(coursesOf(standing({ next: { minutes: 10, bits: 0.5 } }), FIGURES), 'measure');
    // A third of what is open: 0.75 + 0.25 / 3 is met.
    expect(third.inAll).toBeCloseTo(10 + 48 + (1 - 0.75 - 0.25 / 3) * 100, 9);
  });
  it('a donor: 50 + 30, and a fifth of a round', () => {
    expect(courses.some(({ name }) => name === 'donor')).toBe(false);
    expect(by(coursesOf(standing({ hasDonor: true }), FIGURES), 'donor').inAll).toBeCloseTo(
      80 + 20,
      9,
    );
  });
  it('the cheapest in all first, giving up always there and last', () => {
    const names = courses.map(({ name }) => name);
    expect(names).toEqual(['like', 'test', 'one', 'kind', 'give-up']);
    for (const earlier of ['', 'a cut track, a wire across it'])
      expect(coursesOf(standing({ earlier }), FIGURES).some(({ name }) => name === 'undo')).toBe(
        earlier !== '',
      );
  });
  it('the same parts under two names are one course', () => {
    const alone = coursesOf(standing({ likeOf: (ref) => [ref], kindOf: (ref) => [ref] }), FIGURES);
    expect(
      alone.map(({ name }) => name).filter((name) => ['one', 'like', 'kind'].includes(name)),
    ).toEqual(['one']);
  });
  it('nothing suspected: nothing is replaced', () => {
    const none = coursesOf(standing({ suspects: [], next: { minutes: 5, bits: 1 } }), FIGURES);
    expect(none.map(({ name }) => name)).toEqual(['measure', 'give-up']);
    expect(bitsOpen([])).toBe(0);
  });
  it('dearer minutes speak for measuring, dear pads against replacing much', () => {
    const rank = (figures: Partial<JobFigures>) =>
      coursesOf(standing({ next: { minutes: 10, bits: 1 } }), { ...FIGURES, ...figures }).map(
        ({ name }) => name,
      );
    expect(rank({ roundMinutes: 500 })[0]).toBe('measure');
    expect(rank({ padPrice: 2000 }).indexOf('kind')).toBeGreaterThan(
      rank({ padPrice: 2000 }).indexOf('one'),
    );
  });
});

describe('quote', () => {
  const input: QuoteInput = {
    spentMinutes: 30,
    minutePrice: 1,
    thisFault: 50,
    roundPrice: 100,
    closingMinutes: 20,
    ahead: [
      { name: 'a', title: 'A', faulty: 0.5 },
      { name: 'b', title: 'B', faulty: 0.5 },
    ],
  };
  it('two coins: 1/4, 1/2, 1/4', () => {
    expect(countsOf([0.5, 0.5])).toEqual([0.25, 0.5, 0.25]);
    expect(countsOf([])).toEqual([1]);
    // Against every outcome of five stages, one by one.
    const chances = [0.1, 0.3, 0.5, 0.05, 0.9];
    const slow = new Array<number>(6).fill(0);
    for (let mask = 0; mask < 32; mask += 1) {
      const bits = chances.map((_, i) => (mask >> i) & 1);
      slow[bits.reduce((a, b) => a + b, 0)]! += bits.reduce(
        (p, bit, i) => p * (bit ? chances[i]! : 1 - chances[i]!),
        1,
      );
    }
    countsOf(chances).forEach((share, k) => expect(share).toBeCloseTo(slow[k]!, 12));
  });
  it('100 with nothing ahead, one more round on average, nineteen of twenty below 300', () => {
    expect(quoteOf(input)).toMatchObject({
      spent: 30,
      likely: 200,
      nearlyAll: 300,
      closing: 20,
      within: undefined,
      stopAt: undefined,
    });
    expect(quoteOf({ ...input, ahead: [] })).toMatchObject({ likely: 100, nearlyAll: 100 });
  });
  it('three of four stay within 200; stop and ask at 180, so that it can still be closed up', () => {
    expect(quoteOf({ ...input, limit: 200 })).toMatchObject({ within: 0.75, stopAt: 180 });
    expect(quoteOf({ ...input, limit: 99 })).toMatchObject({ within: 0, stopAt: 79 });
    expect(quoteOf({ ...input, limit: 10 }).stopAt).toBe(0);
  });
  it('the middle of closed cases, of at least three', () => {
    expect(usualMinutes([10, 20])).toBeUndefined();
    expect(usualMinutes([90, 10, 20])).toBe(20);
    expect(usualMinutes([40, 10, 20, 30])).toBe(25);
  });
  it('knows years on a shelf', () => {
    expect(wasStored('nineteen years of storage')).toBe(true);
    expect(wasStored('dropped')).toBe(false);
  });
});

describe('the message to the owner', () => {
  const quote = quoteOf({
    spentMinutes: 30,
    minutePrice: 1,
    thisFault: 41,
    roundPrice: 100,
    closingMinutes: 20,
    limit: 120,
    ahead: [],
  });
  const text = ownerMessage({
    unit: 'CR-40 card-disc reader',
    owner: 'Orrin Vale, pattern collector',
    number: 112,
    complaint: 'dead',
    currency: 'crowns',
    quote,
    found: ['C3, 47u: 8 in 10'],
    onTheWay: ['the belt is glazed'],
    courses: [
      { words: 'replace C3', price: 41, works: 0.8 },
      { words: 'leave it as it is', price: 0, works: 0 },
    ],
  });
  it('names what was found, the choices with prices, and asks', () => {
    for (const words of [
      'Dear Orrin Vale',
      'number 112',
      '“dead”',
      'C3, 47u',
      'the belt is glazed',
      '1. replace C3: about 45 crowns',
      '8 in 10',
      '2. leave it as it is.',
      'comes to 30 crowns',
      'agreed on 120 crowns',
      'Nothing more is done until then',
    ])
      expect(text).toContain(words);
    expect(text).not.toMatch(/undefined|NaN|Infinity/);
  });
  it('given up: why, what it cost, and what becomes of it; no prices of going on', () => {
    const end = ownerMessage({
      unit: 'X',
      owner: '',
      number: 1,
      complaint: '',
      currency: '',
      quote,
      found: [],
      onTheWay: [],
      courses: [{ words: 'replace C3', price: 41, works: 0.8 }],
      givenUp: 'both heads are open',
    });
    expect(end).toContain('stop here: both heads are open');
    expect(end).toContain('want the unit back');
    expect(end).not.toContain('replace C3');
  });
  it('says so where nothing was found and no limit agreed, and promises nothing', () => {
    const bare = ownerMessage({
      unit: 'X',
      owner: '',
      number: 1,
      complaint: '',
      currency: '',
      quote: { ...quote, limit: undefined, stopAt: undefined },
      found: [],
      onTheWay: [],
      courses: [],
    });
    expect(bare).toContain('not found the fault');
    expect(bare).toContain('agreed on no limit');
    expect([inTen(1), inTen(0.96), inTen(0.83), inTen(0.01)]).toEqual([
      'nearly sure',
      'nearly sure',
      '8 in 10',
      'hardly',
    ]);
  });
});

describe('like parts, and what is worth keeping', () => {
  const index = board(
    'V1 P5 0 5\nC1 P5 0 47u\n*@ C1 kind=electrolytic volt=16\nC2 A 0 47u\n*@ C2 kind=electrolytic volt=16\nC3 B 0 100u\n*@ C3 kind=electrolytic volt=16\nC4 P5 0 100n\n*@ C4 kind=ceramic\nRN1.1 A P5 33\nRN1.2 B P5 33\nRN2.1 C P5 33\nR1 A B 1k\nXU1 A B C 0 0 n1 0 n2 0 0 n3 0 0 P5 74LS86',
  );
  it('by value and kind, and all that age alike', () => {
    expect(likeParts(index, 'C1')).toEqual(['C1', 'C2']);
    expect(agedParts(index, 'C1')).toEqual(['C1', 'C2', 'C3']);
    expect(likeParts(index, 'C4')).toEqual(['C4']);
    expect(agedParts(index, 'RN1')).toEqual(['RN1', 'RN2']);
    expect(agedParts(index, 'R1')).toEqual(['R1']);
    expect(likeParts(index, 'X9')).toEqual([]);
  });
  it('what another case waits for first, then what is hard to get, never what is suspected', () => {
    const needs = [
      { number: 102, words: 'C6, 100u 16V, ordered' },
      { number: 107, words: 'owner' },
    ];
    const kept = salvageOf(index, new Set(['C1']), needs);
    expect(kept.map(({ ref, for: cases, because }) => [ref, cases, because])).toEqual([
      ['C3', [102], 'waited for'],
      ['U1', [], 'hard to get'],
    ]);
    expect(salvageOf(index, new Set(['C3', 'U1']), needs)).toEqual([]);
    // A lower voltage does not do.
    expect(salvageOf(index, new Set(['U1']), [{ number: 102, words: 'C6, 100u 25V' }])).toEqual([]);
  });
});
