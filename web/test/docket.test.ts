import { urgencyOf } from '@hanzai/core/bench';
import { differenceInCalendarDays } from 'date-fns/differenceInCalendarDays';
import { eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { NewCaseRequest } from '../src/case/case-card';
import { type CaseSummary } from '../src/case/summary';
import type { EntryBody } from '../src/case/entry';
import { docketPage } from '../src/server/case/docket';
import {
  addEntry,
  caseView,
  completeSummaries,
  correctCase,
  openCase,
} from '../src/server/case/service';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { caseSummary, repairCase } from '../src/server/db/schema/case';
import { importBoard } from '../src/server/board/service';
import { closePools } from '../src/server/reckoning/pool';

// The docket is put together in the database: in the order of `urgencyOf`, whatever the cases are.

const base = new URL(process.env.DATABASE_URL!);
const url = Object.assign(new URL(base), { pathname: `/hanzai_docket_${process.pid}` }).href;
const { db, pool } = openDatabase(url);
const DAY = 86_400_000;
const NOW = new Date(2026, 10, 27, 15, 30);

beforeAll(() => prepareDatabase(url));
afterAll(() => Promise.all([pool.end(), closePools()]));

/** Numbers that are the same in every run. */
function seeded(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
}

const summary = (more: Partial<CaseSummary>): CaseSummary => ({
  closed: false,
  lastEntryAt: null,
  minutes: 10,
  pausedAt: null,
  timers: [],
  lesson: null,
  figures: null,
  followUpOn: null,
  needs: [],
  pads: {},
  nextAction: 'measure on',
  nextStage: 'trace',
  minutesToGo: 0,
  ...more,
});

describe('the order of the docket', () => {
  it('is that of urgencyOf, for cases of every sort', async () => {
    const random = seeded(20261127);
    const made = Array.from({ length: 400 }, (_, i) => {
      const ends =
        random() < 0.2 ? new Date(NOW.getTime() + (random() - 0.5) * 2 * DAY) : undefined;
      const daylightReached = random() < 0.05;
      const timers = [
        ...(ends ? [{ endsAt: ends.toISOString(), daylightReached: false }] : []),
        ...(daylightReached ? [{ endsAt: null, daylightReached }] : []),
      ].map((timer) => ({ title: 't', what: 'soak', hours: 1, daylightHours: 0, ...timer }));
      const days = Math.floor(random() * 40) - 10;
      const promised = new Date(NOW.getFullYear(), NOW.getMonth(), NOW.getDate() + days);
      return {
        id: v7(),
        title: `case ${i}`,
        promisedOn:
          random() < 0.6
            ? [promised.getFullYear(), promised.getMonth() + 1, promised.getDate()]
                .map((n) => String(n).padStart(2, '0'))
                .join('-')
            : null,
        promisedInDays: days,
        waitsFor: random() < 0.3 ? 'a belt' : '',
        arrived: random() < 0.3 ? 'belt, bin D1' : '',
        openedAt: new Date(NOW.getTime() - random() * 60 * DAY),
        ends,
        summary: summary({
          closed: random() < 0.2,
          followUpOn: random() < 0.3 ? ['2026-11-27', '2026-11-28'][i % 2]! : null,
          pausedAt: random() < 0.3 ? 'here' : null,
          minutesToGo: Math.floor(random() * 500),
          timers,
        }),
      };
    });
    await db.insert(repairCase).values(
      made.map(({ id, title, promisedOn, waitsFor, arrived, openedAt }) => ({
        id,
        title,
        unitModel: 'unit',
        promisedOn,
        waitsFor,
        arrived,
        openedAt,
      })),
    );
    await db.insert(caseSummary).values(
      made.map(({ id, ends, summary: content }) => ({
        caseId: id,
        closed: content.closed,
        paused: content.pausedAt !== null,
        minutesToGo: content.minutesToGo,
        timerDueAt: ends ?? null,
        daylightReached: content.timers.some(({ daylightReached }) => daylightReached),
        hasTimers: content.timers.length > 0,
        nextAction: content.nextAction,
        content,
      })),
    );
    const scores = new Map(
      made.map((one) => {
        const { title, promisedOn, promisedInDays, openedAt, ends, summary: own } = one;
        const due =
          own.timers.some(({ daylightReached }) => daylightReached) ||
          (ends !== undefined && ends <= NOW);
        const state = own.closed ? 'closed' : one.waitsFor && !one.arrived ? 'waiting' : 'open';
        const urgency = urgencyOf({
          state,
          promisedInDays: promisedOn ? promisedInDays : undefined,
          ageDays: (NOW.getTime() - openedAt.getTime()) / DAY,
          timerDue: state !== 'closed' && due,
          paused: own.pausedAt !== null,
          minutesToGo: own.minutesToGo,
          followUpDue: own.closed && own.followUpOn !== null && own.followUpOn <= '2026-11-27',
        });
        return [title, urgency];
      }),
    );
    const { lines, total } = await docketPage(db, { most: 500 }, NOW);
    expect([lines.length, total]).toEqual([400, 400]);
    for (let i = 1; i < lines.length; i += 1)
      expect(
        scores.get(lines[i - 1]!.title)!.score,
        `${lines[i - 1]!.title} before ${lines[i]!.title}`,
      ).toBeGreaterThanOrEqual(scores.get(lines[i]!.title)!.score - 1e-6);
    for (const { title, reason } of lines) expect(reason).toBe(scores.get(title)!.reason);
  });

  it('comes in pages without a gap and without a line twice', async () => {
    const pages = await Promise.all(
      [0, 150, 300].map((from) => docketPage(db, { from, most: 150 }, NOW)),
    );
    const titles = pages.flatMap(({ lines }) => lines.map(({ title }) => title));
    expect(new Set(titles).size).toBe(400);
  });

  it('a search has the same order, in pages without a gap, and counts them on each', async () => {
    const all = await docketPage(db, { most: 500 }, NOW);
    // Titles with a 7 in their number, of every state.
    const wanted = all.lines.map(({ title }) => title).filter((title) => title.includes('7'));
    const titles: string[] = [];
    for (let from = 0; ; from += 20) {
      const page = await docketPage(db, { find: 'case 7', from, most: 20 }, NOW);
      // A number of a case, a day or a place may have a 7 as well; beyond the end it is counted too.
      expect(page.found).toBeGreaterThanOrEqual(wanted.length);
      if (page.lines.length === 0) break;
      titles.push(...page.lines.map(({ title }) => title));
    }
    expect(titles.filter((title) => title.includes('7'))).toEqual(wanted);
    expect(new Set(titles).size).toBe(titles.length);
    expect((await docketPage(db, { find: 'case 7', from: 5000 }, NOW)).found).toBe(titles.length);
    expect(await docketPage(db, { find: 'no such words' }, NOW)).toMatchObject({
      found: 0,
      lines: [],
    });
  });

  it('finds words anywhere on the card, in any order, and takes them as they are', async () => {
    const find = async (words: string) => (await docketPage(db, { find: words }, NOW)).found;
    // A number of a case is found like its words.
    expect(await find('"case 399"')).toBe(1);
    expect(await find('399 CASE unit')).toBe(2);
    expect(await find('"case 39"')).toBe(11);
    expect(await find('waiting belt')).toBeGreaterThan(20);
    for (const odd of ['%', '_', "'", '\\', "'; drop table board; --", '🙂', '"'])
      expect(await find(odd), odd).toBe(odd === '"' ? 400 : 0);
  });

  it('counts days by the calendar of the workshop, not by hours of another time zone', async () => {
    const late = new Date(2026, 10, 27, 23, 50);
    const { lines } = await docketPage(db, { most: 500 }, late);
    for (const { promisedOn, reason, state } of lines) {
      if (!promisedOn || state === 'closed') continue;
      const days = differenceInCalendarDays(new Date(`${promisedOn}T00:00`), late);
      if (days === 0 && !reason.includes('timer')) expect(reason).toContain('due today');
    }
  });
});

describe('what the docket shows of a case', () => {
  const open = async () => {
    const opened = await openCase(
      db,
      NewCaseRequest.parse({ title: `own ${v7()}`, unitModel: 'loom lamp' }),
    );
    if (!opened.ok) throw new Error(opened.detail);
    const { id, number } = opened.value;
    const add = (body: EntryBody) =>
      addEntry(db, id, { id: v7(), madeAt: new Date().toISOString(), body });
    const line = async () => (await docketPage(db, { find: String(number) })).lines[0]!;
    return { id, add, line };
  };

  it('is renewed with every entry, and by another sheet', async () => {
    const { id, add, line } = await open();
    expect((await line()).nextAction).toBe('write down what the unit does');
    await add({ kind: 'symptom', text: 'dark' });
    expect((await line()).nextAction).toBe('choose or import its board sheet');
    const board = await importBoard(
      db,
      'own.cir',
      'own\nV1 VIN 0 9\nR1 VIN VM 1\nR2 VM 0 1k\n.end',
    );
    if (!board.ok) throw new Error('deck');
    expect(await correctCase(db, id, { version: 1, boardId: board.id })).toMatchObject({
      ok: true,
    });
    expect((await line()).nextAction).toBe('take the first reading');
    await add({ kind: 'pause', where: 'lid off' });
    expect(await line()).toMatchObject({ pausedAt: 'lid off', state: 'open' });
  });

  it('can be made anew from the journal, and a case whose line is lost or spoilt is still shown', async () => {
    const { id, add, line } = await open();
    await add({ kind: 'symptom', text: 'dark' });
    const before = await line();
    await db.delete(caseSummary).where(eq(caseSummary.caseId, id));
    expect(await line()).toMatchObject({ title: before.title, state: 'open' });
    expect(await completeSummaries(db)).toBe(1);
    expect(await line()).toEqual(before);
    await db
      .update(caseSummary)
      .set({ content: { other: 1 } })
      .where(eq(caseSummary.caseId, id));
    expect((await line()).nextAction).toMatch(/open it/);
  });

  it('says how many repairs came before each entry', async () => {
    const { id, add } = await open();
    const board = await importBoard(
      db,
      'own.cir',
      'own\nV1 VIN 0 9\nR1 VIN VM 1\nR2 VM 0 1k\n.end',
    );
    if (!board.ok) throw new Error('deck');
    await correctCase(db, id, { version: 1, boardId: board.id });
    for (const body of [
      { kind: 'symptom', text: 'dark' },
      { kind: 'removed', ref: 'R2', value: '1k', note: '' },
      { kind: 'fitted', ref: 'R2', value: '1k', polarityChecked: false, note: '' },
      { kind: 'symptom', text: 'bright' },
    ] as EntryBody[])
      expect(await add(body)).toMatchObject({ ok: true });
    const { rows } = await pool.query(
      'select kind, epoch, made_by from case_entry where case_id = $1 order by sequence',
      [id],
    );
    expect(rows.map(({ epoch }) => Number(epoch))).toEqual([0, 0, 0, 1]);
    expect(new Set(rows.map(({ made_by }) => String(made_by)))).toEqual(new Set(['bench']));
    expect((await caseView(db, id))!.entries).toHaveLength(4);
  });
});

describe('files of strangers', () => {
  const nested = (depth: number, times: number): string => {
    const lines = ['bomb'];
    for (let i = 0; i < depth; i += 1)
      lines.push(
        `.subckt s${i} a b`,
        ...Array.from({ length: times }, (_, k) =>
          i + 1 < depth ? `X${k} a b s${i + 1}` : `R${k} a b 1k`,
        ),
        '.ends',
      );
    return [...lines, 'X1 A 0 s0', '.end'].join('\n');
  };

  it.each([
    ['nineteen deep and ten wide', nested(19, 10)],
    ['empty ones', nested(19, 10).replace(/^R\d+ .*$/gm, '')],
    [
      'a sheet of 20,000 parts',
      ['big', ...Array.from({ length: 20_000 }, (_, i) => `R${i} A${i} 0 1k`), '.end'].join('\n'),
    ],
  ])(
    '%s are refused within seconds, with words, and others are served meanwhile',
    async (_, text) => {
      const started = performance.now();
      let turns = 0;
      const ticking = setInterval(() => (turns += 1), 5);
      const result = await importBoard(db, 'bomb.cir', text);
      clearInterval(ticking);
      expect(result).toMatchObject({ ok: false });
      expect(!result.ok && 'issues' in result && result.issues[0]!.expected).toMatch(
        /sheet|at most/,
      );
      expect(performance.now() - started).toBeLessThan(25_000);
      // The server's own thread went on all the while.
      expect(turns).toBeGreaterThan((performance.now() - started) / 100);
    },
  );
});
