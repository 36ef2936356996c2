import { indexBoard } from '@hanzai/core/board';
import { jointChecks } from '@hanzai/core/prove';
import { DEMO_CASES } from '@hanzai/data/demo';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { NewCaseRequest } from '../src/case/case-card';
import type { CaseAnswer } from '../src/case/case-view';
import type { EntryBody } from '../src/case/entry';
import { playJournal } from '../src/case/journal';
import { readingEntry } from '../src/case/written-points';
import { findBoard } from '../src/server/board/repository';
import { exportBoard, importBoard } from '../src/server/board/service';
import { docketPage } from '../src/server/case/docket';
import { addEntry, caseView, correctCase, openCase } from '../src/server/case/service';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { closePools } from '../src/server/reckoning/pool';

const url = process.env.DATABASE_URL!;
const { db, pool } = openDatabase(url);
const DECK =
  'own board\nV1 VIN 0 9\nXF1 VIN VM FUSE\nC1 VM 0 47u\n*@ C1 kind=electrolytic volt=16 esr=0.3\nR1 VM 0 1k\n.end';

beforeAll(() => prepareDatabase(url, { demo: true }));
afterAll(() => Promise.all([pool.end(), closePools()]));

const sheetOf = async ({ boardId }: CaseAnswer) =>
  indexBoard((await findBoard(db, boardId!))!.content);

async function newCase(
  deck = DECK,
): Promise<{ id: string; file: (body: EntryBody, id?: string) => ReturnType<typeof addEntry> }> {
  const board = await importBoard(db, 'own.cir', deck);
  if (!board.ok) throw new Error('deck');
  const opened = await openCase(
    db,
    NewCaseRequest.parse({ title: 'own case', unitModel: 'loom lamp', boardId: board.id }),
  );
  if (!opened.ok) throw new Error(opened.detail);
  const id = opened.value.id;
  return {
    id,
    file: (body, entryId = v7()) =>
      addEntry(db, id, { id: entryId, madeAt: new Date().toISOString(), body }),
  };
}

const reading = (value: number, at = 'VM'): EntryBody => ({
  kind: 'reading',
  setup: 'on',
  quantity: 'voltage',
  at,
  to: '',
  value,
  typed: `${at} ${value}`,
});
const ohms = (value: number, at = 'VM'): EntryBody => ({
  kind: 'reading',
  setup: 'off',
  quantity: 'resistance',
  at,
  to: '',
  value,
  typed: `${at} ${value} ohm`,
});

describe('the demo workshop', () => {
  it('is seeded once, and every case has a state and a next action', async () => {
    await prepareDatabase(url, { demo: true });
    const lines = (await docketPage(db, { most: 500 })).lines.filter(({ title }) =>
      DEMO_CASES.some((demo) => demo.title === title),
    );
    expect(lines).toHaveLength(DEMO_CASES.length);
    expect(lines.map(({ state }) => state).sort()).toEqual([
      'closed',
      'open',
      'open',
      'open',
      'open',
      'open',
      'open',
      'open',
      'open',
      'open',
      'waiting',
      'waiting',
    ]);
    expect(lines.every(({ nextAction }) => nextAction !== '')).toBe(true);
  });
});

describe('the journal', () => {
  it('stores an entry once however often it is sent', async () => {
    const { id, file } = await newCase();
    const entryId = v7();
    const answers = await Promise.all([
      file(reading(8.9), entryId),
      file(reading(8.9), entryId),
      file(reading(8.9), entryId),
    ]);
    expect(answers.map((a) => a.ok)).toEqual([true, true, true]);
    expect(answers.filter((a) => a.ok && a.value.created)).toHaveLength(1);
    expect((await caseView(db, id))!.entries).toHaveLength(1);
  });

  it('never changes a row: a retraction is another one', async () => {
    const { id, file } = await newCase();
    const entryId = v7();
    await file(reading(8.9), entryId);
    await file({ kind: 'retract', entry: entryId });
    const view = (await caseView(db, id))!;
    expect(view.entries.map(({ body }) => body.kind)).toEqual(['reading', 'retract']);
    expect(playJournal(view.entries, await sheetOf(view)).readings).toHaveLength(0);
  });

  it('of many who take the same part off at once lets one, and keeps every line of the others in one order', async () => {
    const { id, file } = await newCase();
    const off: EntryBody = { kind: 'removed', ref: 'C1', value: '', note: '' };
    const answers = await Promise.all(
      Array.from({ length: 24 }, (_, i) =>
        file(i % 3 === 0 ? off : { kind: 'symptom', text: `hand ${i}` }),
      ),
    );
    const taken = answers.map((answer) => answer.ok);
    expect(taken.filter((_, i) => i % 3 === 0).filter(Boolean)).toHaveLength(1);
    expect(taken.filter((_, i) => i % 3 !== 0)).toEqual(Array<boolean>(16).fill(true));
    expect(answers.find((answer) => !answer.ok)).toMatchObject({
      why: 'refused',
      detail: 'C1 is already off the board',
    });
    const { entries } = (await caseView(db, id))!;
    expect(entries).toHaveLength(17);
    expect(
      new Set(entries.flatMap(({ body }) => (body.kind === 'symptom' ? [body.text] : []))).size,
    ).toBe(16);
    expect((await caseView(db, id))!.entries).toEqual(entries);
    const journal = playJournal(entries, await sheetOf((await caseView(db, id))!));
    expect([journal.absent, journal.symptoms.length]).toEqual([['C1'], 16]);
  });

  it('refuses what the board does not have, with what was expected, and stores nothing', async () => {
    const { id, file } = await newCase();
    expect(await file(reading(5, 'NOPE'))).toMatchObject({
      ok: false,
      why: 'refused',
      detail: expect.stringContaining('no net or pin "NOPE"'),
    });
    expect(await file({ kind: 'condemn', ref: 'U9', probability: 1, reason: '' })).toMatchObject({
      ok: false,
      detail: 'the board has no part U9',
    });
    expect(await file({ kind: 'retract', entry: v7() })).toMatchObject({ ok: false });
    expect((await caseView(db, id))!.entries).toHaveLength(0);
  });

  it('keeps the fuse out until the ohms behind it are read, and the case open until it is proven', async () => {
    const { file } = await newCase();
    await file({ kind: 'symptom', text: 'dead' });
    await file(reading(0));
    await file({ kind: 'condemn', ref: 'F1', probability: 0.9, reason: 'open' });
    await file({ kind: 'removed', ref: 'F1', value: 'T1A', note: '' });
    const fitted: EntryBody = {
      kind: 'fitted',
      ref: 'F1',
      value: 'T1A',
      polarityChecked: false,
      note: '',
    };
    expect(await file(fitted)).toMatchObject({
      ok: false,
      detail: expect.stringContaining('read the ohms from VM to ground'),
    });
    expect(await file({ kind: 'close', note: '' })).toMatchObject({
      ok: false,
      detail: expect.stringContaining('F1 came off and nothing went on'),
    });
    await file(ohms(1000));
    expect(await file(fitted)).toMatchObject({ ok: true });
    expect(await file({ kind: 'close', note: '' })).toMatchObject({
      ok: false,
      detail: expect.stringContaining('not passed'),
    });
    const view = (await caseView(db, (await newestOwn()).id))!;
    await file(ohms(1000));
    // The new joints, the first power, and a run of the whole.
    for (const m of jointChecks(await sheetOf(view), ['F1']))
      expect(await file(readingEntry(m, 'beep', 'beep'))).toMatchObject({ ok: true });
    await file({ kind: 'answer', step: 'first power', passed: true });
    await file(reading(8.99));
    const ran: EntryBody = {
      kind: 'run',
      medium: '',
      of: 'none',
      where: '',
      states: [],
      passes: 5,
      errors: 0,
      note: '',
    };
    expect(await file(ran)).toMatchObject({ ok: true });
    await file({
      kind: 'answer',
      step: view.entries.find(({ body }) => body.kind === 'symptom')!.id,
      passed: true,
    });
    const closings = await Promise.all([
      file({ kind: 'close', note: 'done' }),
      file({ kind: 'close', note: 'done' }),
      file({ kind: 'close', note: 'done' }),
    ]);
    expect(closings.filter((answer) => answer.ok)).toHaveLength(1);
    expect(await file(reading(1))).toMatchObject({
      ok: false,
      detail: expect.stringContaining('closed'),
    });
    expect(await file({ kind: 'reopen' })).toMatchObject({ ok: true });
  });
});

async function newestOwn(): Promise<{ id: string }> {
  const { rows } = await pool.query<{ id: string }>(
    'select id from repair_case order by number desc limit 1',
  );
  return rows[0]!;
}

describe('boards and cards', () => {
  it('gives a board back as it came in', async () => {
    const board = await importBoard(db, 'own.cir', DECK);
    if (!board.ok) throw new Error('deck');
    const json = (await exportBoard(db, board.id, 'json'))!.text;
    const deck = (await exportBoard(db, board.id, 'cir'))!.text;
    const again = await importBoard(db, 'own.json', json);
    expect(again.ok && (await exportBoard(db, again.id, 'cir'))!.text).toBe(deck);
    expect(await exportBoard(db, board.id, 'exe')).toBeUndefined();
  });

  it('does not overwrite a change that somebody else made meanwhile', async () => {
    const { id } = await newCase();
    expect(await correctCase(db, id, { version: 1, waitsFor: 'fuse' })).toMatchObject({
      ok: true,
      value: { version: 2, waitsFor: 'fuse' },
    });
    expect(await correctCase(db, id, { version: 1, waitsFor: 'belt' })).toMatchObject({
      ok: false,
      why: 'clash',
    });
  });
});
