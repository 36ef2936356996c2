import { eq, sql } from 'drizzle-orm';
import pg from 'pg';
import { v7 } from 'uuid';
import { afterAll, beforeAll, beforeEach, describe, expect, it, vi } from 'vitest';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { caseSummary, repairCase } from '../src/server/db/schema/case';
import { boardExposure } from '../src/server/db/schema/learning';
import { patternPack } from '../src/server/db/schema/workshop';
import { LEARNING } from '../src/server/errands/queue';
import { startErrands, takeUpLost, type Worker } from '../src/server/errands/work';
import { isUpToDate, keptPatterns, learnAnew } from '../src/server/learn/learned';
import { learnedOn, lessonsBefore, patternsOf } from '../src/server/learn/lessons';
import { told } from '../src/server/logger';
import { setLearning } from '../src/server/learn/setting';
import { closePools } from '../src/server/reckoning/pool';
import { ask, at } from './databases';

// What was learned is worked out once after something changed, by one process, whatever dies meanwhile;
// and is never older than it says.

const own = `learning_${process.pid}`;
const role = `learning_app_${process.pid}`;
const asRole = Object.assign(new URL(at(own)), { username: role, password: 'x' }).href;
// Two processes as far as the database knows.
type Opened = ReturnType<typeof openDatabase>;
let [one, other]: [Opened, Opened] = [undefined as never, undefined as never];

beforeAll(async () => {
  await ask(at('postgres'), `drop database if exists "${own}"`);
  await prepareDatabase(at(own), { demo: true, applicationUrl: asRole });
  [one, other] = [openDatabase(asRole), openDatabase(asRole)];
  // Whoever keeps what was learned is counted.
  await ask(
    at(own),
    `create table runs (at timestamptz default now());
     create function counted() returns trigger language plpgsql security definer as
       $$ begin insert into runs default values; return new; end $$;
     create trigger counted after insert or update on learned for each row execute function counted()`,
  );
  await learnAnew(one.db);
});
beforeEach(() => ask(at(own), 'truncate runs'));
afterAll(async () => {
  await Promise.all([one.pool.end(), other.pool.end(), closePools()]);
  await ask(at(own), `drop owned by "${role}"`);
  await ask(at('postgres'), `drop database "${own}"`);
  await ask(at('postgres'), `drop role "${role}"`);
});

const runs = async (): Promise<number> =>
  Number((await ask(at(own), 'select count(*) as n from runs')).rows[0].n);
/** Another process that works on it, as far as the lock tells; ends with what it gives. */
async function atWork(): Promise<() => Promise<void>> {
  const client = new pg.Client({ connectionString: asRole });
  await client.connect();
  await client.query(
    `select pg_advisory_lock(hashtextextended('learning ' || workshop_here(), 0))`,
  );
  return () => client.end();
}
/** Title of the newest closed case, by which a change is made that teaches nothing else. */
async function newest() {
  const [row] = await one.db
    .select({ id: repairCase.id, title: repairCase.title })
    .from(repairCase)
    .innerJoin(caseSummary, eq(caseSummary.caseId, repairCase.id))
    .where(eq(caseSummary.closed, true))
    .orderBy(sql`${repairCase.number} desc`)
    .limit(1);
  return row!;
}
async function rename(): Promise<string> {
  const title = `renamed ${v7()}`;
  await one.db
    .update(repairCase)
    .set({ title })
    .where(eq(repairCase.id, (await newest()).id));
  return title;
}

describe('what was learned', () => {
  it('is worked out once, however many ask in however many processes', async () => {
    await rename();
    const asked = [one, other].flatMap(({ db }) => [patternsOf(db), patternsOf(db), learnAnew(db)]);
    await Promise.all(asked);
    expect(await isUpToDate(other.db)).toBe(true);
    expect(await runs()).toBe(1);
    const [first, second] = [await patternsOf(one.db), await patternsOf(other.db)];
    expect(second).toEqual(first);
    expect(first.counting).toBeGreaterThan(30);
    expect(await runs()).toBe(1);
  });

  it('goes by everything that teaches, and by nothing else', async () => {
    const { id } = await newest();
    const ofCase = (set: Partial<typeof repairCase.$inferInsert>) =>
      one.db.update(repairCase).set(set).where(eq(repairCase.id, id));
    const content = (path: string, value: unknown) =>
      one.db
        .update(caseSummary)
        .set({
          content: sql`jsonb_set(${caseSummary.content}, ${path}, ${JSON.stringify(value)}::jsonb)`,
        })
        .where(eq(caseSummary.caseId, id));
    const workshop = v7();
    const pack = (trust: number, archivedAt: Date | null, hash: string) => {
      const row = { trust, archivedAt, content: { hash } };
      return one.db
        .insert(patternPack)
        .values({ workshop, ...row })
        .onConflictDoUpdate({ target: patternPack.workshop, set: row });
    };
    const sheet = (await ask(at(own), 'select id from board limit 1')).rows[0].id as string;
    const teaching: readonly (readonly [string, () => Promise<unknown>])[] = [
      ['a title', () => ofCase({ title: 'x' })],
      ['a doubt', () => ofCase({ teaches: false })],
      ['a year', () => ofCase({ madeIn: 1990 })],
      ['hours', () => ofCase({ madeIn: null, hoursRun: 36 })],
      ['another sheet', () => ofCase({ boardId: sheet })],
      ['a lesson', () => content('{lesson,grade}', 'unproven')],
      ['an entry after it', () => content('{lastEntryAt}', '2026-11-02T00:00:00.000Z')],
      ['bench minutes', () => content('{figures,minutes,repair}', 77)],
      [
        'reopening',
        () => one.db.update(caseSummary).set({ closed: false }).where(eq(caseSummary.caseId, id)),
      ],
      [
        'closing',
        () => one.db.update(caseSummary).set({ closed: true }).where(eq(caseSummary.caseId, id)),
      ],
      [
        'beginning anew',
        () => setLearning(one.db, { on: true, since: '2026-01-01T00:00:00.000Z' }),
      ],
      ['going back on that', () => setLearning(one.db, { on: true, since: null })],
      ['a pack', () => pack(0.5, null, 'a')],
      ['how far it is believed', () => pack(0.6, null, 'a')],
      ['a later one', () => pack(0.6, null, 'b')],
      ['one set aside', () => pack(0.6, new Date(), 'b')],
    ];
    for (const [what, change] of teaching) {
      await learnAnew(one.db);
      expect(await isUpToDate(one.db), what).toBe(true);
      await change();
      expect(await isUpToDate(one.db), what).toBe(false);
    }
    await learnAnew(one.db);
    await ofCase({ owner: 'somebody else', complaint: 'another', waitsFor: 'a part' });
    await content('{nextAction}', 'ring up');
    expect(await isUpToDate(one.db)).toBe(true);
  });

  it('is shown as it was while another process is at it, and says so', async () => {
    const before = await patternsOf(one.db);
    const end = await atWork();
    const title = await rename();
    const [{ id: sheet }] = (await ask(at(own), 'select id from board limit 1')).rows as [
      { id: string },
    ];
    const meanwhile = await patternsOf(one.db);
    expect(meanwhile).toEqual({ ...before, behind: true });
    expect(await learnedOn(one.db, sheet)).toMatchObject({ behind: true, cases: before.counting });
    expect((await lessonsBefore(one.db, 2_147_483_647))[0]!.title).not.toBe(title);
    await end();
    // Whoever waited behind that process goes on as soon as it is gone.
    await vi.waitFor(async () => expect(await isUpToDate(one.db)).toBe(true), 20_000);
    const [newestLesson] = await lessonsBefore(one.db, 2_147_483_647);
    expect(newestLesson!.title).toBe(title);
    expect((await patternsOf(one.db)).behind).toBe(false);
    expect(await runs()).toBe(1);
  });

  it('is the table alone, and called that, where it was never worked out', async () => {
    await ask(at(own), 'delete from learned');
    const end = await atWork();
    const answer = await patternsOf(one.db);
    expect(answer).toMatchObject({
      behind: true,
      workedOutAt: null,
      counting: 0,
      rates: [],
      ends: [],
    });
    for (const { suspects, cases } of answer.patterns) {
      expect(cases).toEqual([]);
      for (const { before, share } of suspects) expect(share).toBeCloseTo(before, 12);
    }
    const [{ id: sheet }] = (await ask(at(own), 'select id from board limit 1')).rows as [
      { id: string },
    ];
    expect(await learnedOn(one.db, sheet)).toEqual({
      factors: {},
      ends: [],
      cases: 0,
      behind: true,
    });
    await end();
    await vi.waitFor(async () => expect(await isUpToDate(one.db)).toBe(true), 20_000);
  });

  it('is not read where another version kept it: its form may be another', async () => {
    await ask(at(own), `update learned set made_of = 'an older one x', patterns = '{"a": 1}'`);
    const end = await atWork();
    expect(await patternsOf(one.db)).toMatchObject({ behind: true, workedOutAt: null, rates: [] });
    expect(await lessonsBefore(one.db, 2_147_483_647)).toEqual([]);
    await end();
    await vi.waitFor(async () => expect(await isUpToDate(one.db)).toBe(true), 20_000);
    expect((await lessonsBefore(one.db, 2_147_483_647)).length).toBeGreaterThan(30);
  });

  it('takes no connection from others, however many wait for it', async () => {
    const end = await atWork();
    await rename();
    const most = 2 * one.pool.options.max;
    const asked = Array.from({ length: most }, () => patternsOf(one.db));
    // While all of them wait somebody else gets his answer.
    const begun = performance.now();
    await one.db.execute(sql`select 1`);
    expect(performance.now() - begun).toBeLessThan(1500);
    for (const { behind } of await Promise.all(asked)) expect(behind).toBe(true);
    await end();
    await vi.waitFor(async () => expect(await isUpToDate(one.db)).toBe(true), 20_000);
  });

  it('leaves nothing half done where the run fails, and takes nothing down', async () => {
    await rename();
    const { patterns } = await keptPatterns(one.db);
    await ask(
      at(own),
      `create function full_disk() returns trigger language plpgsql as
         $$ begin raise exception 'no space left on device' using errcode = '53100'; end $$;
       create trigger full_disk before insert or update on learned for each row execute function full_disk()`,
    );
    const error = await learnAnew(one.db).catch((thrown: unknown) => thrown);
    // The database's own message has every case that was learned of in it.
    expect((error as Error).message).toContain('PD3-POW');
    expect(told(error)).toMatchObject({ why: 'a query failed', code: '53100' });
    expect(JSON.stringify(told(error)).length).toBeLessThan(200);
    // The page is there all the same.
    expect(await patternsOf(one.db)).toMatchObject({ behind: true, counting: patterns.counting });
    await ask(at(own), 'drop trigger full_disk on learned; drop function full_disk');
    expect((await patternsOf(one.db)).behind).toBe(false);
  });

  it('works a sheet out once for all processes, and anew for another version', async () => {
    const kept = () => one.db.select().from(boardExposure);
    const before = await kept();
    expect(before.length).toBeGreaterThan(3);
    await one.db.update(boardExposure).set({ madeBy: 'an older one' });
    vi.resetModules();
    const { exposedOn } = await import('../src/server/learn/exposure');
    const [{ boardId, content }] = before as [(typeof before)[0]];
    const { kinds, ...exposed } = await exposedOn(one.db, boardId);
    expect({ ...exposed, kinds: [...kinds] }).toEqual(content);
    expect((await kept()).find((row) => row.boardId === boardId)!.madeBy).not.toBe('an older one');
    await (await import('../src/server/reckoning/pool')).closePools();
  });

  it('has every closed case, a page at a time, none twice and none left out', async () => {
    await one.db.execute(sql`
      insert into repair_case (id, title, unit_model, board_id)
        select gen_random_uuid(), 'many', unit_model, board_id from repair_case, generate_series(1, 7)`);
    await one.db.execute(sql`
      insert into case_summary (case_id, closed, paused, minutes_to_go, daylight_reached, has_timers, next_action, content)
        select c.id, true, false, 0, false, false, '', s.content from repair_case c,
          lateral (select content from case_summary where closed order by case_id limit 1) s where c.title = 'many'`);
    await learnAnew(one.db);
    const numbers: number[] = [];
    for (let before = 2_147_483_647; ;) {
      const page = await lessonsBefore(one.db, before);
      if (page.length === 0) break;
      numbers.push(...page.map(({ number }) => number));
      before = numbers.at(-1)!;
    }
    expect(numbers).toEqual([...new Set(numbers)].sort((a, b) => b - a));
    expect(numbers).toHaveLength((await patternsOf(one.db)).closed);
    expect(numbers.length).toBeGreaterThan(250);
  });
});

describe('in the queue', () => {
  let worker: Worker;
  beforeAll(async () => {
    worker = await startErrands(one.db, one.pool, asRole);
    await vi.waitFor(async () => expect(await isUpToDate(one.db)).toBe(true), 20_000);
  });
  afterAll(() => worker.stop());

  it('is worked out at once, and what is asked for meanwhile is one more run at most', async () => {
    await rename();
    await Promise.all(Array.from({ length: 12 }, () => worker.learn()));
    await vi.waitFor(async () => expect(await isUpToDate(one.db)).toBe(true), 20_000);
    const { rows } = await ask(
      at(own),
      `select count(*)::int as n from jobs.job where name = '${LEARNING}' and state < 'active'`,
    );
    expect(rows[0].n).toBeLessThanOrEqual(1);
    expect(await runs()).toBe(1);
  });

  it('is taken up again where whoever was at it died, and left alone where he is', async () => {
    await ask(
      at(own),
      `insert into jobs.job (name, state, started_on) values ('${LEARNING}', 'active', now())`,
    );
    const boss = { fail: vi.fn(), send: vi.fn(), getJobById: vi.fn() };
    const end = await atWork();
    await takeUpLost(one.db, boss as never, one.pool, 'jobs');
    expect(boss.fail).not.toHaveBeenCalled();
    await end();
    await takeUpLost(one.db, boss as never, one.pool, 'jobs');
    expect(boss.fail).toHaveBeenCalledWith(LEARNING, expect.any(String), expect.anything());
  });
});
