import { spawn } from 'node:child_process';
import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { format } from 'date-fns/format';
import type pg from 'pg';
import { checkBackup, type TableMark } from './backup-file';
import { pgConnection, pgProgram } from './dump';
import { marksOf, numberOf, withClient } from './marks';
import { prepareDatabase, Unfit } from './prepare';

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
