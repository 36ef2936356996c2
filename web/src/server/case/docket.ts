import { urgencyOf } from '@hanzai/core/bench';
import { differenceInCalendarDays } from 'date-fns/differenceInCalendarDays';
import { format } from 'date-fns/format';
import { parseISO } from 'date-fns/parseISO';
import { desc, eq, sql, type SQL } from 'drizzle-orm';
import { CaseSummary } from '../../case/summary';
import type { DocketLine, DocketPage, RunningTimer } from '../../docket/docket-line';
import { searchTerms } from '../../docket/search';
import type { Database } from '../db/client';
import { caseSummary, repairCase } from '../db/schema/case';
import { logger } from '../logger';

/** Lines of one page, and the most that are asked for at once. */
export const PAGE = 60;
export const MOST_LINES = 500;
/** Timers shown above the docket. */
const TIMERS = 6;
const DAY_MILLISECONDS = 86_400_000;
const DAY_MINUTES = 360;

export interface DocketRequest {
  readonly find?: string;
  readonly from?: number;
  readonly most?: number;
}

/** It waits for something that is not here yet. */
const waits = sql`${repairCase.waitsFor} <> '' and ${repairCase.arrived} = ''`;

const state = sql<DocketLine['state']>`case
  when coalesce(${caseSummary.closed}, false) then 'closed'
  when ${waits} then 'waiting'
  else 'open' end`;

/** A timer of the case has run out. */
const timerDue = (now: Date): SQL =>
  sql`(coalesce(${caseSummary.daylightReached}, false) or coalesce(${caseSummary.timerDueAt} <= ${now.toISOString()}::timestamptz, false))`;

/** A case that was handed back, and the day has come on which somebody asks how it runs. */
const followUpDue = (today: string): SQL =>
  sql`(coalesce(${caseSummary.closed}, false) and coalesce(${caseSummary.followUpOn} <= ${today}, false))`;

/**
 * What the docket has to look at, in the words of the index that finds it: cases that are not done.
 * One without a summary is not in it.
 */
const toDo = (today: string): SQL =>
  sql`(not ${caseSummary.closed} or ${caseSummary.followUpOn} <= ${today})`;

/**
 * The score of `urgencyOf` in the database's words: the order of ten thousand cases is not worked
 * out by fetching them. The integration tests hold the two against each other.
 * Of cases that are done nothing is scored: they come after all others, the latest first.
 */
function score(now: Date): SQL<number> {
  const today = format(now, 'yyyy-MM-dd');
  const age = sql`extract(epoch from ${now.toISOString()}::timestamptz - ${repairCase.openedAt}) / 86400.0`;
  const slack = sql`(${repairCase.promisedOn} - ${today}::date) - coalesce(${caseSummary.minutesToGo}, 0) / ${sql.raw(String(DAY_MINUTES))}.0`;
  const base = sql`case when ${waits} then -100 else 0 end`;
  return sql<number>`case
    when ${followUpDue(today)} then 60
    when ${timerDue(now)} then 150
    when ${repairCase.promisedOn} is not null
      then ${base} + 100 - greatest(-60, least(90, 3 * (${slack})))
    when coalesce(${caseSummary.paused}, false) then ${base} + 50 + least(40, ${age}) / 10
    else ${base} + least(40, ${age}) end`;
}

/** What a search looks at. */
const searched = sql`lower(concat_ws(' ', ${repairCase.number}, ${repairCase.title},
  ${repairCase.unitModel}, ${repairCase.serial}, ${repairCase.owner}, ${repairCase.waitsFor},
  ${state}, case when ${repairCase.batch} <> '' then 'batch: ' || ${repairCase.batch} end,
  ${caseSummary.nextAction}))`;

/** A page of the docket, the most urgent first. now: of the workshop's own clock and time zone. */
export async function docketPage(
  db: Database,
  { find = '', from = 0, most = PAGE }: DocketRequest = {},
  now = new Date(),
): Promise<DocketPage> {
  const terms = searchTerms(find).map((term) => `%${term.replace(/[\\%_]/g, '\\$&')}%`);
  // All terms in one look at a line.
  const found =
    terms.length > 0 ? sql`${searched} like all(${sql.param(terms)}::text[])` : undefined;
  const limit = Math.min(most, MOST_LINES);
  const done = sql`(coalesce(${caseSummary.closed}, false) and not ${followUpDue(format(now, 'yyyy-MM-dd'))})`;
  const [total, timers, page] = await Promise.all([
    db.$count(repairCase),
    runningTimers(db, now),
    found ? searchPage(db, found, done, now, limit, from) : plainPage(db, done, now, limit, from),
  ]);
  return {
    lines: page.rows.map(({ row, state: own, summary }) => lineOf(row, own, summary, now)),
    found: page.found ?? total,
    total,
    timers,
    now: now.toISOString(),
  };
}

const joined = eq(caseSummary.caseId, repairCase.id);

interface Page {
  readonly rows: readonly {
    readonly row: typeof repairCase.$inferSelect;
    readonly state: DocketLine['state'];
    readonly summary: unknown;
  }[];
  /** Cases that a search finds; left out where none is searched for. */
  readonly found?: number;
}

/** A page of all cases: those that are not done by their index, then the others. */
async function plainPage(
  db: Database,
  done: SQL,
  now: Date,
  limit: number,
  from: number,
): Promise<Page> {
  const today = format(now, 'yyyy-MM-dd');
  const [total, summaries, known] = await Promise.all([
    db.$count(repairCase),
    db.$count(caseSummary),
    db.$count(caseSummary, toDo(today)),
  ]);
  // Where each has its summary, those that are not done are found without looking at the others.
  const missing = total - summaries;
  const isOpen = missing === 0 ? toDo(today) : sql`not ${done}`;
  const rows = await rowsOf(db, isOpen, [desc(score(now))], limit, from);
  if (rows.length === limit) return { rows };
  const passed = Math.max(0, from - known - missing);
  const rest = limit - rows.length;
  return {
    rows: [...rows, ...(await rowsOf(db, done, [desc(repairCase.openedAt)], rest, passed))],
  };
}

/** A page of what a search finds. Every case is looked at for it, and but once. */
async function searchPage(
  db: Database,
  which: SQL,
  done: SQL,
  now: Date,
  limit: number,
  from: number,
): Promise<Page> {
  const ranks = [
    done,
    sql`case when not ${done} then ${score(now)} end desc nulls last`,
    sql`case when ${done} then ${repairCase.openedAt} end desc`,
  ];
  const rows = await rowsOf(db, which, ranks, limit, from, true);
  // Beyond the last one there is no row that says how many there are.
  const [first] = from === 0 || rows.length > 0 ? rows : await rowsOf(db, which, ranks, 1, 0, true);
  return { rows, found: first?.found ?? 0 };
}

/**
 * Cases by their rank: what a line shows is fetched for those of this page alone. isCounted: how many there
 * are in all stands with each.
 */
async function rowsOf(
  db: Database,
  which: SQL,
  ranks: readonly SQL[],
  limit: number,
  offset: number,
  isCounted = false,
) {
  const order = [...ranks, desc(repairCase.number)];
  const place = sql<number>`row_number() over (order by ${sql.join(order, sql`, `)})`;
  const ranked = db
    .select({
      id: repairCase.id,
      place: place.as('place'),
      found: (isCounted ? sql<number>`(count(*) over ())::int` : sql<number>`0`).as('found'),
    })
    .from(repairCase)
    .leftJoin(caseSummary, joined)
    .where(which)
    .orderBy(...order)
    .limit(limit)
    .offset(offset)
    .as('ranked');
  return db
    .select({ row: repairCase, state, summary: caseSummary.content, found: ranked.found })
    .from(ranked)
    .innerJoin(repairCase, eq(repairCase.id, ranked.id))
    .leftJoin(caseSummary, joined)
    .orderBy(ranked.place);
}

/** A case is shown also where what the docket knows of it cannot be read. */
const NO_SUMMARY: CaseSummary = {
  closed: false,
  lastEntryAt: null,
  minutes: 0,
  pausedAt: null,
  timers: [],
  pads: {},
  nextAction: 'open it: the docket does not know where it stands',
  nextStage: 'take-in',
  minutesToGo: 0,
  needs: [],
  lesson: null,
  figures: null,
  followUpOn: null,
};

function lineOf(
  row: typeof repairCase.$inferSelect,
  own: DocketLine['state'],
  content: unknown,
  now: Date,
): DocketLine {
  const read = CaseSummary.safeParse(content);
  if (!read.success)
    logger.warn({ case: row.number }, 'a summary is missing, or of another version');
  const { pads, nextAction, nextStage, minutes, pausedAt, timers, minutesToGo, followUpOn } =
    read.data ?? NO_SUMMARY;
  const { number, title, owner, batch, promisedOn, waitsFor, waitsKind, arrived, openedAt } = row;
  const promisedInDays = promisedOn
    ? differenceInCalendarDays(parseISO(promisedOn), now)
    : undefined;
  const { reason } = urgencyOf({
    state: own,
    promisedInDays,
    ageDays: (now.getTime() - openedAt.getTime()) / DAY_MILLISECONDS,
    timerDue: own !== 'closed' && timers.some((timer) => isDue(timer, now)),
    paused: pausedAt !== null,
    minutesToGo,
    followUpDue: own === 'closed' && followUpOn !== null && followUpOn <= format(now, 'yyyy-MM-dd'),
  });
  return {
    number,
    title,
    owner,
    batch,
    promisedOn,
    waitsFor,
    waitsKind,
    arrived,
    openedAt: openedAt.toISOString(),
    state: own,
    late: own !== 'closed' && promisedInDays !== undefined && promisedInDays < 0,
    reason,
    pads,
    nextAction,
    nextStage,
    minutes,
    pausedAt,
  };
}

const isDue = ({ endsAt, daylightReached }: CaseSummary['timers'][number], now: Date): boolean =>
  endsAt === null ? daylightReached : Date.parse(endsAt) <= now.getTime();

/** What runs by itself, in cases that are open; what is due first. */
async function runningTimers(db: Database, now: Date): Promise<RunningTimer[]> {
  const rows = await db
    .select({ number: repairCase.number, summary: caseSummary.content })
    .from(caseSummary)
    .innerJoin(repairCase, eq(repairCase.id, caseSummary.caseId))
    .where(sql`${caseSummary.hasTimers} and not ${caseSummary.closed}`)
    .orderBy(desc(timerDue(now)), caseSummary.timerDueAt)
    .limit(TIMERS);
  const timers = rows.flatMap(({ number, summary }) => {
    const read = CaseSummary.safeParse(summary);
    return (read.data?.timers ?? []).map((timer) => ({
      ...timer,
      number,
      due: isDue(timer, now),
    }));
  });
  return timers.sort((a, b) => Number(b.due) - Number(a.due)).slice(0, TIMERS);
}
