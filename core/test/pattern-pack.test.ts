// Packs of patterns: nothing counted twice, nothing private, nothing averaged away.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  besideOthers,
  BEFORE_WORTH,
  learnRates,
  makePack,
  packHash,
  pooledFactor,
  readPack,
  similarity,
  standingPacks,
  type Exposures,
  type Lesson,
  type PatternPack,
} from '../src/learn';

const A = '01890000-0000-7000-8000-00000000000a';
const B = '01890000-0000-7000-8000-00000000000b';
const WHEN = '2026-11-28T10:00:00.000Z';
const EXPOSURES: Exposures = new Map([
  [
    'board',
    [
      { of: 'fuse', role: '', parts: 1, expected: 0.2 },
      { of: 'chip', role: '', parts: 9, expected: 0.8 },
    ],
  ],
]);
const lesson = (of: string, more: Partial<Lesson> = {}): Lesson => ({
  unit: 'reader',
  board: 'board',
  patterns: ['no-movement'],
  grade: 'whole',
  changes: [{ ref: of === 'fuse' ? 'F1' : 'U1', of, role: '', mode: '', blocks: ['supply'] }],
  ...more,
});
const many = (fuses: number, chips: number): Lesson[] => [
  ...Array.from({ length: fuses }, () => lesson('fuse')),
  ...Array.from({ length: chips }, () => lesson('chip')),
];
const packOf = (lessons: readonly Lesson[], workshop = A, madeAt = WHEN): Promise<PatternPack> =>
  makePack(workshop, madeAt, lessons, EXPOSURES);

describe('a pack', () => {
  it('has counts and nothing else, and comes back as it was made', async () => {
    const pack = await packOf(many(3, 5));
    expect(pack).toMatchObject({ cases: 8, workshop: A });
    expect(pack.ends).toContainEqual({ board: 'board', ref: 'F1', seen: 3, of: 8 });
    expect(pack.patterns).toMatchObject([
      {
        unit: 'reader',
        pattern: 'no-movement',
        cases: 8,
        suspects: [{ block: 'supply', seen: 8 }],
      },
    ]);
    expect(Object.keys(pack).sort()).toEqual([
      'cases',
      'ends',
      'format',
      'hash',
      'madeAt',
      'patterns',
      'rates',
      'version',
      'workshop',
    ]);
    // Whatever the order of its names.
    const turned = JSON.stringify(Object.fromEntries(Object.entries(pack).reverse()));
    expect(await readPack(turned)).toEqual({ ok: true, pack });
  });

  it('that was changed, or is none, is refused in words', async () => {
    const pack = await packOf(many(3, 5));
    const why = async (text: string): Promise<string> => {
      const read = await readPack(text);
      return read.ok ? 'taken' : read.why;
    };
    expect(await why('{')).toBe('it is no JSON');
    expect(await why('[]')).not.toBe('taken');
    expect(await why(JSON.stringify({ ...pack, cases: 9 }))).toMatch(/changed since it was made/);
    expect(await why(JSON.stringify({ ...pack, version: 2 }))).toMatch(/version/);
    const absurd = { ...pack, ends: [{ board: 'board', ref: 'F1', seen: 9, of: 8 }] };
    expect(await why(JSON.stringify({ ...absurd, hash: await packHash(absurd) }))).toMatch(
      /more often than it died/,
    );
    const negative = { ...pack, rates: [{ of: 'fuse', failures: -1, expected: 1 }] };
    expect(await why(JSON.stringify({ ...negative, hash: await packHash(negative) }))).toMatch(
      /rates/,
    );
  });

  it('any change of any figure changes its hash', async () => {
    const pack = await packOf(many(2, 2));
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 1, max: 1000 }),
        fc.constantFrom('failures', 'expected'),
        async (more, key) => {
          const rates = pack.rates.map((row, i) =>
            i === 0 ? { ...row, [key]: row[key as 'failures'] + more } : row,
          );
          expect(await packHash({ ...pack, rates })).not.toBe(pack.hash);
        },
      ),
      { numRuns: 30 },
    );
  });
});

describe('packs of several', () => {
  it('are the newest of each workshop, and never one’s own', async () => {
    const old = await packOf(many(1, 1), B, '2026-01-01T00:00:00.000Z');
    const newer = await packOf(many(5, 5), B);
    const own = await packOf(many(9, 9), A);
    expect(standingPacks([newer, own, old], A)).toEqual([newer]);
    expect(standingPacks([old, newer, old, newer], A)).toEqual([newer]);
  });

  it('are alike as far as both see the same units', async () => {
    const pack = await packOf(many(2, 2));
    expect(similarity(many(1, 3), pack)).toBeCloseTo(1, 9);
    expect(similarity([lesson('fuse', { unit: 'carriage' })], pack)).toBe(0);
    expect(similarity([lesson('fuse'), lesson('fuse', { unit: 'carriage' })], pack)).toBeCloseTo(
      0.5,
      9,
    );
    expect(similarity([], pack)).toBe(0);
  });
});

describe('what others say of a class', () => {
  it('is pooled by its weight, by hand', () => {
    // Own 4 of 4 expected; theirs 16 of 4, half believed: (4 + 4 + 8) / (4 + 4 + 2).
    const own = { failures: 4, expected: 4, factor: 1, interval: { low: 0.3, high: 4 }, cases: 4 };
    const theirs = {
      workshop: B,
      rates: [{ of: 'fuse', failures: 16, expected: 4 }],
    } as unknown as PatternPack;
    expect(pooledFactor('fuse', own, [theirs], () => 0.5, 4)).toBeCloseTo(1.6, 9);
    expect(pooledFactor('fuse', own, [theirs], () => 0, 4)).toBeCloseTo(1, 9);
    // No more than their own counts, however much they are trusted.
    expect(pooledFactor('fuse', own, [theirs], () => 7, 4)).toBe(
      pooledFactor('fuse', own, [theirs], () => 1, 4),
    );
    expect(pooledFactor('chip', undefined, [theirs], () => 1, 4)).toBe(1);
  });

  it('is shown and left out where it disagrees with one’s own', async () => {
    const lessons = many(60, 5);
    const own = learnRates(lessons, EXPOSURES).ofClass.get('fuse')!;
    const opposite = await packOf(many(2, 300), B);
    const [said] = besideOthers('fuse', own, [opposite], BEFORE_WORTH);
    expect(said!.disagrees).toBe(true);
    expect(said!.interval.high).toBeLessThan(own.interval.low);
    expect(pooledFactor('fuse', own, [opposite], () => 1, BEFORE_WORTH)).toBeCloseTo(own.factor, 9);
    const alike = await packOf(many(58, 6), B);
    expect(besideOthers('fuse', own, [alike], BEFORE_WORTH)[0]!.disagrees).toBe(false);
  });
});
