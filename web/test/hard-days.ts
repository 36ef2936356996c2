// npm run hard-days [load | kill | slow | soak] [SECONDS or ROUNDS]: what a workshop goes through on a
// bad day, with figures. load: fifty people on ten thousand cases, by one process and by two. kill:
// server and database killed at once under four writers. slow: a database that takes two seconds for
// an answer. soak: twenty minutes of twelve people, whether memory grows.
import { spawn, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { connect, createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { v7 } from 'uuid';
import { completeSummaries } from '../src/server/case/service';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase } from '../src/server/db/prepare';
import { caseEntry, repairCase } from '../src/server/db/schema/case';
import { closePools } from '../src/server/reckoning/pool';

const root = fileURLToPath(new URL('../..', import.meta.url)).replace(/\/$/, '');
const script = <T>(name: string): Promise<T> => import(`${root}/scripts/${name}.mjs`) as Promise<T>;
interface Kept {
  url: (name: string) => string;
  stop: () => Promise<void>;
}
const { keepDatabase } = await script<{
  keepDatabase: (root: string, name: string, say: (line: string) => void) => Promise<Kept>;
}>('database');
const { build } = await script<{ build: (root: string) => Promise<void> }>('prepare');

const say = (line: string): void => void process.stdout.write(`${line}\n`);
const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => resolve(port));
    });
  });

interface Served {
  readonly base: string;
  readonly child: () => ChildProcess;
  readonly stop: () => Promise<void>;
}

/** The built application, started again whenever it ends. */
async function serve(url: string, processes: number): Promise<Served> {
  const port = await freePort();
  let stopping = false;
  let child: ChildProcess;
  const begin = (): void => {
    child = spawn(process.execPath, ['server.mjs'], {
      cwd: join(root, 'web'),
      stdio: ['ignore', 'ignore', process.env.SHOW ? 'inherit' : 'ignore'],
      env: {
        ...process.env,
        DATABASE_URL: url,
        HOST: '127.0.0.1',
        PORT: String(port),
        HANZAI_PROCESSES: String(processes),
        ASTRO_NODE_LOGGING: 'disabled',
      },
    });
    child.once('exit', () => !stopping && setTimeout(begin, 300));
  };
  begin();
  const base = `http://127.0.0.1:${port}`;
  while (
    !(await fetch(`${base}/api/health`).then(
      (it) => it.ok,
      () => false,
    ))
  )
    await pause(100);
  return {
    base,
    child: () => child,
    stop: async () => {
      stopping = true;
      const ended = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGTERM');
      await ended;
    },
  };
}

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
  await pool.end();
  await closePools();
  return ids;
}

const entryOf = (text: string) => ({
  id: v7(),
  madeAt: new Date().toISOString(),
  body: { kind: 'symptom', text },
});
const post = (path: string, body: unknown): Promise<Response> =>
  fetch(path, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
    signal: AbortSignal.timeout(20_000),
  });

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
const count = (of: Map<string, number>, what: string): void =>
  void of.set(what, (of.get(what) ?? 0) + 1);

const quantile = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? Number.NaN;

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
  const failed = [...into.failed].map(([what, n]) => `${n} × ${what}`).join(', ') || 'none';
  say(
    `  ${people} people, ${seconds} s: ${sorted.length} answers (${(sorted.length / seconds).toFixed(0)}/s), p50 ${p50} ms, p95 ${p95} ms, p99 ${p99} ms; told to come again ${into.later}; failed: ${failed}; memory ${before.toFixed(0)} MB, at most ${most.toFixed(0)}, then ${megabytes(served.child().pid!).toFixed(0)}`,
  );
}

const place = mkdtempSync(join(tmpdir(), 'hanzai-hard-'));
const isRoot = process.getuid?.() === 0;
const base = isRoot
  ? join('/var/lib', `hanzai-${createHash('sha256').update(place).digest('hex').slice(0, 10)}`)
  : join(place, '.pg');

async function load(kept: Kept, seconds: number): Promise<void> {
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
}

async function soak(kept: Kept, seconds: number): Promise<void> {
  const ids = await fill(kept.url('hanzai'), 500);
  const served = await serve(kept.url('hanzai'), 1);
  say('one process, 12 people');
  for (let spent = 0; spent < seconds; spent += 120)
    await crowd(served, ids, 12, Math.min(120, seconds - spent), 250);
  await served.stop();
}

/** A writer that sends each line until it is confirmed, as the outbox does. */
async function writer(
  at: string,
  who: number,
  confirmed: Set<string>,
  goesOn: () => boolean,
): Promise<number> {
  let lines = 0;
  while (goesOn()) {
    const entry = entryOf(`writer ${who}, line ${lines}`);
    while (
      !(await post(at, entry).then(
        (it) => it.ok,
        () => false,
      ))
    )
      await pause(100);
    confirmed.add(entry.id);
    lines += 1;
  }
  return lines;
}

/** What stands in a case against what was confirmed: lost, twice, out of order. */
async function compare(path: string, confirmed: ReadonlySet<string>, writers: number) {
  const view = (await (await fetch(path)).json()) as {
    entries: { id: string; body: { text: string } }[];
  };
  const ids = view.entries.map(({ id }) => id);
  const here = new Set(ids);
  const lost = [...confirmed].filter((id) => !here.has(id)).length;
  let disordered = 0;
  for (let who = 0; who < writers; who += 1) {
    const own = view.entries.flatMap(({ body }) =>
      body.text.startsWith(`writer ${who},`) ? [Number(body.text.split(' ').at(-1))] : [],
    );
    if (own.some((line, i) => line !== i)) disordered += 1;
  }
  return { stands: ids.length, lost, twice: ids.length - here.size, disordered };
}

async function openOne(at: string): Promise<string> {
  const opened = await post(`${at}/api/cases`, { title: 'killed', unitModel: 'loom lamp' });
  return ((await opened.json()) as { id: string }).id;
}

async function kill(kept: Kept, rounds: number): Promise<void> {
  await prepareDatabase(kept.url('hanzai'));
  const served = await serve(kept.url('hanzai'), 2);
  const id = await openOne(served.base);
  const confirmed = new Set<string>();
  let goesOn = true;
  const at = `${served.base}/api/cases/${id}/entries`;
  const WRITERS = 4;
  const writers = Array.from({ length: WRITERS }, (_, who) =>
    writer(at, who, confirmed, () => goesOn),
  );
  const away: number[] = [];
  for (let round = 0; round < rounds; round += 1) {
    const before = confirmed.size;
    while (confirmed.size < before + 8) await pause(20);
    await pause(Math.random() * 200);
    const main = served.child().pid!;
    const children = readFileSync(`/proc/${main}/task/${main}/children`, 'utf8').trim().split(' ');
    const postmaster = readFileSync(join(base, 'hard', 'data', 'postmaster.pid'), 'utf8');
    const gone = performance.now();
    for (const pid of [...children, main, postmaster.split('\n')[0]])
      try {
        process.kill(Number(pid), 'SIGKILL');
      } catch {
        // It went with the others.
      }
    const since = confirmed.size;
    while (confirmed.size < since + WRITERS + 1) await pause(20);
    away.push(performance.now() - gone);
  }
  goesOn = false;
  await Promise.all(writers);
  const found = await compare(`${served.base}/api/cases/${id}`, confirmed, WRITERS);
  away.sort((a, b) => a - b);
  say(
    `${rounds} times server and database killed at once under ${WRITERS} writers: ${confirmed.size} confirmed, ${found.stands} stand, ${found.lost} lost, ${found.twice} twice, ${found.disordered} writers out of order; away for ${(quantile(away, 0.5) / 1000).toFixed(1)} s, at most ${(away.at(-1)! / 1000).toFixed(1)} s`,
  );
  if (found.lost + found.twice + found.disordered > 0 || found.stands !== confirmed.size)
    process.exitCode = 1;
  await served.stop();
}

/** Stands before the database and passes on what it says so many milliseconds later. */
async function slowly(
  url: string,
  milliseconds: number,
): Promise<{ url: string; end: () => void }> {
  const target = new URL(url);
  const proxy = createServer((client) => {
    const server = connect(Number(target.port), target.hostname);
    client.pipe(server);
    server.on('data', (chunk) =>
      setTimeout(() => client.writable && client.write(chunk), milliseconds),
    );
    for (const [one, two] of [
      [client, server],
      [server, client],
    ] as const) {
      one.on('error', () => two.destroy());
      one.on('close', () => two.destroy());
    }
  });
  await new Promise<void>((resolve) => proxy.listen(0, '127.0.0.1', resolve));
  const { port } = proxy.address() as AddressInfo;
  return {
    url: Object.assign(new URL(url), { host: `127.0.0.1:${port}` }).href,
    end: () => proxy.close(),
  };
}

async function slow(kept: Kept, seconds: number): Promise<void> {
  await prepareDatabase(kept.url('hanzai'));
  const proxy = await slowly(kept.url('hanzai'), 2000);
  const served = await serve(proxy.url, 1);
  const id = await openOne(served.base);
  const confirmed = new Set<string>();
  const until = Date.now() + seconds * 1000;
  const at = `${served.base}/api/cases/${id}/entries`;
  const begun = performance.now();
  await Promise.all([0, 1].map((who) => writer(at, who, confirmed, () => Date.now() < until)));
  const each = ((performance.now() - begun) * 2) / confirmed.size / 1000;
  const found = await compare(`${served.base}/api/cases/${id}`, confirmed, 2);
  say(
    `a database that answers 2 s late: ${confirmed.size} entries confirmed, ${each.toFixed(1)} s each, ${found.stands} stand, ${found.lost} lost, ${found.twice} twice`,
  );
  if (found.lost + found.twice > 0) process.exitCode = 1;
  await served.stop();
  proxy.end();
}

const DAYS: Readonly<
  Record<string, readonly [(kept: Kept, much: number) => Promise<void>, number]>
> = { load: [load, 60], kill: [kill, 50], slow: [slow, 60], soak: [soak, 1200] };
const [wanted = '', much] = process.argv.slice(2);
await build(root);
for (const [name, [day, usual]] of Object.entries(DAYS)) {
  if (wanted !== '' && wanted !== name) continue;
  const kept = await keepDatabase(place, 'hard', () => undefined);
  try {
    await day(kept, Number(much ?? usual));
  } finally {
    await kept.stop();
    rmSync(base, { recursive: true, force: true });
  }
}
rmSync(place, { recursive: true, force: true });
