import { spawn, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { v7 } from 'uuid';

// What every hard day needs: a database and an application of its own, writers, and a comparison of
// what was confirmed with what stands.

export const root = fileURLToPath(new URL('../../..', import.meta.url)).replace(/\/$/, '');
export const script = <T>(name: string): Promise<T> =>
  import(`${root}/scripts/${name}.mjs`) as Promise<T>;
export interface Kept {
  url: (name: string) => string;
  stop: () => Promise<void>;
}
export const { keepDatabase, startDatabase } = await script<{
  keepDatabase: (root: string, name: string, say: (line: string) => void) => Promise<Kept>;
  startDatabase: (root: string, name: string) => Promise<Kept>;
}>('database');
export const { build } = await script<{ build: (root: string) => Promise<void> }>('prepare');

export const say = (line: string): void => void process.stdout.write(`${line}\n`);
export const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

export const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => resolve(port));
    });
  });

export interface Served {
  readonly base: string;
  readonly child: () => ChildProcess;
  readonly stop: () => Promise<void>;
}

/** The built application, started again whenever it ends. */
export async function serve(url: string, processes: number): Promise<Served> {
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

export const entryOf = (text: string) => ({
  id: v7(),
  madeAt: new Date().toISOString(),
  body: { kind: 'symptom', text },
});
export const post = (path: string, body: unknown): Promise<Response> =>
  fetch(path, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
    signal: AbortSignal.timeout(20_000),
  });

export const place = mkdtempSync(join(tmpdir(), 'hanzai-hard-'));
export const isRoot = process.getuid?.() === 0;
export const base = isRoot
  ? join('/var/lib', `hanzai-${createHash('sha256').update(place).digest('hex').slice(0, 10)}`)
  : join(place, '.pg');

export const quantile = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? Number.NaN;

/** One more of what happened. */
export function count(of: Map<string, number>, what: string): false {
  of.set(what, (of.get(what) ?? 0) + 1);
  return false;
}
export const counted = (of: ReadonlyMap<string, number>): string =>
  [...of].map(([what, n]) => `${n} × ${what}`).join(', ') || 'none';

/** A writer that sends each line until it is confirmed, as the outbox does. */
export async function writer(
  at: string,
  who: number,
  confirmed: Set<string>,
  goesOn: () => boolean,
  refused: Map<string, number> = new Map(),
): Promise<number> {
  let lines = 0;
  while (goesOn()) {
    const entry = entryOf(`writer ${who}, line ${lines}`);
    while (
      !(await post(at, entry).then(
        (it) => it.ok || count(refused, String(it.status)),
        (error: Error) => count(refused, error.name),
      ))
    )
      await pause(100);
    confirmed.add(entry.id);
    lines += 1;
  }
  return lines;
}

/** What stands in a case against what was confirmed: lost, twice, out of order. */
export async function compare(path: string, confirmed: ReadonlySet<string>, writers: number) {
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

export async function openOne(at: string): Promise<string> {
  const opened = await post(`${at}/api/cases`, { title: 'killed', unitModel: 'loom lamp' });
  return ((await opened.json()) as { id: string }).id;
}

/** So many writers on one case of an application, until they are told to stop. */
export async function writers(served: Served, many: number) {
  const id = await openOne(served.base);
  const confirmed = new Set<string>();
  const refused = new Map<string, number>();
  let goesOn = true;
  const at = `${served.base}/api/cases/${id}/entries`;
  const all = Array.from({ length: many }, (_, who) =>
    writer(at, who, confirmed, () => goesOn, refused),
  );
  return {
    confirmed,
    refused,
    /** Until so many more are confirmed. */
    more: async (n: number): Promise<void> => {
      const since = confirmed.size;
      while (confirmed.size < since + n) await pause(20);
    },
    /** What stands against what was confirmed, in words; anything amiss ends the run as failed. */
    end: async (): Promise<string> => {
      goesOn = false;
      await Promise.all(all);
      const found = await compare(`${served.base}/api/cases/${id}`, confirmed, many);
      if (found.lost + found.twice + found.disordered > 0 || found.stands !== confirmed.size)
        process.exitCode = 1;
      return `${confirmed.size} confirmed, ${found.stands} stand, ${found.lost} lost, ${found.twice} twice, ${found.disordered} writers out of order`;
    },
  };
}
