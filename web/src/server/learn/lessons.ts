import { eq } from 'drizzle-orm';
import { BEFORE_WORTH, learnedFactor, pooledFactor, type LearnedRates } from '@hanzai/core/learn';
import type { BoardLearned, PatternsAnswer, TaughtCase } from '../../patterns/patterns';
import { boardIsHere } from '../board/repository';
import type { Database } from '../db/client';
import { repairCase } from '../db/schema/case';
import { exposedOn } from './exposure';
import { doubted, keptForBoards, keptPatterns, olderLessons } from './learned';
import { ownPatterns } from './own-patterns';
import { takenPacks } from './packs';
import { learningSetting } from './setting';
import { soonUpToDate } from './soon';

/** A factor nearer to 1 than this changes no line-up, and is not sent. */
const TELLING = 0.02;

/** Lets a case teach, or not; false where there is none. */
export async function setTeaches(db: Database, number: number, value: boolean): Promise<boolean> {
  const done = await db
    .update(repairCase)
    .set({ teaches: value })
    .where(eq(repairCase.number, number))
    .returning({ id: repairCase.id });
  return done.length > 0;
}

/** All that the workshop knows of what fails. */
export async function patternsOf(db: Database): Promise<PatternsAnswer> {
  const behind = !(await soonUpToDate(db));
  const { patterns, at } = await keptPatterns(db);
  return {
    ...patterns,
    setting: await learningSetting(db),
    own: await ownPatterns(db),
    behind,
    workedOutAt: at?.toISOString() ?? null,
  };
}

/** Closed cases with their lessons that are older than one; they may teach as it was said last. */
export async function lessonsBefore(db: Database, before: number): Promise<TaughtCase[]> {
  const not = await doubted(db);
  const lessons = await olderLessons(db, before);
  return lessons.map((one) => ({ ...one, teaches: !not.has(one.number) }));
}

/** What was learned, for the line-up of one board; undefined where there is no such board. */
export async function learnedOn(db: Database, boardId: string): Promise<BoardLearned | undefined> {
  if (!(await boardIsHere(db, boardId))) return undefined;
  const behind = !(await soonUpToDate(db));
  const kept = await keptForBoards(db);
  if (!kept) return { factors: {}, ends: [], cases: 0, behind };
  const { title, kinds } = await exposedOn(db, boardId);
  const [ofClass, ofRole, ofUnit, ofBoard] = kept.levels.map((level) => new Map(level));
  const rates = { ofClass, ofRole, ofUnit, ofBoard } as Omit<LearnedRates, 'shares'>;
  const unit = new Map(kept.units).get(title) ?? '';
  const similarities = new Map(kept.similarities);
  const packs = (await learningSetting(db)).on ? await takenPacks(db) : [];
  const weights = new Map(
    packs.map(({ pack, trust }) => [pack, trust * (similarities.get(pack.workshop) ?? 0)]),
  );
  const factors = [...kinds].flatMap(([ref, kind]) => {
    const own = rates.ofClass.get(kind.of);
    // What others say moves the class; role, unit and board are our own alone.
    const pooled =
      packs.length === 0
        ? 1
        : pooledFactor(
            kind.of,
            own,
            packs.map(({ pack }) => pack),
            (pack) => weights.get(pack) ?? 0,
            BEFORE_WORTH,
          ) / (own?.factor ?? 1);
    const factor = pooled * learnedFactor(rates, { ...kind, unit, board: title });
    return Math.abs(factor - 1) < TELLING ? [] : [[ref, factor] as const];
  });
  return {
    factors: Object.fromEntries(factors),
    // What an older version of the sheet called otherwise is of no use here.
    ends: kept.ends.filter(
      ({ board, ref }) => board === title && (kinds.has(ref) || ref.includes('~')),
    ),
    cases: kept.counting,
    behind,
  };
}
