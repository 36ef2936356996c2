import { and, eq, isNull, sql } from 'drizzle-orm';
import { v7 } from 'uuid';
import { z } from 'zod';
import { checkBoard, indexBoard } from '@hanzai/core/board';
import {
  BEFORE_WORTH,
  besideOthers,
  kindOfPart,
  learnedFactor,
  learnPatterns,
  learnRates,
  Lesson,
  makePack,
  PatternPack,
  pooledFactor,
  readPack,
  shareOut,
  similarity,
  standingPacks,
  teaches,
  usualEnds,
  type Exposure,
  type Exposures,
  type LearnedRates,
  type Shares,
} from '@hanzai/core/learn';
import { ARCHETYPES, RATES } from '@hanzai/data';
import { faultWords, siteTitle } from '../../case/wording';
import {
  LearningSetting,
  type BoardLearned,
  type OwnPattern,
  type PatternsAnswer,
  type TaughtCase,
  type TaughtEnd,
} from '../../patterns/patterns';
import { boardContent } from '../board/repository';
import type { Database } from '../db/client';
import { caseSummary, repairCase } from '../db/schema/case';
import { ownPattern, patternPack, workshopSetting } from '../db/schema/workshop';
import { exposureOn } from '../reckoning/pool';

/** Newest cases first; more than these are not gone into. */
const MOST_LESSONS = 5000;
/** Exposures of boards that are kept. */
const MOST_BOARDS = 100;
/** A factor nearer to 1 than this changes no line-up, and is not sent. */
const TELLING = 0.02;

const LEARNING = 'learning';
const WORKSHOP = 'workshop';
const LEARNS: LearningSetting = { on: true, since: null };

interface Told {
  readonly number: number;
  readonly title: string;
  readonly closedAt: string | null;
  readonly teaches: boolean;
  readonly boardId: string | null;
  readonly lesson: Lesson;
}

interface Known {
  readonly told: readonly Told[];
  /** Those of which is learned. */
  readonly used: readonly Told[];
  readonly learned: LearnedRates;
  readonly shares: Shares;
  readonly exposures: Exposures;
  /** Packs of other workshops; none where learning is off. */
  readonly packs: readonly { readonly pack: PatternPack; readonly trust: number }[];
}

const exposures = new Map<string, Promise<readonly Exposure[]>>();

function exposureFor(db: Database, boardId: string): Promise<readonly Exposure[]> {
  const known = exposures.get(boardId);
  if (known) return known;
  const made = boardContent(db, boardId).then((content) => exposureOn({ id: boardId, content }));
  made.catch(() => exposures.delete(boardId));
  if (exposures.size >= MOST_BOARDS) exposures.delete(exposures.keys().next().value!);
  exposures.set(boardId, made);
  return made;
}

export async function learningSetting(db: Database): Promise<LearningSetting> {
  const [row] = await db.select().from(workshopSetting).where(eq(workshopSetting.name, LEARNING));
  const read = LearningSetting.safeParse(row?.value);
  return read.success ? read.data : LEARNS;
}

export async function setLearning(db: Database, value: LearningSetting): Promise<void> {
  await db
    .insert(workshopSetting)
    .values({ name: LEARNING, value })
    .onConflictDoUpdate({ target: workshopSetting.name, set: { value } });
}

/** Lets a case teach, or not; false where there is none. */
export async function setTeaches(db: Database, number: number, value: boolean): Promise<boolean> {
  const done = await db
    .update(repairCase)
    .set({ teaches: value })
    .where(eq(repairCase.number, number))
    .returning({ id: repairCase.id });
  return done.length > 0;
}

async function toldCases(db: Database): Promise<readonly Told[]> {
  const rows = await db
    .select({
      number: repairCase.number,
      title: repairCase.title,
      teaches: repairCase.teaches,
      boardId: repairCase.boardId,
      lesson: sql<unknown>`${caseSummary.content}->'lesson'`,
      closedAt: sql<string | null>`${caseSummary.content}->>'lastEntryAt'`,
    })
    .from(repairCase)
    .innerJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .where(and(eq(caseSummary.closed, true), sql`${caseSummary.content}->'lesson' is not null`))
    .orderBy(sql`${repairCase.number} desc`)
    .limit(MOST_LESSONS);
  return rows.flatMap(({ lesson, ...row }) => {
    const read = Lesson.safeParse(lesson);
    return read.success ? [{ ...row, lesson: read.data }] : [];
  });
}

async function know(db: Database, { on, since }: LearningSetting): Promise<Known> {
  const told = await toldCases(db);
  const used = told.filter(
    (one) =>
      on && one.teaches && teaches(one.lesson) && (since === null || (one.closedAt ?? '') > since),
  );
  const boards = new Map<string, readonly Exposure[]>();
  // The newest version of a sheet speaks for all of them.
  for (const { boardId, lesson } of used)
    if (boardId && !boards.has(lesson.board))
      boards.set(lesson.board, await exposureFor(db, boardId));
  const lessons = used.map(({ lesson }) => lesson);
  return {
    told,
    used,
    learned: learnRates(lessons, boards),
    shares: shareOut(lessons, boards),
    exposures: boards,
    packs: on ? await takenPacks(db) : [],
  };
}

/** All that the workshop knows of what fails. */
export async function patternsOf(db: Database): Promise<PatternsAnswer> {
  const setting = await learningSetting(db);
  const known = await know(db, setting);
  const { told, used, learned, shares } = known;
  const lessons = used.map(({ lesson }) => lesson);
  return {
    setting,
    lessons: told.map((one) => taughtCase(one, shares)),
    rates: [...learned.ofClass]
      .map(([of, rate]) => ({ of, ...rate }))
      .sort((a, b) => b.failures - a.failures || b.expected - a.expected),
    patterns: ARCHETYPES.flatMap((model) =>
      learnPatterns(model, lessons, shares).map((pattern) => ({
        ...pattern,
        unitTitle: model.title,
        suspects: pattern.suspects.map((suspect) => ({
          ...suspect,
          title: model.blocks.find(({ name }) => name === suspect.name)?.title ?? suspect.name,
        })),
        cases: used
          .filter(
            ({ lesson }) => lesson.unit === model.name && lesson.patterns.includes(pattern.name),
          )
          .map(({ number }) => number),
      })),
    ),
    ends: [...new Set(lessons.map(({ board }) => board))]
      .filter((board) => board !== '')
      .map((board) => endsOf(board, known))
      // Boards that always die one way first.
      .sort((a, b) => (b[0]?.interval.low ?? 0) - (a[0]?.interval.low ?? 0))
      .flat(),
    own: await ownPatterns(db),
    packs: known.packs.map(({ pack, trust }) => ({
      workshop: pack.workshop,
      madeAt: pack.madeAt,
      cases: pack.cases,
      trust,
      similarity: similarity(lessons, pack),
    })),
    disagreements: known.packs.flatMap(({ pack }) =>
      pack.rates.flatMap(({ of }) => {
        const own = learned.ofClass.get(of);
        const [said] = besideOthers(of, own, [pack], BEFORE_WORTH);
        return own && said?.disagrees
          ? [{ of, workshop: pack.workshop, own: own.factor, factor: said.factor }]
          : [];
      }),
    ),
  };
}

function taughtCase(
  { number, title, closedAt, teaches: may, lesson }: Told,
  shares: Shares,
): TaughtCase {
  const own = shares.get(lesson) ?? lesson.changes.map(() => 1 / lesson.changes.length);
  return {
    number,
    title,
    closedAt,
    teaches: may,
    grade: lesson.grade,
    board: lesson.board,
    cures: lesson.changes.map(({ ref, of, mode }, i) => ({
      words: [ref === '' ? of : `${ref} (${of})`, faultWords(mode)].filter(Boolean).join(', '),
      share: own[i] ?? 0,
    })),
  };
}

function endsOf(board: string, { used, shares }: Known): TaughtEnd[] {
  const lessons = used.map(({ lesson }) => lesson);
  return usualEnds(board, lessons, shares).map((end) => ({
    board,
    ...end,
    cases: used
      .filter(
        ({ lesson }) => lesson.board === board && lesson.changes.some(({ ref }) => ref === end.ref),
      )
      .map(({ number }) => number),
  }));
}

/** What was learned, for the line-up of one board; undefined where there is no such board. */
export async function learnedOn(db: Database, boardId: string): Promise<BoardLearned | undefined> {
  const content = checkBoard(await boardContent(db, boardId));
  if (!content.ok) return undefined;
  const index = indexBoard(content.value);
  const known = await know(db, await learningSetting(db));
  const { title } = index.board;
  const lessons = known.used.map(({ lesson }) => lesson);
  const weights = new Map(
    known.packs.map(({ pack, trust }) => [pack, trust * similarity(lessons, pack)]),
  );
  const unit = known.used.find(({ lesson }) => lesson.board === title)?.lesson.unit ?? '';
  const factors = [...index.replaceable.keys()].flatMap((ref) => {
    const kind = kindOfPart(index, RATES, ref);
    const own = known.learned.ofClass.get(kind.of);
    // What others say moves the class; role, unit and board are our own alone.
    const pooled =
      known.packs.length === 0
        ? 1
        : pooledFactor(
            kind.of,
            own,
            known.packs.map(({ pack }) => pack),
            (pack) => weights.get(pack) ?? 0,
            BEFORE_WORTH,
          ) / (own?.factor ?? 1);
    const factor = pooled * learnedFactor(known.learned, { ...kind, unit, board: title });
    return Math.abs(factor - 1) < TELLING ? [] : [[ref, factor] as const];
  });
  return {
    factors: Object.fromEntries(factors),
    ends: endsOf(title, known).filter(
      ({ ref }) => index.replaceable.has(ref) || siteTitle(index, ref),
    ),
    cases: known.used.length,
  };
}

/** The id of this workshop in its packs; made when it is first asked for. */
async function workshopId(db: Database): Promise<string> {
  await db.insert(workshopSetting).values({ name: WORKSHOP, value: v7() }).onConflictDoNothing();
  const [row] = await db.select().from(workshopSetting).where(eq(workshopSetting.name, WORKSHOP));
  return z.uuid().parse(row!.value);
}

async function takenPacks(db: Database): Promise<Known['packs']> {
  const rows = await db.select().from(patternPack).where(isNull(patternPack.archivedAt));
  const read = rows.flatMap(({ content, trust }) => {
    const pack = PatternPack.safeParse(content);
    return pack.success ? [{ pack: pack.data, trust }] : [];
  });
  const standing = standingPacks(
    read.map(({ pack }) => pack),
    await workshopId(db),
  );
  return read.filter(({ pack }) => standing.includes(pack));
}

/** The workshop’s own pack, of the cases that count; what came from others is not passed on. */
export async function ownPack(db: Database, now = new Date()): Promise<PatternPack> {
  const { used, exposures } = await know(db, await learningSetting(db));
  const lessons = used.map(({ lesson }) => lesson);
  return makePack(await workshopId(db), now.toISOString(), lessons, exposures);
}

/** Takes a pack in; a later one of the same workshop stands for the earlier. Returns why not. */
export async function takePack(db: Database, text: string): Promise<string | undefined> {
  const read = await readPack(text);
  if (!read.ok) return read.why;
  const { pack } = read;
  if (pack.workshop === (await workshopId(db))) return 'it is of this very workshop';
  const [known] = await db
    .select()
    .from(patternPack)
    .where(eq(patternPack.workshop, pack.workshop));
  const before = PatternPack.safeParse(known?.content);
  if (!known?.archivedAt && before.success && before.data.madeAt > pack.madeAt)
    return 'a later one of the same workshop is here already';
  await db
    .insert(patternPack)
    .values({ workshop: pack.workshop, content: pack })
    .onConflictDoUpdate({
      target: patternPack.workshop,
      set: { content: pack, archivedAt: null },
    });
  return undefined;
}

/** How far a pack is believed, or that it is set aside; false where there is none. */
export async function changePack(
  db: Database,
  workshop: string,
  change: { readonly trust?: number | undefined; readonly archived?: boolean | undefined },
): Promise<boolean> {
  const { trust, archived } = change;
  const done = await db
    .update(patternPack)
    .set({
      ...(trust === undefined ? {} : { trust }),
      ...(archived === undefined ? {} : { archivedAt: archived ? new Date() : null }),
    })
    .where(eq(patternPack.workshop, workshop))
    .returning({ workshop: patternPack.workshop });
  return done.length > 0;
}

export async function ownPatterns(db: Database): Promise<OwnPattern[]> {
  const rows = await db
    .select()
    .from(ownPattern)
    .where(isNull(ownPattern.archivedAt))
    .orderBy(ownPattern.madeAt);
  return rows.map(({ id, unitType, seen, suspects, because, firstTests }) => ({
    id,
    unitType,
    seen,
    suspects,
    because,
    firstTests,
  }));
}

/** Adds a pattern of the workshop’s own; one that is there already stays as it is. */
export async function addOwnPattern(db: Database, pattern: OwnPattern): Promise<void> {
  await db.insert(ownPattern).values(pattern).onConflictDoNothing();
}

/** Sets a pattern aside, or takes it back; false where there is none. */
export async function archiveOwnPattern(
  db: Database,
  id: string,
  at: Date | null,
): Promise<boolean> {
  const done = await db
    .update(ownPattern)
    .set({ archivedAt: at })
    .where(eq(ownPattern.id, id))
    .returning({ id: ownPattern.id });
  return done.length > 0;
}
