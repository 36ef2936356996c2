import { execFile, spawn } from 'node:child_process';
import {
  createReadStream,
  createWriteStream,
  existsSync,
  mkdirSync,
  readdirSync,
  rmSync,
} from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { promisify } from 'node:util';
import { format } from 'date-fns/format';
import pg from 'pg';
import { BackupHead, checkBackup, digestOf, readHead, type TableMark } from './backup-file';
import { pgConnection, pgProgram } from './dump';
import { prepareDatabase, Unfit } from './prepare';
import { RIGHTS } from './role';

export const BACKUP_ENDING = '.hanzai-backup';

/** Copies that are kept of what a schedule makes: the newest of each of so many days, and of so many weeks. */
export const KEPT = { days: 7, weeks: 5 } as const;

/** Tables whose rows are compared by their keys; what is worked out from others is not. */
const WORKED_OUT = new Set(['case_summary']);
const COMPARED = Object.keys(RIGHTS).filter((table) => !WORKED_OUT.has(table));

async function withClient<T>(url: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end().catch(() => undefined);
  }
}

const numberOf = async (client: pg.Client, sql: string): Promise<number> =>
  Number((await client.query<{ n: string }>(sql)).rows[0]?.n ?? 0);

/** Rows of each table that there is, with a digest of their primary keys. */
async function marksOf(client: pg.Client): Promise<Readonly<Record<string, TableMark>>> {
  const marks: Record<string, TableMark> = {};
  for (const table of COMPARED) {
    const name = client.escapeIdentifier(table);
    const { rows: keys } = await client.query<{ name: string }>(
      `select a.attname as name from pg_index i
       join pg_attribute a on a.attrelid = i.indrelid and a.attnum = any(i.indkey)
       where i.indrelid = to_regclass($1) and i.indisprimary order by a.attnum`,
      [`public.${table}`],
    );
    // A table of a later version is not there yet.
    if (keys.length === 0) continue;
    const columns = keys.map(({ name: one }) => client.escapeIdentifier(one));
    const key = columns.map((one) => `${one}::text`).join(` || ' ' || `);
    const { rows } = await client.query<{ n: string; keys: string | null }>(
      `select count(*) as n, md5(string_agg(${key}, ',' order by ${key} collate "C")) as keys from ${name}`,
    );
    marks[table] = { rows: Number(rows[0]!.n), keys: rows[0]!.keys ?? '' };
  }
  return marks;
}

/**
 * Writes a database into one file while people work: all of it as it stood at one moment. url: as its owner.
 * @throws where that fails; no file is left then
 */
export async function backUp(url: string, file: string): Promise<BackupHead> {
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  const [dump, part] = [`${file}.dump`, `${file}.part`];
  try {
    const head = await withClient(url, async (client) => {
      // What is counted and what is dumped is the same moment.
      await client.query('begin isolation level repeatable read read only');
      const { rows } = await client.query<{ id: string; version: string }>(
        `select pg_export_snapshot() as id, current_setting('server_version_num') as version`,
      );
      const { id, version } = rows[0]!;
      const { words, env } = pgConnection(url);
      await promisify(execFile)(
        pgProgram('pg_dump', Number(version)),
        ['-Fc', `--snapshot=${id}`, '-f', dump, ...words],
        { env },
      );
      const tables = await marksOf(client);
      const schema = await numberOf(
        client,
        'select coalesce(max(created_at), 0) as n from drizzle.__drizzle_migrations',
      );
      return BackupHead.parse({
        format: 'hanzai backup',
        version: 1,
        madeAt: new Date().toISOString(),
        schema,
        ...(await digestOf(dump)),
        tables,
      });
    });
    const out = createWriteStream(part, { mode: 0o600 });
    out.write(`${JSON.stringify(head)}\n`);
    await pipeline(createReadStream(dump), out);
    await rename(part, file);
    return head;
  } finally {
    for (const left of [dump, part]) await rm(left, { force: true });
  }
}

/** A name by which backups sort as they were made. */
export const backupName = (database: string, now: Date): string =>
  `${database.replace(/[^\w-]/g, '_')}-${format(now, 'yyyyMMdd-HHmmss')}${BACKUP_ENDING}`;

/** Which backups of a folder go, by their names: what is kept is the newest of each day and week, and the newest. */
export function outdated(names: readonly string[]): readonly string[] {
  const newest = [...names]
    .filter((name) => momentOf(name) !== undefined)
    .sort()
    .reverse();
  const kept = new Set(newest.slice(0, 1));
  const keepFirstOf = (most: number, period: (at: Date) => string): void => {
    const seen = new Set<string>();
    for (const name of newest) {
      const key = period(momentOf(name)!);
      if (seen.has(key)) continue;
      if (seen.size === most) return;
      seen.add(key);
      kept.add(name);
    }
  };
  keepFirstOf(KEPT.days, (at) => format(at, 'yyyyMMdd'));
  keepFirstOf(KEPT.weeks, (at) => format(at, "RRRR'w'II"));
  return newest.filter((name) => !kept.has(name));
}

/** When a backup was made, by its name; undefined where it is none. */
export function momentOf(name: string): Date | undefined {
  const [, y, mo, d, h, mi, s] =
    /-(\d{4})(\d\d)(\d\d)-(\d\d)(\d\d)(\d\d)\.hanzai-backup$/.exec(name) ?? [];
  if (y === undefined) return undefined;
  return new Date(Number(y), Number(mo) - 1, Number(d), Number(h), Number(mi), Number(s));
}

/** Makes a backup in a folder and lets go of what is outdated there. The file's path. */
export async function backUpInto(url: string, folder: string, now = new Date()): Promise<string> {
  const file = join(folder, backupName(new URL(url).pathname.slice(1), now));
  await backUp(url, file);
  const mine = existsSync(folder) ? readdirSync(folder) : [];
  const database = file.slice(folder.length + 1, -'-yyyyMMdd-HHmmss.hanzai-backup'.length);
  const own = mine.filter(
    (name) => name.slice(0, -'-yyyyMMdd-HHmmss.hanzai-backup'.length) === database,
  );
  for (const name of outdated(own)) rmSync(join(folder, name));
  return file;
}

/** What a restore found when it compared the new database with what the backup says. */
export interface Restored {
  readonly database: string;
  readonly rows: number;
  /** The name under which the database that was there before is kept; undefined where there was none. */
  readonly before: string | undefined;
}

const sameServer = (url: string, database: string): string =>
  Object.assign(new URL(url), { pathname: `/${database}` }).href;

/**
 * Brings a backup back: checks the file, fills a new database, brings it up to date, compares what is in it with
 * what was, plays every journal, and only then puts it in the place of the one that is named by the url. That one
 * is kept under another name.
 *
 * @throws Unfit with a sentence where the file or what came of it is not as it should be; what was there stays
 */
export async function restore(
  url: string,
  file: string,
  applicationUrl?: string,
  now = new Date(),
): Promise<Restored> {
  const checked = await checkBackup(file);
  if (!checked.ok) throw new Unfit(`${file} cannot be brought back: ${checked.why}.`);
  const wanted = new URL(url).pathname.slice(1);
  const stamp = format(now, 'yyyyMMdd_HHmmss');
  const fresh = `${wanted}_restored_${stamp}`;
  const server = sameServer(url, 'postgres');
  const freshUrl = sameServer(url, fresh);
  await withClient(server, (client) =>
    client.query(`create database ${client.escapeIdentifier(fresh)}`),
  );
  try {
    await fill(freshUrl, file, checked.offset);
    const rows = await withClient(freshUrl, (client) => compare(client, checked.head.tables));
    // Brings it up to date, and plays every journal anew: a journal that cannot be played is found here.
    await prepareDatabase(freshUrl, { summaries: true });
    await withClient(freshUrl, (client) => everyCasePlayed(client));
    const before = await switchOver(server, wanted, fresh, `${wanted}_before_${stamp}`);
    if (applicationUrl) await prepareDatabase(url, { applicationUrl });
    return { database: wanted, rows, before };
  } catch (error) {
    await withClient(server, (client) =>
      client.query(`drop database if exists ${client.escapeIdentifier(fresh)} with (force)`),
    ).catch(() => undefined);
    throw error;
  }
}

/** Has pg_restore read what is behind the first line. */
async function fill(url: string, file: string, offset: number): Promise<void> {
  const version = await withClient(url, (client) =>
    numberOf(client, `select current_setting('server_version_num') as n`),
  );
  const { words, env } = pgConnection(url);
  const child = spawn(
    pgProgram('pg_restore', version),
    ['--no-owner', '--no-privileges', '--exit-on-error', '--single-transaction', ...words],
    { env, stdio: ['pipe', 'ignore', 'pipe'] },
  );
  let said = '';
  child.stderr.on('data', (chunk: Buffer) => (said = (said + chunk.toString()).slice(-2000)));
  const ended = new Promise<number | null>((resolve, reject) => {
    child.once('error', reject);
    child.once('exit', resolve);
  });
  // Where it ends early it says why itself.
  await pipeline(createReadStream(file, { start: offset }), child.stdin).catch(() => undefined);
  if ((await ended) !== 0) throw new Unfit(`The database could not be filled: ${said.trim()}`);
}

/** Rows in all, where every table holds what the backup says. */
async function compare(
  client: pg.Client,
  expected: Readonly<Record<string, TableMark>>,
): Promise<number> {
  const found = await marksOf(client);
  for (const [table, { rows, keys }] of Object.entries(expected)) {
    const own = found[table];
    if (own?.rows !== rows || own.keys !== keys)
      throw new Unfit(`${table} holds ${own?.rows ?? 'nothing'} of ${rows} rows, or others.`);
  }
  return Object.values(expected).reduce((sum, { rows }) => sum + rows, 0);
}

async function everyCasePlayed(client: pg.Client): Promise<void> {
  const left = await numberOf(
    client,
    'select count(*) as n from repair_case c left join case_summary s on s.case_id = c.id where s.case_id is null',
  );
  if (left > 0) throw new Unfit(`${left} cases could not be played from their journals.`);
}

/** How often those who are connected are sent away before a database gives way. */
const MOST_TRIES = 20;

/** Puts a database in the place of another, which is kept; the name under which, undefined where there was none. */
async function switchOver(
  server: string,
  wanted: string,
  fresh: string,
  before: string,
): Promise<string | undefined> {
  return withClient(server, async (client) => {
    const there = await client.query('select 1 from pg_database where datname = $1', [wanted]);
    const move = async (from: string, to: string): Promise<void> => {
      for (let attempt = 1; ; attempt += 1) {
        await client.query(
          'select pg_terminate_backend(pid) from pg_stat_activity where datname = $1',
          [from],
        );
        try {
          await client.query(
            `alter database ${client.escapeIdentifier(from)} rename to ${client.escapeIdentifier(to)}`,
          );
          return;
        } catch (error) {
          // Somebody was connected again in between.
          if (attempt === MOST_TRIES) throw error;
        }
      }
    };
    if (there.rowCount === 0) {
      await move(fresh, wanted);
      return undefined;
    }
    await move(wanted, before);
    try {
      await move(fresh, wanted);
    } catch (error) {
      await move(before, wanted);
      throw error;
    }
    return before;
  });
}

export { readHead };
