import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, describe, expect, it } from 'vitest';

const root = mkdtempSync(join(tmpdir(), 'hanzai-database-'));
const isRoot = process.getuid?.() === 0;
const base = isRoot
  ? join('/var/lib', `hanzai-${createHash('sha256').update(root).digest('hex').slice(0, 10)}`)
  : join(root, '.pg');
const data = join(base, 'try', 'data');
type Started = { url: (database: string) => string; stop: () => Promise<void> };
/** The start scripts are plain JavaScript, so that they run before anything is installed. */
const { keepDatabase, startDatabase } = (await import(
  new URL('../../scripts/database.mjs', import.meta.url).href
)) as {
  startDatabase: (root: string, name: string) => Promise<Started>;
  keepDatabase: (root: string, name: string, say: (line: string) => void) => Promise<Started>;
};
const start = (): Promise<Started> => startDatabase(root, 'try');

async function query(url: string, text: string): Promise<unknown[]> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query(text)).rows as unknown[];
  } finally {
    await client.end();
  }
}

const postmaster = (): number =>
  Number(readFileSync(join(data, 'postmaster.pid'), 'utf8').split('\n')[0]);
const gone = async (pid: number): Promise<void> => {
  while (existsSync(`/proc/${pid}`)) await new Promise((resolve) => setTimeout(resolve, 50));
};

afterAll(() => {
  rmSync(base, { recursive: true, force: true });
  rmSync(root, { recursive: true, force: true });
});

describe('the database of a checkout', () => {
  it('listens on loopback only, asks for its password, and keeps its data over a stop', async () => {
    const first = await start();
    const url = first.url('postgres');
    await query(url, 'create table kept (line text)');
    await query(url, "insert into kept values ('before the stop')");
    expect(await query(url, 'show listen_addresses')).toEqual([{ listen_addresses: '127.0.0.1' }]);
    await expect(query(url.replace(/app:[^@]+@/, 'app:wrong@'), 'select 1')).rejects.toThrow(
      /password/,
    );
    await first.stop();
    expect(existsSync(join(data, 'postmaster.pid'))).toBe(false);
    const second = await start();
    expect(await query(second.url('postgres'), 'select line from kept')).toEqual([
      { line: 'before the stop' },
    ]);
    await second.stop();
  });

  it('loses nothing that was confirmed when it is killed', async () => {
    const running = await start();
    await query(running.url('postgres'), "insert into kept values ('before the plug was pulled')");
    const pid = postmaster();
    process.kill(pid, 'SIGKILL');
    await gone(pid);
    const again = await start();
    expect(await query(again.url('postgres'), 'select count(*)::int as n from kept')).toEqual([
      { n: 2 },
    ]);
    await again.stop();
  });

  it('is taken over where its starter was killed and it still runs', async () => {
    const left = await start();
    const pid = postmaster();
    const taken = await start();
    expect(postmaster()).toBe(pid);
    expect(await query(taken.url('postgres'), 'select count(*)::int as n from kept')).toEqual([
      { n: 2 },
    ]);
    await taken.stop();
    await left.stop();
  });

  it('starts over a lock file that a power cut left with the number of another program', async () => {
    writeFileSync(
      join(data, 'postmaster.pid'),
      `${process.pid}\n${data}\n0\n1\n\n127.0.0.1\n\nready   \n`,
    );
    const running = await start();
    expect(await query(running.url('postgres'), 'select count(*)::int as n from kept')).toEqual([
      { n: 2 },
    ]);
    await running.stop();
  });

  it('gets up again where a process of the killed one is left hanging', async () => {
    const kept = await keepDatabase(root, 'try', () => undefined);
    const url = kept.url('postgres');
    const client = new pg.Client({ connectionString: url });
    client.on('error', () => undefined);
    await client.connect();
    const { rows } = await client.query('select pg_backend_pid() as pid');
    const { pid } = rows[0] as { pid: number };
    // As one that waits for ever for another that is gone: it holds the shared memory.
    process.kill(pid, 'SIGSTOP');
    const first = postmaster();
    process.kill(first, 'SIGKILL');
    await gone(first);
    await expect
      .poll(() => query(url, 'select 1 as n').catch(() => undefined), { timeout: 25_000 })
      .toEqual([{ n: 1 }]);
    await kept.stop();
  });
});
