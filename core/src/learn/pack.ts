import { z } from 'zod';
import { gammaQuantile, type Interval } from '../statistics';
import { learnRates, teaches, type LearnedRate } from './rates';
import { usualEnds } from './patterns';
import type { Exposures, Lesson } from './lesson';

const count = z.number().min(0).max(1e9);
const name = z.string().min(1).max(200);

/**
 * What one workshop learned, for another: counts alone, no owner, no serial number, no case. Several
 * of one workshop are one after the other, each with all of it.
 */
export const PatternPack = z.object({
  format: z.literal('hanzai-patterns'),
  version: z.literal(1),
  /** Of the workshop it comes from; the same in all its packs. */
  workshop: z.uuid(),
  madeAt: z.iso.datetime(),
  cases: z.number().int().min(0).max(1e9),
  /** By class of parts: failures, and what the rate table expected. */
  rates: z.array(z.object({ of: name, failures: count, expected: count })).max(2000),
  /** By kind of unit and pattern, the blocks that it was. */
  patterns: z
    .array(
      z.object({
        unit: name,
        pattern: name,
        cases: z.number().int().min(1).max(1e9),
        suspects: z.array(z.object({ block: name, seen: count })).max(200),
      }),
    )
    .max(5000),
  /** By board, the parts that it died of. */
  ends: z
    .array(z.object({ board: name, ref: z.string().min(1).max(80), seen: count, of: count }))
    .max(20_000),
  /** SHA-256 of all the rest, in hexadecimal. */
  hash: z.string().regex(/^[0-9a-f]{64}$/),
});
export type PatternPack = z.infer<typeof PatternPack>;

/** JSON with the names of every object in order: the same content is the same text. */
function canonical(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonical).join(',')}]`;
  if (typeof value === 'object' && value !== null)
    return `{${Object.entries(value)
      .filter(([, own]) => own !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, own]) => `${JSON.stringify(key)}:${canonical(own)}`)
      .join(',')}}`;
  return JSON.stringify(value);
}

/** The hash of a pack. Source: FIPS 180-4, SHA-256, as the platform has it. */
export async function packHash(
  pack: Omit<PatternPack, 'hash'> & { hash?: string },
): Promise<string> {
  const bytes = new TextEncoder().encode(canonical({ ...pack, hash: undefined }));
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', bytes));
  return [...digest].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** Makes the pack of a workshop from its own cases; what came in packs of others is not passed on. */
export async function makePack(
  workshop: string,
  madeAt: string,
  lessons: readonly Lesson[],
  exposures: Exposures,
): Promise<PatternPack> {
  const told = lessons.filter(teaches);
  const { ofClass, shares } = learnRates(told, exposures);
  const pairs = new Map<string, { unit: string; pattern: string; told: Lesson[] }>();
  for (const lesson of told)
    for (const pattern of new Set(lesson.patterns)) {
      const key = JSON.stringify([lesson.unit, pattern]);
      const pair = pairs.get(key) ?? { unit: lesson.unit, pattern, told: [] };
      pairs.set(key, pair);
      pair.told.push(lesson);
    }
  const boards = [...new Set(told.map(({ board }) => board))].filter((board) => board !== '');
  const pack = {
    format: 'hanzai-patterns',
    version: 1,
    workshop,
    madeAt,
    cases: told.length,
    rates: [...ofClass].map(([of, { failures, expected }]) => ({ of, failures, expected })),
    patterns: [...pairs.values()]
      .filter(({ unit }) => unit !== '')
      .map(({ unit, pattern, told: own }) => {
        const seen = new Map<string, number>();
        for (const lesson of own)
          lesson.changes.forEach(({ blocks }, i) => {
            for (const block of blocks)
              seen.set(
                block,
                (seen.get(block) ?? 0) + (shares.get(lesson)?.[i] ?? 0) / blocks.length,
              );
          });
        const suspects = [...seen].map(([block, all]) => ({ block, seen: all }));
        return { unit, pattern, cases: own.length, suspects };
      }),
    ends: boards.flatMap((board) =>
      usualEnds(board, told, shares).map(({ ref, seen, of }) => ({ board, ref, seen, of })),
    ),
  } as const satisfies Omit<PatternPack, 'hash'>;
  return { ...pack, hash: await packHash(pack) };
}

/** Reads a pack: its form, its sums, and whether it is as it was made. */
export async function readPack(
  text: string,
): Promise<
  { readonly ok: true; readonly pack: PatternPack } | { readonly ok: false; readonly why: string }
> {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    return { ok: false, why: 'it is no JSON' };
  }
  const read = PatternPack.safeParse(raw);
  if (!read.success) {
    const [issue] = read.error.issues;
    return {
      ok: false,
      why: `${issue?.path.join('.') || 'the pack'}: ${issue?.message ?? 'wrong'}`,
    };
  }
  const pack = read.data;
  if ((await packHash(pack)) !== pack.hash)
    return { ok: false, why: 'it was changed since it was made: its hash is another' };
  if (pack.ends.some(({ seen, of }) => seen > of + 1e-6))
    return { ok: false, why: 'a board died of a part more often than it died' };
  return { ok: true, pack };
}

/** The newest pack of each workshop, without one’s own: nothing is counted twice. */
export function standingPacks(
  packs: readonly PatternPack[],
  workshop: string,
): readonly PatternPack[] {
  const newest = new Map<string, PatternPack>();
  for (const pack of packs) {
    const known = newest.get(pack.workshop);
    if (pack.workshop !== workshop && (!known || known.madeAt < pack.madeAt))
      newest.set(pack.workshop, pack);
  }
  return [...newest.values()];
}

/** How like another workshop’s work is to one’s own, by the units that both see: 0 to 1. */
export function similarity(own: readonly Lesson[], pack: PatternPack): number {
  const mine = new Map<string, number>();
  for (const { unit } of own.filter(teaches)) mine.set(unit, (mine.get(unit) ?? 0) + 1);
  const theirs = new Map<string, number>();
  for (const { unit, cases } of pack.patterns) theirs.set(unit, (theirs.get(unit) ?? 0) + cases);
  const all = (of: ReadonlyMap<string, number>): number =>
    [...of.values()].reduce((sum, one) => sum + one, 0);
  const [a, b] = [all(mine), all(theirs)];
  if (a === 0 || b === 0) return 0;
  return [...mine].reduce(
    (sum, [unit, cases]) => sum + Math.min(cases / a, (theirs.get(unit) ?? 0) / b),
    0,
  );
}

/** What another workshop says of a class, beside one’s own. */
export interface OthersRate {
  readonly workshop: string;
  readonly factor: number;
  readonly interval: Interval;
  /** The intervals do not meet: it is shown, and not averaged away. */
  readonly disagrees: boolean;
}

/** Sets the rate of a class beside those of others. worth: as in `learnRates`. */
export function besideOthers(
  of: string,
  own: LearnedRate | undefined,
  packs: readonly PatternPack[],
  worth: number,
): readonly OthersRate[] {
  return packs.flatMap(({ workshop, rates }): OthersRate[] => {
    const row = rates.find((one) => one.of === of);
    if (!row || row.expected + row.failures === 0) return [];
    const shape = worth + row.failures;
    const rate = worth + row.expected;
    const interval = {
      low: gammaQuantile(shape, 0.025) / rate,
      high: gammaQuantile(shape, 0.975) / rate,
    };
    const disagrees =
      own !== undefined && (interval.low > own.interval.high || interval.high < own.interval.low);
    return [{ workshop, factor: shape / rate, interval, disagrees }];
  });
}

/**
 * The factor of a class with what others say, each weighed by trust and likeness: their counts count
 * as so much of one’s own. One that disagrees is left out.
 * @param weightOf 0 to 1
 */
export function pooledFactor(
  of: string,
  own: LearnedRate | undefined,
  packs: readonly PatternPack[],
  weightOf: (pack: PatternPack) => number,
  worth: number,
): number {
  let [failures, expected] = [own?.failures ?? 0, own?.expected ?? 0];
  for (const pack of packs) {
    const [said] = besideOthers(of, own, [pack], worth);
    if (!said || said.disagrees) continue;
    const row = pack.rates.find((one) => one.of === of)!;
    const weight = Math.max(0, Math.min(1, weightOf(pack)));
    failures += weight * row.failures;
    expected += weight * row.expected;
  }
  return (worth + failures) / (worth + expected);
}
