// Brings the database of DATABASE_URL up to date; with --demo also seeds the demo workshop, once; with
// --summaries makes what the docket shows of each case anew.
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { countBoards } from '../board/repository';
import { prepareQueue } from '../errands/queue';
import { forgetSummaries } from '../case/repository';
import { completeSummaries } from '../case/service';
import { closePools } from '../reckoning/pool';
import { openDatabase } from './client';
import { dumpBefore } from './dump';
import { grantApplication } from './role';
import { seedDemo } from './seed';

const MIGRATIONS = fileURLToPath(new URL('../../../drizzle', import.meta.url));

/** Something that only a person can put right: shown in one sentence, without a stack. */
export class Unfit extends Error {}

/** Moments of the migrations that this version knows, oldest first. */
function knownMigrations(): readonly number[] {
  const journal = JSON.parse(readFileSync(`${MIGRATIONS}/meta/_journal.json`, 'utf8')) as {
    entries: { when: number }[];
  };
  return journal.entries.map(({ when }) => when);
}

/** Moments of the migrations that a database has been through; none where it is new. */
async function migrationsOf(client: pg.Client): Promise<readonly number[]> {
  const there = await client.query(`select to_regclass('drizzle.__drizzle_migrations') as name`);
  if (there.rows[0]?.name === null) return [];
  const { rows } = await client.query<{ created_at: string }>(
    'select created_at from drizzle.__drizzle_migrations order by created_at',
  );
  return rows.map(({ created_at }) => Number(created_at));
}

async function createWhereMissing(url: string): Promise<void> {
  const target = new URL(url);
  const name = target.pathname.slice(1);
  target.pathname = '/postgres';
  const client = new pg.Client({ connectionString: target.href });
  try {
    await client.connect();
    const found = await client.query('select 1 from pg_database where datname = $1', [name]);
    if (found.rowCount === 0) await client.query(`create database "${name.replace(/"/g, '')}"`);
  } catch (error) {
    // A server elsewhere may not let us look at "postgres": then the database itself must be there,
    // and the migration will say if not.
    if (process.env.HANZAI_DEBUG) process.stderr.write(`${String(error)}\n`);
  } finally {
    await client.end().catch(() => undefined);
  }
}

/**
 * Refuses a database that a newer version has changed, and keeps a copy of one that is about to be
 * changed.
 */
async function beforeMigrating(url: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const [been, known] = [await migrationsOf(client), knownMigrations()];
    const newest = Math.max(...known);
    if (been.some((when) => when > newest))
      throw new Unfit(
        'This database was changed by a newer Hanzai than this one, which could spoil it: start the newer one, or give this one a database of its own.',
      );
    if (been.length > 0 && been.length < known.length) await dumpBefore(url, client);
  } finally {
    await client.end();
  }
}

export interface Preparation {
  readonly demo?: boolean;
  /** Make what the docket shows of each case anew. */
  readonly summaries?: boolean;
  /** The connection of the application itself, whose role gets no more rights than it needs. */
  readonly applicationUrl?: string | undefined;
  /** Its role works for a workshop of its own, beside others in this database. */
  readonly ownWorkshop?: boolean;
}

export async function prepareDatabase(url: string, wanted: Preparation = {}): Promise<void> {
  await createWhereMissing(url);
  await beforeMigrating(url);
  const { db, pool } = openDatabase(url);
  try {
    await migrate(db, { migrationsFolder: MIGRATIONS });
    if (wanted.applicationUrl)
      await grantApplication(pool, wanted.applicationUrl, wanted.ownWorkshop);
    await prepareQueue(pool);
    await countBoards(db);
    if (wanted.demo) await seedDemo(db);
    if (wanted.summaries) await forgetSummaries(db);
    await completeSummaries(db);
  } finally {
    await pool.end();
    await closePools();
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set');
  try {
    await prepareDatabase(url, {
      demo: process.argv.includes('--demo'),
      summaries: process.argv.includes('--summaries'),
      applicationUrl: process.env.HANZAI_APPLICATION_URL,
      ownWorkshop: process.env.HANZAI_OWN_WORKSHOP === '1',
    });
  } catch (error) {
    if (!(error instanceof Unfit)) throw error;
    process.stderr.write(`${error.message}\n`);
    process.exitCode = 1;
  }
}
