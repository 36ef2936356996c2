import { readFileSync } from 'node:fs';
import { v7 } from 'uuid';
import { completeSummaries } from '../../src/server/case/service';
import { openDatabase } from '../../src/server/db/client';
import { prepareDatabase } from '../../src/server/db/prepare';
import { caseEntry, repairCase } from '../../src/server/db/schema/case';
import { closePools } from '../../src/server/reckoning/pool';
import {
  count,
  counted,
  entryOf,
  keepDatabase,
  pause,
  place,
  post,
  quantile,
  say,
  serve,
  type Served,
} from './common';

// Many people on many cases.

/** Of so many plain cases one is still open: most of what a workshop ever did is done. */
const OPEN_ONE_IN = 20;

/** Plain cases beside those of the demo. Ids of those that are open. */
async function fill(url: string, count: number): Promise<readonly string[]> {
  await prepareDatabase(url, { demo: true });
  const { db, pool } = openDatabase(url);
  const ids: string[] = [];
  for (let from = 0; from < count; from += 500) {
    const rows = Array.from({ length: Math.min(500, count - from) }, (_, i) => ({
      id: v7(),
      title: `case ${from + i}, loses steps when warm`,
      unitModel: `unit ${(from + i) % 37}`,
      owner: `owner ${(from + i) % 811}`,
    }));
    const isOpen = (i: number): boolean => (from + i) % OPEN_ONE_IN === 0;
    ids.push(...rows.flatMap(({ id }, i) => (isOpen(i) ? [id] : [])));
    await db.insert(repairCase).values(rows);
    await db.insert(caseEntry).values(
      rows.flatMap(({ id }, i) =>
        Array.from({ length: 6 }, (_, k) => {
          const body =
            k === 5 && !isOpen(i)
              ? { kind: 'close', note: '' }
              : { kind: 'symptom', text: `line ${k} of it` };
          return { id: v7(), caseId: id, kind: body.kind, body, madeAt: new Date() };
        }),
      ),
    );
  }
  await completeSummaries(db);
  // As the database does by itself within minutes: ten thousand cases do not come at once.
  await pool.query('vacuum analyze');
  await pool.end();
  await closePools();
  return ids;
}

/** Memory of a process and its children, MB. Source: proc(5), VmRSS. */
function megabytes(pid: number): number {
  try {
    const own = /VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
    const children = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim();
    const below = children === '' ? [] : children.split(' ').map(Number);
    return below.reduce((sum, one) => sum + megabytes(one), Number(own?.[1] ?? 0) / 1024);
  } catch {
    return 0;
  }
}

interface Outcome {
  readonly milliseconds: number[];
  readonly failed: Map<string, number>;
  later: number;
}

/** What one person does again and again: looks at the docket, searches, opens a case, enters a line. */
async function person(
  base: string,
  ids: readonly string[],
  until: number,
  thinks: number,
  into: Outcome,
): Promise<void> {
  const timed = async (work: () => Promise<Response>): Promise<void> => {
    const begun = performance.now();
    try {
      const answer = await work();
      await answer.arrayBuffer();
      into.milliseconds.push(performance.now() - begun);
      if (answer.status === 429) into.later += 1;
      else if (!answer.ok) count(into.failed, String(answer.status));
    } catch (error) {
      count(into.failed, (error as Error).name);
    }
    await pause(thinks * (0.5 + Math.random()));
  };
  await pause(Math.random() * thinks);
  while (Date.now() < until) {
    const id = ids[Math.floor(Math.random() * ids.length)]!;
    await timed(() => fetch(`${base}/api/cases`));
    await timed(() => fetch(`${base}/api/cases/${id}`));
    await timed(() => post(`${base}/api/cases/${id}/entries`, entryOf('still the same')));
    if (Math.random() < 0.3) await timed(() => fetch(`${base}/api/cases?find=warm+owner`));
  }
}
/** So many people for so many seconds; a line of figures. */
async function crowd(
  served: Served,
  ids: readonly string[],
  people: number,
  seconds: number,
  thinks: number,
): Promise<void> {
  const into: Outcome = { milliseconds: [], failed: new Map(), later: 0 };
  const before = megabytes(served.child().pid!);
  let most = before;
  const watch = setInterval(() => (most = Math.max(most, megabytes(served.child().pid!))), 1000);
  const until = Date.now() + seconds * 1000;
  await Promise.all(
    Array.from({ length: people }, () => person(served.base, ids, until, thinks, into)),
  );
  clearInterval(watch);
  const sorted = into.milliseconds.toSorted((a, b) => a - b);
  const [p50, p95, p99] = [0.5, 0.95, 0.99].map((share) => quantile(sorted, share).toFixed(0));
  say(
    `  ${people} people, ${seconds} s: ${sorted.length} answers (${(sorted.length / seconds).toFixed(0)}/s), p50 ${p50} ms, p95 ${p95} ms, p99 ${p99} ms; told to come again ${into.later}; failed: ${counted(into.failed)}; memory ${before.toFixed(0)} MB, at most ${most.toFixed(0)}, then ${megabytes(served.child().pid!).toFixed(0)}`,
  );
}

export async function load(seconds: number): Promise<void> {
  const kept = await keepDatabase(place, 'hard', () => undefined);
  const cases = Number(process.env.CASES ?? 10_000);
  const ids = await fill(kept.url('hanzai'), cases);
  for (const processes of [1, 2]) {
    say(`${cases} cases, ${processes} ${processes === 1 ? 'process' : 'processes'}`);
    const served = await serve(kept.url('hanzai'), processes);
    await crowd(served, ids, 10, 10, 1000);
    await crowd(served, ids, 50, seconds, 1000);
    await crowd(served, ids, 200, 15, 200);
    await served.stop();
  }
  await kept.stop();
}

export async function soak(seconds: number): Promise<void> {
  const kept = await keepDatabase(place, 'hard', () => undefined);
  const ids = await fill(kept.url('hanzai'), 500);
  const served = await serve(kept.url('hanzai'), 1);
  say('one process, 12 people');
  for (let spent = 0; spent < seconds; spent += 120)
    await crowd(served, ids, 12, Math.min(120, seconds - spent), 250);
  await served.stop();
  await kept.stop();
}
