import { execFile } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { format } from 'date-fns/format';
import type pg from 'pg';

/** Copies kept, the newest. */
const KEPT = 5;
const DEBIAN = '/usr/lib/postgresql';
const ENDING = '.dump';

/** Where copies go: named by the environment, else beside the project. */
const folder = (): string =>
  process.env.HANZAI_DUMPS ?? fileURLToPath(new URL('../../../../.dumps', import.meta.url));

/**
 * A program of the server's own version, or of a newer one: an older one refuses. version: of the
 * server, as it counts itself (150004).
 */
export function pgProgram(name: 'pg_dump' | 'pg_restore', version: number): string {
  const major = Math.floor(version / 10_000);
  const versions = existsSync(DEBIAN) ? readdirSync(DEBIAN).map(Number) : [];
  const fitting = versions.filter((one) => one >= major).sort((a, b) => a - b)[0];
  return fitting === undefined ? name : join(DEBIAN, String(fitting), 'bin', name);
}

/**
 * How a program of PostgreSQL reaches a database: words for its command line, and its environment.
 */
export function pgConnection(url: string): {
  readonly words: readonly string[];
  readonly env: NodeJS.ProcessEnv;
} {
  const { username, password, hostname, port, pathname } = new URL(url);
  const server = ['-h', hostname, '-p', port || '5432', '-U', decodeURIComponent(username)];
  return {
    words: [...server, '-d', pathname.slice(1)],
    // The password by the environment: others on the machine can read a command line.
    env: { ...process.env, PGPASSWORD: decodeURIComponent(password) },
  };
}

/**
 * Keeps a copy of a database before it is changed, for pg_restore. Throws where that fails: a
 * change without a way back is not made.
 */
export async function dumpBefore(url: string, client: pg.Client): Promise<string> {
  const { rows } = await client.query<{ version: string }>(
    `select current_setting('server_version_num') as version`,
  );
  const place = folder();
  mkdirSync(place, { recursive: true, mode: 0o700 });
  const name = new URL(url).pathname.slice(1).replace(/[^\w-]/g, '_');
  const file = join(place, `${name}-${format(new Date(), 'yyyyMMdd-HHmmss')}${ENDING}`);
  const { words, env } = pgConnection(url);
  const dump = pgProgram('pg_dump', Number(rows[0]!.version));
  await promisify(execFile)(dump, ['-Fc', '-f', `${file}.part`, ...words], { env });
  renameSync(`${file}.part`, file);
  const copies = readdirSync(place)
    .filter((copy) => copy.startsWith(`${name}-`) && copy.endsWith(ENDING))
    .sort();
  for (const old of copies.slice(0, -KEPT)) rmSync(join(place, old));
  return file;
}
