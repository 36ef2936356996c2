import PgBoss from 'pg-boss';
import type pg from 'pg';

// The queue of errands: pg-boss over the application's own connections. Each workshop has a schema of
// its own for it, so that no role sees what another one's people asked for.

/** What somebody asked for and waits for. */
export const ERRANDS = 'errands';
/** That closed cases changed: what is learned of them is worked out anew. One waits at most. */
export const LEARNING = 'learning';
/** How often one is tried whose process ended before it did. */
const TRIES = 5;
/** Seconds after which one that nobody works on any more is given up by the queue itself. */
const LONGEST = 6 * 3600;

/** The first workshop, as migration 0015 has it. */
const FIRST = '00000000-0000-0000-0000-000000000001';

/** Schema of a workshop's queue. */
export const queueSchema = (workshop: string): string =>
  workshop === FIRST ? 'jobs' : `jobs_${workshop.replaceAll('-', '')}`;

/** pg-boss over connections that there are. supervise: this one also clears away what is old. */
export function queueOf(pool: pg.Pool, schema: string, supervise: boolean): PgBoss {
  return new PgBoss({
    db: { executeSql: (text, values) => pool.query(text, values) },
    schema,
    migrate: supervise === false,
    supervise,
    schedule: false,
    deleteAfterDays: 2,
  });
}

/**
 * Makes the queue of a workshop, or brings it up to date, and lets a role use it. Run as the owner of
 * the database. role: quoted; none where the owner itself is the application.
 */
export async function prepareQueue(
  pool: pg.Pool,
  workshop: string = FIRST,
  role?: string,
): Promise<void> {
  const schema = queueSchema(workshop);
  const boss = queueOf(pool, schema, false);
  boss.on('error', () => undefined);
  await boss.start();
  try {
    for (const name of [ERRANDS, LEARNING]) {
      if ((await boss.getQueue(name)) !== null) continue;
      await boss.createQueue(name, {
        name,
        policy: name === LEARNING ? 'short' : 'standard',
        retryLimit: TRIES,
        retryDelay: 2,
        expireInSeconds: LONGEST,
        retentionDays: 2,
      });
    }
  } finally {
    await boss.stop({ graceful: false, wait: false, close: false });
  }
  if (role === undefined) return;
  await pool.query(`grant usage on schema ${schema} to ${role}`);
  await pool.query(
    `grant select, insert, update, delete on all tables in schema ${schema} to ${role}`,
  );
}
