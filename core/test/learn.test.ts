// Learning from closed cases: shops simulated from rates that are known, and examples by hand.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { UnitModel } from '../src/block';
import { indexBoard } from '../src/board';
import {
  ageFactor,
  exposureOf,
  kindOfPart,
  learnedFactor,
  learnModes,
  learnPatterns,
  learnRates,
  learnShares,
  Lesson,
  shareOut,
  teaches,
  usualEnds,
  usualParts,
  type Exposures,
} from '../src/learn';
import { demoBoard } from '@hanzai/data/demo';
import archetypes from '../../data/library/archetypes.json' with { type: 'json' };
import { RATES } from './boards';

/** Numbers from 0 to 1, the same for the same seed. Source: mulberry32, public domain. */
function dice(seed: number): () => number {
  let a = seed;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}

const lesson = (
  more: Partial<Lesson> & { refs?: readonly [of: string, ref?: string][] } = {},
): Lesson => {
  const { refs = [], ...rest } = more;
  return {
    unit: 'reader',
    board: 'A',
    patterns: [],
    grade: refs.length > 1 ? 'shared' : 'whole',
    changes: refs.map(([of, ref = 'X1']) => ({ ref, of, role: '', mode: '', blocks: [] })),
    ...rest,
  };
};

const EXPOSURES: Exposures = new Map([
  ['A', [
    { of: 'capacitor electrolytic', role: '', parts: 20, expected: 0.4 },
    { of: 'chip', role: '', parts: 10, expected: 0.2 },
    { of: 'fuse', role: '', parts: 2, expected: 0.1 },
    { of: 'resistor', role: '', parts: 60, expected: 0.1 },
    { of: 'switch', role: '', parts: 4, expected: 0.1 },
  ]],
  ['B', [
    { of: 'capacitor electrolytic', role: '', parts: 5, expected: 0.15 },
    { of: 'chip', role: '', parts: 24, expected: 0.5 },
    { of: 'resistor', role: '', parts: 40, expected: 0.15 },
    { of: 'switch', role: '', parts: 8, expected: 0.1 },
  ]],
]); // prettier-ignore
const TRUTH: Readonly<Record<string, number>> = {
  'capacitor electrolytic': 2.4,
  chip: 0.5,
  fuse: 1,
  resistor: 0.3,
  switch: 1.6,
};

/** What the next case of a board comes in for, by these factors. */
const chances = (board: string, factor: (of: string) => number): Map<string, number> => {
  const rows = EXPOSURES.get(board)!;
  const sum = rows.reduce((all, { of, expected }) => all + expected * factor(of), 0);
  return new Map(rows.map(({ of, expected }) => [of, (expected * factor(of)) / sum]));
};

/**
 * Closed cases of a shop. confounded: share of them with two more changes made at the same time.
 */
function shop(cases: number, confounded: number, seed: number): Lesson[] {
  const random = dice(seed);
  const draw = (of: Map<string, number>): string => {
    let left = random();
    for (const [name, chance] of of) if ((left -= chance) <= 0) return name;
    return [...of.keys()].at(-1)!;
  };
  return Array.from({ length: cases }, () => {
    const board = random() < 0.6 ? 'A' : 'B';
    const guilty = draw(chances(board, (of) => TRUTH[of]!));
    // Others are changed by how many there are, not by whether they are bad.
    const rows = EXPOSURES.get(board)!;
    const parts = rows.reduce((sum, one) => sum + one.parts, 0);
    const other = (): string => draw(new Map(rows.map((one) => [one.of, one.parts / parts])));
    const refs = random() < confounded ? [guilty, other(), other()] : [guilty];
    return lesson({ board, refs: refs.map((of): [string] => [of]) });
  });
}

describe('a shop of a thousand cases', () => {
  it.each([
    ['one change each', 0],
    ['half of the cures confounded', 0.5],
  ])('gives its rates back within their intervals: %s', (_, confounded) => {
    let [inside, all] = [0, 0];
    for (let seed = 1; seed <= 60; seed += 1) {
      const { ofClass } = learnRates(shop(1000, confounded, seed), EXPOSURES);
      for (const board of EXPOSURES.keys()) {
        const truth = chances(board, (of) => TRUTH[of]!);
        const learned = chances(board, (of) => ofClass.get(of)!.factor);
        for (const [of, chance] of truth) {
          const { factor, interval } = ofClass.get(of)!;
          const scale = learned.get(of)! / factor;
          all += 1;
          if (scale * interval.low <= chance && chance <= scale * interval.high) inside += 1;
          expect(Math.abs(learned.get(of)! - chance), `${of}, seed ${seed}`).toBeLessThan(0.08);
        }
      }
    }
    // 95 % by the interval; the shares of one board sum to 1, so that it is more, not less.
    expect(inside / all).toBeGreaterThan(0.92);
  });

  it('is led astray by equal shares alone, which is why they are only where it begins', () => {
    const lessons = shop(1000, 0.5, 3);
    const equal = lessons.reduce(
      (sum, { changes }) =>
        sum + changes.filter(({ of }) => of === 'resistor').length / changes.length,
      0,
    );
    const shares = shareOut(lessons, EXPOSURES);
    const learned = lessons.reduce(
      (sum, one) =>
        sum +
        one.changes.reduce(
          (own, { of }, i) => own + (of === 'resistor' ? shares.get(one)![i]! : 0),
          0,
        ),
      0,
    );
    const truth =
      600 * chances('A', (of) => TRUTH[of]!).get('resistor')! +
      400 * chances('B', (of) => TRUTH[of]!).get('resistor')!;
    expect(equal).toBeGreaterThan(2 * truth);
    expect(Math.abs(learned - truth)).toBeLessThan(0.5 * truth);
  });
});

describe('what a few cases teach', () => {
  it('is the Gamma and Poisson by hand: two failures where one half was expected', () => {
    // One class alone: its rate cannot move, a case always comes in for it.
    const alone: Exposures = new Map([['A', [{ of: 'fuse', role: '', parts: 1, expected: 1 }]]]);
    const { ofClass } = learnRates(
      [lesson({ refs: [['fuse']] }), lesson({ refs: [['fuse']] })],
      alone,
    );
    expect(ofClass.get('fuse')).toMatchObject({ failures: 2, cases: 2 });
    expect(ofClass.get('fuse')!.factor).toBeCloseTo(1, 9);
    // Prior Gamma(4, 4), 2 of what is seen as often: (4 + 2) / (4 + 2).
    const { ofClass: two } = learnRates(
      Array.from({ length: 8 }, () => lesson({ refs: [['switch']] })),
      EXPOSURES,
    );
    expect(two.get('switch')!.factor).toBeGreaterThan(1.5);
    expect(two.get('resistor')!.factor).toBeLessThan(1);
    expect(two.get('resistor')!.interval.high).toBeGreaterThan(1);
  });

  it('is nothing from cases that were never proven, or in which nothing was changed', () => {
    const none = [lesson({ refs: [['fuse']], grade: 'unproven' }), lesson()];
    expect(none.some(teaches)).toBe(false);
    expect(learnRates(none, EXPOSURES).ofClass.size).toBe(0);
    expect(
      learnedFactor(learnRates(none, EXPOSURES), { of: 'fuse', role: '', unit: '', board: '' }),
    ).toBe(1);
  });

  it('goes from class to role to board, each from where the wider one ended', () => {
    const rows = (board: string): Exposures =>
      new Map([
        [
          board,
          [
            { of: 'switch', role: 'lid', parts: 1, expected: 0.1 },
            { of: 'switch', role: 'address', parts: 8, expected: 0.8 },
            { of: 'fuse', role: '', parts: 1, expected: 0.1 },
          ],
        ],
      ]);
    const lid = lesson({ refs: [['switch', 'S1']] });
    const lessons = Array.from({ length: 6 }, () => ({
      ...lid,
      changes: lid.changes.map((change) => ({ ...change, role: 'lid' })),
    }));
    const learned = learnRates(lessons, rows('A'));
    const of = (role: string, board = 'A'): number =>
      learnedFactor(learned, { of: 'switch', role, unit: 'reader', board });
    expect(of('lid')).toBeGreaterThan(2);
    expect(of('address')).toBeLessThan(of('lid') / 3);
    // Another board knows the class and the role, not the board.
    expect(of('lid', 'Z')).toBeLessThan(of('lid'));
    expect(of('lid', 'Z')).toBeGreaterThan(1);
  });

  it('takes age as dose where it is known, and only of what ages', () => {
    expect(ageFactor('capacitor electrolytic', 50)).toBe(2);
    expect(ageFactor('capacitor electrolytic', undefined)).toBe(1);
    expect(ageFactor('capacitor electrolytic', 1)).toBeCloseTo(1 / 3, 9);
    expect(ageFactor('chip', 50)).toBe(1);
    const young = Array.from({ length: 10 }, () =>
      lesson({ refs: [['capacitor electrolytic']], years: 10 }),
    );
    const old = young.map((one) => ({ ...one, years: 50 }));
    const factor = (list: Lesson[]): number =>
      learnRates(list, EXPOSURES).ofClass.get('capacitor electrolytic')!.factor;
    // The same failures in young units say more of the part.
    expect(factor(young)).toBeGreaterThan(factor(old));
  });

  it('lives through anything, and every share is one', () => {
    const of = fc.constantFrom(...EXPOSURES.get('A')!.map((row) => row.of), 'not on the sheet');
    const one = fc.record({
      board: fc.constantFrom('A', 'B', 'unknown'),
      refs: fc.array(fc.tuple(of, fc.constantFrom('C1', 'U2')), { maxLength: 4 }),
      grade: fc.constantFrom('whole', 'shared', 'unproven'),
    });
    fc.assert(
      fc.property(fc.array(one, { maxLength: 12 }), (list) => {
        const lessons = list.map(({ refs, ...rest }) =>
          lesson({ refs: refs.map(([a, b]): [string, string] => [a, b]), ...rest } as Parameters<
            typeof lesson
          >[0]),
        );
        for (const lesson of lessons) expect(Lesson.safeParse(lesson).success).toBe(true);
        const { ofClass, ofBoard } = learnRates(lessons, EXPOSURES);
        for (const { factor, interval } of [...ofClass.values(), ...ofBoard.values()]) {
          expect(interval.low).toBeLessThanOrEqual(factor);
          expect(interval.high).toBeGreaterThanOrEqual(factor);
          expect(Number.isFinite(factor) && factor > 0).toBe(true);
        }
        for (const shares of shareOut(lessons, EXPOSURES).values())
          expect(shares.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 9);
      }),
      { numRuns: 200 },
    );
  });
});

describe('shares', () => {
  // Source: A. Gelman et al., Bayesian Data Analysis, section 3.4: counts 727, 583 and 137 with a
  // uniform prior, posterior Dirichlet(728, 584, 138), so that the first less the second is 0.10.
  it('are the Dirichlet of the published poll', () => {
    const seen = new Map([
      ['bush', 727],
      ['dukakis', 583],
      ['other', 137],
    ]);
    const shares = new Map(
      learnShares(new Map([...seen.keys()].map((name) => [name, 1])), seen, 3).map((one) => [
        one.name,
        one,
      ]),
    );
    expect(shares.get('bush')!.share).toBeCloseTo(728 / 1450, 10);
    expect(shares.get('bush')!.share - shares.get('dukakis')!.share).toBeCloseTo(0.099, 3);
    expect(shares.get('other')!.interval.low).toBeLessThan(138 / 1450);
    expect([...shares.values()].reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 12);
  });

  it('begin where the pattern begins, and go where the cases go', () => {
    const model = UnitModel.parse(archetypes.find(({ name }) => name === 'optical-disc-reader'));
    const [first] = model.patterns;
    const [, second] = first!.suspects;
    const untold = learnPatterns(model, [], new Map())[0]!;
    expect(untold.suspects[0]).toMatchObject({ name: first!.suspects[0], seen: 0 });
    expect(untold.cases).toBe(0);
    const lessons = Array.from({ length: 20 }, () => {
      const one = lesson({ refs: [['fuse']], unit: model.name, patterns: [first!.name] });
      return { ...one, changes: one.changes.map((change) => ({ ...change, blocks: [second!] })) };
    });
    const told = learnPatterns(model, lessons, shareOut(lessons, EXPOSURES))[0]!;
    expect(told).toMatchObject({ cases: 20 });
    expect(told.suspects[0]).toMatchObject({ name: second, seen: 20 });
    expect(told.suspects[0]!.share).toBeGreaterThan(0.8);
    expect(told.suspects[0]!.before).toBeLessThan(0.5);
  });
});

describe('one closed case', () => {
  // Nothing learned, nothing known of others: what one case may move at most.
  it.each(Object.keys(TRUTH))('moves the odds of a part of its class little: %s', (of) => {
    const one = learnRates([lesson({ refs: [[of]] })], EXPOSURES);
    const factor = learnedFactor(one, { of, role: '', unit: 'reader', board: 'A' });
    expect(factor).toBeGreaterThan(1);
    // By hand, where next to none was expected: 5/4 for the class, 17/16 for each narrower level.
    expect(factor).toBeLessThan((5 / 4) * (17 / 16) ** 3);
  });
});

describe('how parts of a class fail', () => {
  const bad = (of: string, mode: string): Lesson => {
    const one = lesson({ refs: [[of]] });
    return { ...one, changes: one.changes.map((change) => ({ ...change, mode })) };
  };
  it('is the rate table’s shares, worth four cases, and the counts: by hand', () => {
    const lessons = [bad('fuse', 'open'), bad('fuse', 'dry'), bad('fuse', 'dry'), bad('fuse', '')];
    const table = { ...RATES, rates: { fuse: { open: 3, dry: 1 } } };
    const [fuse, ...others] = learnModes(table, lessons, shareOut(lessons, EXPOSURES));
    expect(others).toEqual([]);
    const shares = new Map(fuse!.modes.map(({ name, share }) => [name, share]));
    // (4 x 3/4 + 1) / 7 and (4 x 1/4 + 2) / 7: Gelman et al., section 3.4.
    expect(shares.get('open')).toBeCloseTo(4 / 7, 12);
    expect(shares.get('dry')).toBeCloseTo(3 / 7, 12);
  });
  it('has a mode that the table does not know, as far as it was seen', () => {
    const lessons = [bad('fuse', 'leaky')];
    const [fuse] = learnModes(RATES, lessons, shareOut(lessons, EXPOSURES));
    expect(fuse!.modes.find(({ name }) => name === 'leaky')).toMatchObject({ before: 0, seen: 1 });
    expect(fuse!.modes.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 12);
  });
  it('learns nothing of what was never proven', () => {
    const lessons: Lesson[] = [{ ...bad('fuse', 'open'), grade: 'unproven' }];
    expect(learnModes(RATES, lessons, shareOut(lessons, EXPOSURES))).toEqual([]);
  });
});

it('the usual parts of a pattern are those of its own cases, each cure as its share', () => {
  const of = (ref: string, more: Partial<Lesson> = {}): Lesson =>
    lesson({ refs: [['fuse', ref]], patterns: ['dead'], ...more });
  const both = lesson({
    refs: [
      ['fuse', 'F1'],
      ['fuse', 'F2'],
    ],
    patterns: ['dead'],
  });
  const lessons = [
    of('F2'),
    of('F2'),
    both,
    of('F9', { patterns: ['hums'] }),
    of('F9', { unit: 'tape' }),
    of('F9', { grade: 'unproven' }),
  ];
  const parts = usualParts('reader', 'dead', lessons, shareOut(lessons, EXPOSURES));
  expect(parts.map(({ ref }) => ref)).toEqual(['F2', 'F1']);
  expect(parts[0]!.seen).toBeCloseTo(2.5, 9);
  expect(parts[1]!.seen).toBeCloseTo(0.5, 9);
});

describe('a board that always dies one way', () => {
  it('says so with its interval: six of six', () => {
    const six = Array.from({ length: 6 }, () => {
      const one = lesson({ refs: [['capacitor electrolytic', 'C3']] });
      return { ...one, changes: one.changes.map((change) => ({ ...change, mode: 'high-esr' })) };
    });
    const [end] = usualEnds('A', six, shareOut(six, EXPOSURES));
    expect(end).toMatchObject({ ref: 'C3', mode: 'high-esr', seen: 6, of: 6 });
    // Clopper-Pearson by its table: 6 of 6 leaves 54 % and more.
    expect(end!.interval.low).toBeCloseTo(0.5407, 4);
    expect(usualEnds('Z', six, shareOut(six, EXPOSURES))).toEqual([]);
  });
});

describe('what a board exposes', () => {
  it('sums to the chance that the fault is on the sheet, and names every part’s class', () => {
    const index = indexBoard(demoBoard('cr40'));
    const rows = exposureOf(index, RATES);
    const sum = rows.reduce((all, { expected }) => all + expected, 0);
    expect(sum).toBeGreaterThan(0.3);
    expect(sum).toBeLessThanOrEqual(1);
    expect(rows.some(({ of }) => of === 'capacitor electrolytic')).toBe(true);
    for (const ref of index.replaceable.keys()) {
      const { of, role } = kindOfPart(index, RATES, ref);
      if (rows.some((row) => row.of === of))
        expect(rows.some((row) => row.of === of && row.role === role) || !/fail/.test(of)).toBe(
          true,
        );
    }
    expect(kindOfPart(index, RATES, 'Z99')).toEqual({ of: 'not on the sheet', role: '' });
  });
});
