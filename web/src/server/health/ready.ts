import { statfs } from 'node:fs/promises';
import { sql } from 'drizzle-orm';
import journal from '../../../drizzle/meta/_journal.json';
import type { Database } from '../db/client';

/** Below this a disk is called full, bytes: a database that cannot write its log stops. */
const LEAST_FREE = 500_000_000;

/** One thing that has to be so before anybody is sent here. */
export interface Check {
  readonly what: string;
  readonly ok: boolean;
  readonly words: string;
}

/** The moment of the newest migration that this version knows. */
const NEWEST = Math.max(...journal.entries.map(({ when }) => when));

async function tables(db: Database): Promise<Check> {
  const what = 'tables';
  const { rows } = await db.execute<{ newest: string | null }>(
    sql`select max(created_at)::text as newest from drizzle.__drizzle_migrations`,
  );
  const newest = Number(rows[0]?.newest ?? 0);
  if (newest === NEWEST) return { what, ok: true, words: 'up to date' };
  return {
    what,
    ok: false,
    words:
      newest < NEWEST
        ? 'older than this version: start it with npm start'
        : 'newer than this version: start the newer one',
  };
}

async function disk(folder: string): Promise<Check> {
  const { bavail, bsize } = await statfs(folder);
  const free = bavail * bsize;
  return {
    what: 'disk',
    ok: free >= LEAST_FREE,
    words: `${(free / 1e9).toFixed(1)} GB free where the application is`,
  };
}

/**
 * Whether work can be sent here, check by check; a check that fails itself is one that is not so.
 */
export async function readiness(db: Database, folder = '.'): Promise<readonly Check[]> {
  const attempt = async (what: string, check: () => Promise<Check>): Promise<Check> => {
    try {
      return await check();
    } catch (error) {
      return { what, ok: false, words: `not to be told: ${(error as Error).name}` };
    }
  };
  return Promise.all([
    attempt('database', async () => {
      await db.execute(sql`select 1`);
      return { what: 'database', ok: true, words: 'answers' };
    }),
    attempt('tables', () => tables(db)),
    attempt('disk', () => disk(folder)),
  ]);
}
