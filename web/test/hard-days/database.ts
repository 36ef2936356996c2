import { execFileSync } from 'node:child_process';
import { chmodSync, chownSync, cpSync, mkdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { connect, createServer, type AddressInfo, type Socket } from 'node:net';
import { join } from 'node:path';
import pg from 'pg';
import { prepareDatabase } from '../../src/server/db/prepare';
import {
  base,
  counted,
  keepDatabase,
  pause,
  place,
  say,
  serve,
  startDatabase,
  writers,
} from './common';
import { postmaster } from './deaths';

// A database that is slow, whose disk is full, or that gives way to its standby.

/** What stands between the application and its database: an address that stays, and a delay. */
async function between(url: string, milliseconds = 0) {
  const target = new URL(url);
  let port = Number(target.port);
  const open = new Set<Socket>();
  const proxy = createServer((client) => {
    const server = connect(port, target.hostname);
    client.pipe(server);
    server.on('data', (chunk) =>
      milliseconds === 0
        ? client.write(chunk)
        : setTimeout(() => client.writable && client.write(chunk), milliseconds),
    );
    for (const [one, two] of [
      [client, server],
      [server, client],
    ] as const) {
      open.add(one);
      one.on('error', () => two.destroy());
      one.on('close', () => {
        open.delete(one);
        two.destroy();
      });
    }
  });
  await new Promise<void>((resolve) => proxy.listen(0, '127.0.0.1', resolve));
  return {
    url: Object.assign(new URL(url), {
      host: `127.0.0.1:${(proxy.address() as AddressInfo).port}`,
    }).href,
    leadsTo: (other: string): void => {
      port = Number(new URL(other).port);
      for (const socket of open) socket.destroy();
    },
    end: () => proxy.close(),
  };
}

/** Every answer of the database comes two seconds late. */
export async function slow(seconds: number): Promise<void> {
  const kept = await keepDatabase(place, 'hard', () => undefined);
  await prepareDatabase(kept.url('hanzai'));
  const way = await between(kept.url('hanzai'), 2000);
  const served = await serve(way.url, 1);
  const begun = performance.now();
  const work = await writers(served, 2);
  await pause(seconds * 1000);
  const found = await work.end();
  const each = ((performance.now() - begun) * 2) / work.confirmed.size / 1000;
  say(
    `a database that answers 2 s late: ${found}; ${each.toFixed(1)} s each; refused: ${counted(work.refused)}`,
  );
  await served.stop();
  way.end();
  await kept.stop();
}

/** Room of the disk in question, MB: the database itself takes some 90. */
const DISK = 220;

/**
 * The disk of the database is full for so many seconds, then there is room again. Needs the rights to
 * mount a disk in memory.
 */
export async function full(seconds: number): Promise<void> {
  mkdirSync(base, { recursive: true });
  execFileSync('mount', ['-t', 'tmpfs', '-o', `size=${DISK}m,mode=755`, 'tmpfs', base]);
  try {
    const kept = await keepDatabase(place, 'hard', () => undefined);
    await prepareDatabase(kept.url('hanzai'));
    const served = await serve(kept.url('hanzai'), 1);
    const work = await writers(served, 4);
    await work.more(40);
    const ballast = join(base, 'ballast');
    fill(ballast);
    // Until the database finds no room any more, whatever it had set aside.
    const before = work.confirmed.size;
    while (work.refused.size === 0) await pause(50);
    const until = work.confirmed.size;
    const begun = performance.now();
    await pause(seconds * 1000);
    const meanwhile = work.confirmed.size - until;
    const said = counted(work.refused);
    rmSync(ballast);
    await work.more(40);
    const back = (performance.now() - begun) / 1000 - seconds;
    const found = await work.end();
    say(
      `a full disk for ${seconds} s: ${until - before} more confirmed before it was felt, ${meanwhile} while it was full (refused: ${said}); with room again 40 more within ${back.toFixed(1)} s; ${found}`,
    );
    await served.stop();
    await kept.stop();
  } finally {
    execFileSync('umount', ['-l', base]);
  }
}

/** Writes a file until its disk is full. */
function fill(file: string): void {
  for (const size of [1 << 20, 1 << 12])
    try {
      for (;;) writeFileSync(file, Buffer.alloc(size), { flag: 'a' });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'ENOSPC') throw error;
    }
}

/** Asks a database once. */
async function ask(url: string, sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query(sql);
  } finally {
    await client.end();
  }
}

/** A copy of the database that follows it: pg_basebackup from the server's own package. */
function copyFrom(one: string, other: string, url: string): void {
  const [from, to] = [join(base, one), join(base, other)];
  mkdirSync(to, { recursive: true });
  cpSync(join(from, 'password'), join(to, 'password'));
  const { uid, gid } = statSync(join(from, 'data'));
  chownSync(to, uid, gid);
  execFileSync(
    'pg_basebackup',
    ['-D', join(to, 'data'), '-R', '-X', 'stream', '--checkpoint=fast', '-d', url],
    { uid, gid, cwd: to },
  );
  chmodSync(join(to, 'data'), 0o700);
}

/**
 * The database dies and its standby takes its place, so many times: what was confirmed stood on both.
 * Source: PostgreSQL documentation, synchronous replication.
 */
export async function failover(rounds: number): Promise<void> {
  let primary = await startDatabase(place, 'hard');
  await prepareDatabase(primary.url('hanzai'));
  const way = await between(primary.url('hanzai'));
  const served = await serve(way.url, 2);
  const work = await writers(served, 4);
  const away: number[] = [];
  let here = 'hard';
  for (let round = 0; round < rounds; round += 1) {
    const other = here === 'hard' ? 'stand' : 'hard';
    rmSync(join(base, other), { recursive: true, force: true });
    copyFrom(here, other, primary.url('postgres'));
    const standby = await startDatabase(place, other);
    await ask(primary.url('postgres'), `alter system set synchronous_standby_names = '*'`);
    await ask(primary.url('postgres'), 'select pg_reload_conf()');
    await pause(1000);
    await work.more(40);
    const gone = performance.now();
    process.kill(postmaster(here), 'SIGKILL');
    await ask(standby.url('postgres'), 'alter system reset synchronous_standby_names').catch(
      () => undefined,
    );
    await ask(standby.url('postgres'), 'select pg_promote()');
    way.leadsTo(standby.url('hanzai'));
    await work.more(5);
    away.push(performance.now() - gone);
    await primary.stop().catch(() => undefined);
    [primary, here] = [standby, other];
  }
  const found = await work.end();
  say(
    `${rounds} times the database died and its standby took over: ${found}; away for ${away.map((it) => (it / 1000).toFixed(1)).join(', ')} s`,
  );
  await served.stop();
  way.end();
  await primary.stop();
}
