import { betaQuantile, shareInterval, type Interval } from '../statistics';
import type { UnitModel } from '../block';
import type { RateTable } from '../fault';
import { teaches, type Shares } from './rates';
import type { Lesson } from './lesson';

/** A share with where it comes from: before, and with what was learned. */
export interface LearnedShare {
  readonly name: string;
  /** Before anything was learned. */
  readonly before: number;
  readonly share: number;
  readonly interval: Interval;
  /** Of the cases, so many: whole ones and shares. */
  readonly seen: number;
}

/** How many cases what was known before is worth. Common practice, no published source. */
const BEFORE_WORTH = 4;

/**
 * Shares that sum to 1, learned from counts: Dirichlet, its marginals Beta. before: what was expected
 * of each, in any measure. Source: A. Gelman et al., Bayesian Data Analysis, section 3.4.
 */
export function learnShares(
  before: ReadonlyMap<string, number>,
  seen: ReadonlyMap<string, number>,
  worth = BEFORE_WORTH,
): readonly LearnedShare[] {
  const names = [...new Set([...before.keys(), ...seen.keys()])];
  const whole = [...before.values()].reduce((sum, one) => sum + one, 0);
  const counted = [...seen.values()].reduce((sum, one) => sum + one, 0);
  const prior = (name: string): number =>
    whole > 0 ? (before.get(name) ?? 0) / whole : 1 / names.length;
  return names
    .map((name): LearnedShare => {
      const a = worth * prior(name) + (seen.get(name) ?? 0);
      const b = worth + counted - a;
      return {
        name,
        before: prior(name),
        share: a / (a + b),
        interval:
          a <= 0
            ? { low: 0, high: 0 }
            : b <= 1e-12
              ? { low: 1, high: 1 }
              : { low: betaQuantile(a, b, 0.025), high: betaQuantile(a, b, 0.975) },
        seen: seen.get(name) ?? 0,
      };
    })
    .sort((p, q) => q.share - p.share || (p.name < q.name ? -1 : 1));
}

/** A pattern of a kind of unit, with the blocks behind it. */
export interface LearnedPattern {
  readonly unit: string;
  readonly name: string;
  readonly seen: string;
  readonly because: string;
  readonly suspects: readonly LearnedShare[];
  /** Cases in which it was seen and a cure was shown. */
  readonly cases: number;
}

/**
 * The patterns of a unit model with what closed cases say of them. The model gives its suspects in
 * usual order; the first counts as one, the next as a half, a third and so on (common practice, no
 * published source).
 */
export function learnPatterns(
  model: UnitModel,
  lessons: readonly Lesson[],
  shares: Shares,
): readonly LearnedPattern[] {
  return model.patterns.map(({ name, seen, because, suspects }) => {
    const told = lessons.filter(
      (lesson) => teaches(lesson) && lesson.unit === model.name && lesson.patterns.includes(name),
    );
    const counts = new Map<string, number>();
    for (const lesson of told)
      lesson.changes.forEach(({ blocks }, i) => {
        const share = (shares.get(lesson)?.[i] ?? 0) / Math.max(1, blocks.length);
        for (const block of blocks) counts.set(block, (counts.get(block) ?? 0) + share);
      });
    return {
      unit: model.name,
      name,
      seen,
      because,
      suspects: learnShares(new Map(suspects.map((block, i) => [block, 1 / (i + 1)])), counts),
      cases: told.length,
    };
  });
}

/** How parts of a class fail: shares of their modes, before and with closed cases. */
export interface LearnedModes {
  readonly of: string;
  readonly modes: readonly LearnedShare[];
}

/**
 * How the parts of each class that failed here were bad, beside the rate table: Dirichlet, as
 * `learnShares`. Cures whose mode nobody wrote down count for none of them.
 */
export function learnModes(
  table: RateTable,
  lessons: readonly Lesson[],
  shares: Shares,
): readonly LearnedModes[] {
  const seen = new Map<string, Map<string, number>>();
  for (const lesson of lessons.filter(teaches))
    lesson.changes.forEach(({ of, mode }, i) => {
      if (mode === '') return;
      const counts = seen.get(of) ?? new Map<string, number>();
      seen.set(of, counts);
      counts.set(mode, (counts.get(mode) ?? 0) + (shares.get(lesson)?.[i] ?? 0));
    });
  return [...seen].map(([of, counts]) => ({
    of,
    modes: learnShares(new Map(Object.entries(table.rates[of] ?? {})), counts),
  }));
}

/** What was replaced in cases with a pattern: a part of one kind of board, or first aid. */
export interface UsualPart {
  /** Title of the sheet; empty without one. */
  readonly board: string;
  /** As it is replaced; empty for what is no part. */
  readonly ref: string;
  readonly of: string;
  readonly seen: number;
}

/** What cured cases with a pattern, most often first. A cure that is shared counts as its share. */
export function usualParts(
  unit: string,
  pattern: string,
  lessons: readonly Lesson[],
  shares: Shares,
): readonly UsualPart[] {
  const rows = new Map<string, { board: string; ref: string; of: string; seen: number }>();
  for (const lesson of lessons) {
    if (!teaches(lesson) || lesson.unit !== unit || !lesson.patterns.includes(pattern)) continue;
    lesson.changes.forEach(({ ref, of }, i) => {
      const key = JSON.stringify([lesson.board, ref, of]);
      const row = rows.get(key) ?? { board: lesson.board, ref, of, seen: 0 };
      rows.set(key, row);
      row.seen += shares.get(lesson)?.[i] ?? 0;
    });
  }
  return [...rows.values()].sort((a, b) => b.seen - a.seen || (a.ref < b.ref ? -1 : 1));
}

/** A part that a board died of before, as a count with its interval. */
export interface UsualEnd {
  readonly ref: string;
  /** How it was bad, most often; empty where nobody wrote it down. */
  readonly mode: string;
  /** Of the cases of this board, so many: whole ones and shares. */
  readonly seen: number;
  readonly of: number;
  readonly interval: Interval;
}

/** What a board died of, likeliest first. A cure that is shared counts as its share. */
export function usualEnds(
  board: string,
  lessons: readonly Lesson[],
  shares: Shares,
): readonly UsualEnd[] {
  const told = lessons.filter((lesson) => teaches(lesson) && lesson.board === board);
  const counts = new Map<string, { seen: number; modes: string[] }>();
  for (const lesson of told)
    lesson.changes.forEach(({ ref, mode }, i) => {
      if (ref === '') return;
      const row = counts.get(ref) ?? { seen: 0, modes: [] };
      counts.set(ref, row);
      row.seen += shares.get(lesson)?.[i] ?? 0;
      if (mode !== '') row.modes.push(mode);
    });
  return [...counts]
    .map(([ref, { seen, modes }]) => ({
      ref,
      mode: mostOften(modes),
      seen,
      of: told.length,
      interval: shareInterval(Math.min(seen, told.length), told.length),
    }))
    .sort((a, b) => b.seen - a.seen || (a.ref < b.ref ? -1 : 1));
}

function mostOften(words: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const one of words) counts.set(one, (counts.get(one) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? '';
}
