import {
  DEMO_BOARD_FILES,
  DEMO_CASES,
  DEMO_CODES,
  DEMO_STOCK,
  DEMO_SHEETS,
  demoBoard,
  demoHistory,
  demoPicture,
  demoSheet,
  type DemoCase,
  type DemoEntry,
} from '@hanzai/data/demo';
import type { UnitModel } from '@hanzai/core/block';
import {
  boardChanges,
  indexBoard,
  scratchBoard,
  type Board,
  type BoardIndex,
} from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { parseShorthand } from '@hanzai/core/instrument';
import { eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import type { Entry, EntryBody } from '../../case/entry';
import { epochOf, playJournal } from '../../case/journal';
import { summaryOf } from '../../case/summary';
import { readingEntry } from '../../case/written-points';
import { caseProgress } from '../../case/progress';
import { entryObjection } from '../../case/rules';
import { caseHazards, unitModelOf } from '../../case/unit';
import { addBoardPicture, tieBoardPicture } from '../board/pictures';
import { insertBoard } from '../board/repository';
import { insertCase, insertEntry, storeSummary } from '../case/repository';
import { addLots } from '../stock/lots';
import { insertPicture } from '../picture/repository';
import { develop } from '../picture/service';
import { insertCode } from '../unit/repository';
import type { Database } from './client';
import { workshopMark } from './schema/workshop';

const MARK = 'demo workshop seeded';
const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;

/** Seeds the demo workshop, once. Every entry goes through the same rules as one made by hand. */
export async function seedDemo(db: Database, now = new Date()): Promise<void> {
  await db.transaction(async (tx) => {
    const [done] = await tx.select().from(workshopMark).where(eq(workshopMark.name, MARK));
    if (done) return;
    const boards = new Map<string, { id: string; index: BoardIndex }>();
    for (const name of Object.keys(DEMO_BOARD_FILES) as (keyof typeof DEMO_BOARD_FILES)[]) {
      const content = demoBoard(name);
      const id = v7();
      await insertBoard(tx, { id, sourceName: DEMO_BOARD_FILES[name].file, content });
      boards.set(name, { id, index: indexBoard(content) });
    }
    for (const [name, files] of Object.entries(DEMO_SHEETS))
      boards.set(name, await seedVersions(tx, files));
    for (const [name, { id, index }] of boards) await seedFace(tx, name, id, index.board);
    for (const code of DEMO_CODES) await insertCode(tx, { id: v7(), ...code });
    for (const demo of DEMO_CASES)
      await seedCase(tx, demo, demo.board ? boards.get(demo.board) : undefined, now);
    for (const demo of demoHistory((name) => boards.get(name)!.index))
      await seedCase(tx, demo, boards.get(demo.board!), now);
    await addLots(
      tx,
      DEMO_STOCK.map((lot) => ({ id: v7(), ...lot })),
    );
    await tx.insert(workshopMark).values({ name: MARK });
  });
}

/** The versions of a sheet that was written at the bench; the newest is given. */
async function seedVersions(
  tx: Database,
  files: readonly string[],
): Promise<{ id: string; index: BoardIndex }> {
  let before: { id: string; content: Board } | undefined;
  let sheet: string | undefined;
  for (const [i, file] of files.entries()) {
    const [id, content] = [v7(), demoSheet(file)];
    sheet ??= id;
    const changes = before ? boardChanges(before.content, content) : [];
    await insertBoard(tx, { id, sheet, version: i + 1, changes, sourceName: file, content });
    before = { id, content };
  }
  return { id: before!.id, index: indexBoard(before!.content) };
}

/** The drawn picture of a board's top, laid on it by its corners. */
async function seedFace(tx: Database, name: string, id: string, board: Board): Promise<void> {
  if (!board.outlineMm) return;
  const { width, height } = board.outlineMm;
  const picture = { id: v7(), side: 'top' as const };
  const kept = await addBoardPicture(tx, id, picture, demoPicture(`face-${name}.jpg`));
  if (!kept.ok) throw new Error(`the picture of ${name}: ${kept.detail}`);
  await tieBoardPicture(tx, picture.id, [
    { onPicture: [0, 0], onBoard: [0, 0] },
    { onPicture: [1, 0], onBoard: [width, 0] },
    { onPicture: [0, 1], onBoard: [0, height] },
  ]);
}

async function seedCase(
  tx: Database,
  demo: DemoCase,
  board: { id: string; index: BoardIndex } | undefined,
  now: Date,
): Promise<void> {
  const opened = new Date(now.getTime() - (demo.journal[0]?.[0] ?? 0) * MINUTE - 10 * MINUTE);
  const promised =
    demo.promisedInDays === null
      ? null
      : new Date(now.getTime() + demo.promisedInDays * DAY).toISOString().slice(0, 10);
  const { title, unitModel, serial, owner, complaint, spendingLimit, waitsFor, unitType, card } =
    demo;
  const model = unitModelOf(unitType, []);
  const row = await insertCase(tx, {
    id: v7(),
    title,
    unitModel,
    serial,
    owner,
    complaint,
    spendingLimit,
    waitsFor,
    unitType,
    ...card,
    promisedOn: promised,
    boardId: board?.id ?? null,
    openedAt: opened,
  });
  const entries: Entry[] = [];
  for (const [ago, entry] of demo.journal) {
    let at = now.getTime() - ago * MINUTE;
    for (const body of await bodies(entry, {
      db: tx,
      caseId: row.id,
      entries,
      index: board?.index,
      model,
    })) {
      const objection = entryObjection(body, entries, board?.index, model);
      if (objection) throw new Error(`demo case "${title}": ${objection}`);
      const stored: Entry = { id: v7(), madeAt: new Date((at += MINUTE / 2)).toISOString(), body };
      await insertEntry(tx, row.id, stored, epochOf(entries));
      entries.push(stored);
    }
  }
  await storeSummary(tx, row.id, summaryOf(entries, board?.index, model));
}

/** What an entry of the demo is written against. */
interface SoFar {
  readonly db: Database;
  readonly caseId: string;
  readonly entries: readonly Entry[];
  readonly index: BoardIndex | undefined;
  readonly model: UnitModel | undefined;
}

async function bodies(
  entry: DemoEntry,
  { db, caseId, entries, index, model }: SoFar,
): Promise<EntryBody[]> {
  const last = (kind: string): string => entries.findLast(({ body }) => body.kind === kind)!.id;
  switch (entry.kind) {
    case 'reading':
      return [typedReading(index ?? indexBoard(scratchBoard(entry.typed, LIBRARY)), entry.typed)];
    case 'proof':
      return proofBodies(entries, index!);
    case 'acknowledge-all':
      return caseHazards(model, index, playJournal(entries, index)).map(({ key, ifFitted }) => ({
        kind: 'acknowledge',
        hazard: key,
        who: entry.who,
        ...(ifFitted && !entry.has?.includes(key) ? { notHere: true } : {}),
      }));
    case 'back-of':
      return [
        {
          kind: 'back',
          step: entries.filter(({ body }) => body.kind === 'step')[entry.step]!.id,
          count: entry.count,
        },
      ];
    case 'daylight-of-last':
      return [{ kind: 'daylight', timer: last('timer'), hours: entry.hours }];
    case 'picture-file': {
      const picture = v7();
      const made = await develop(demoPicture(entry.file));
      if (!made) throw new Error(`demo picture ${entry.file} cannot be read`);
      await insertPicture(db, { id: picture, caseId, ...made });
      return [
        { kind: 'picture', picture, title: entry.title, of: entry.of },
        ...entry.pins.map(([x, y, text]): EntryBody => ({ kind: 'pin', picture, x, y, text })),
      ];
    }
    default:
      return [entry];
  }
}

function typedReading(index: BoardIndex, typed: string): EntryBody {
  const read = parseShorthand(index, typed);
  if (!read.ok)
    throw new Error(`demo reading "${typed}": ${read.understood}; expected ${read.expected}`);
  const { measurement: m, value } = read.reading;
  return readingEntry(m, value, typed);
}

/** The readings and answers that prove a repair on a sound board, as its meter would show them. */
function proofBodies(entries: readonly Entry[], index: BoardIndex): EntryBody[] {
  return caseProgress(index, playJournal(entries, index), undefined, true).proof.flatMap(
    (step): EntryBody[] => {
      if (step.type === 'ask' || step.type === 'power')
        return [{ kind: 'answer', step: step.key, passed: true }];
      if (step.type === 'runs')
        return [
          {
            kind: 'run',
            medium: 'card 14',
            of: 'pressed',
            where: '',
            states: ['closed', 'warm'],
            passes: 24,
            errors: 0,
            note: '',
          },
        ];
      if (step.type === 'starts')
        return Array.from({ length: step.needed - step.clean }, () => ({
          kind: 'start',
          failedAt: null,
          tries: 1,
          sounds: '',
          conditions: [],
        }));
      if (step.type === 'rail') return [];
      const { measurement: m, expected } = step;
      const value =
        typeof expected.value === 'number' ? Number(expected.value.toPrecision(4)) : expected.value;
      return [readingEntry(m, value, expected.display)];
    },
  );
}
