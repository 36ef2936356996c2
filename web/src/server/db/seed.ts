import { DEMO_BOARD_FILES, DEMO_CASES, demoBoard, type DemoCase, type DemoEntry } from '@hanzai/data/demo';
import { indexBoard, type BoardIndex } from '@hanzai/core/board';
import { parseShorthand } from '@hanzai/core/instrument';
import { Predictor } from '@hanzai/core/diagnosis';
import { eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import type { Entry, EntryBody } from '../../case/entry';
import { playJournal } from '../../case/journal';
import { readingEntry } from '../../case/file-reading';
import { caseProgress } from '../../case/progress';
import { entryObjection } from '../../case/rules';
import { insertBoard } from '../board/repository';
import { insertCase, insertEntry } from '../case/repository';
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
    for (const demo of DEMO_CASES) await seedCase(tx, demo, demo.board ? boards.get(demo.board) : undefined, now);
    await tx.insert(workshopMark).values({ name: MARK });
  });
}

async function seedCase(tx: Database, demo: DemoCase, board: { id: string; index: BoardIndex } | undefined, now: Date): Promise<void> {
  const opened = new Date(now.getTime() - (demo.journal[0]?.[0] ?? 0) * MINUTE - 10 * MINUTE);
  const promised = demo.promisedInDays === null ? null : new Date(now.getTime() + demo.promisedInDays * DAY).toISOString().slice(0, 10);
  const { title, unitModel, serial, owner, complaint, spendingLimit, waitsFor } = demo;
  const row = await insertCase(tx, {
    id: v7(),
    title,
    unitModel,
    serial,
    owner,
    complaint,
    spendingLimit,
    waitsFor,
    promisedOn: promised,
    boardId: board?.id ?? null,
    openedAt: opened,
  });
  const entries: Entry[] = [];
  for (const [ago, entry] of demo.journal) {
    let at = now.getTime() - ago * MINUTE;
    for (const body of bodies(entry, entries, board?.index)) {
      const objection = entryObjection(body, entries, board?.index);
      if (objection) throw new Error(`demo case "${title}": ${objection}`);
      const stored: Entry = { id: v7(), madeAt: new Date((at += MINUTE / 2)).toISOString(), body };
      entries.push(stored);
      await insertEntry(tx, row.id, stored);
    }
  }
}

function bodies(entry: DemoEntry, entries: readonly Entry[], index: BoardIndex | undefined): EntryBody[] {
  if (entry.kind === 'reading') return [typedReading(index!, entry.typed)];
  if (entry.kind === 'proof') return proofBodies(entries, index!);
  return [entry];
}

function typedReading(index: BoardIndex, typed: string): EntryBody {
  const read = parseShorthand(index, typed);
  if (!read.ok) throw new Error(`demo reading "${typed}": ${read.understood}; expected ${read.expected}`);
  const { measurement: m, value } = read.reading;
  return readingEntry(m, value, typed);
}

/** The readings and answers that prove a repair on a sound board, as its meter would show them. */
function proofBodies(entries: readonly Entry[], index: BoardIndex): EntryBody[] {
  return caseProgress(index, playJournal(entries, index), new Predictor(index), true).proof.map((step): EntryBody => {
    if (step.type === 'ask') return { kind: 'answer', step: step.key, passed: true };
    const { measurement: m, expected } = step;
    const value = typeof expected.value === 'number' ? Number(expected.value.toPrecision(4)) : expected.value;
    return readingEntry(m, value, expected.display);
  });
}
