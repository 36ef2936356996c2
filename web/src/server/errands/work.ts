import { and, eq, inArray, lt, sql } from 'drizzle-orm';
import { drizzle } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import type PgBoss from 'pg-boss';
import type { ErrandKind } from '../../workshop/errands';
import { completeSummaries } from '../case/service';
import { schema, type Database } from '../db/client';
import { errand } from '../db/schema/errand';
import { learnAnew } from '../learn/learned';
import { audit } from '../people/people';
import { logger, told } from '../logger';
import { importWords } from '../open-files/imported';
import { takeWorkshop, Unreadable } from '../open-files/read';
import { workshopArchive } from '../open-files/write';
import { fileOf, keepFile } from './pieces';
import { ERRANDS, LEARNING, queueOf, queueSchema } from './queue';

// Errands are done by whichever process comes to them first. Whoever works on one holds a lock of the
// database that ends with its connection: where a process dies, another one finds the errand unheld and
// begins it anew. What an errand changes and that it is done are one transaction, so it is done once.

/** How often a process looks whether an errand lost whoever worked on it, milliseconds. */
const LOOKS_EVERY = 10_000;
const DAY = 86_400_000;
/** That the queue waits is told this often at most, milliseconds. */
const SAYS_EVERY = 60_000;

/** It was told to stop. */
class Stopped extends Error {}

interface Doing {
  readonly db: Database;
  /** A connection of its own. */
  readonly client: pg.Client;
  readonly row: typeof errand.$inferSelect;
}

const setState = (db: Database, id: string, set: Partial<typeof errand.$inferInsert>) =>
  db
    .update(errand)
    .set(set)
    .where(and(eq(errand.id, id), inArray(errand.state, ['waiting', 'working'])))
    .returning({ id: errand.id });

/** Passes pieces on, says how far it is, and ends where somebody stopped the errand. */
async function* watched({ db, row }: Doing, pieces: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  let worked = 0;
  for await (const piece of pieces) {
    worked += piece.length;
    const still = await setState(db, row.id, { worked });
    if (still.length === 0) throw new Stopped();
    yield piece;
  }
}

const WORK: Readonly<Record<ErrandKind, (doing: Doing) => Promise<void>>> = {
  archive: async (doing) => {
    const { db, client, row } = doing;
    const bytes = await keepFile(db, row.id, watched(doing, workshopArchive(client)));
    await setState(db, row.id, { state: 'done', bytes, worked: bytes, endedAt: new Date() });
  },
  'take-in': async (doing) => {
    const { db, client, row } = doing;
    await client.query('begin');
    const imported = await takeWorkshop(client, watched(doing, fileOf(db, row.id)));
    // Done is part of what is done: both stand, or neither.
    const inside = drizzle(client, { schema });
    const done = await setState(inside, row.id, {
      state: 'done',
      worked: row.bytes,
      said: importWords(imported),
      endedAt: new Date(),
    });
    if (done.length === 0) throw new Stopped();
    await audit(inside, row.askedBy, `took in ${row.name || 'a workshop of open files'}`);
    await client.query('commit');
    await completeSummaries(db);
  },
};

/** The name under which whoever works on something holds it. */
const errandLock = (id: string): string => `errand ${id}`;

/** Tries to hold an errand; false where another process works on it. */
async function hold(client: pg.Client, id: string): Promise<boolean> {
  const { rows } = await client.query<{ held: boolean }>(
    `select pg_try_advisory_lock(hashtextextended($1, 0)) as held`,
    [errandLock(id)],
  );
  return rows[0]!.held;
}

/**
 * Does an errand, unless it was done or stopped before, or another process is at it. What is wrong with
 * its file is said in it; any other failure is thrown, and it is tried again.
 */
export async function doErrand(db: Database, url: string, id: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    if (!(await hold(client, id))) return;
    const [begun] = await setState(db, id, { state: 'working', worked: 0 });
    const [row] = await db.select().from(errand).where(eq(errand.id, id));
    if (!begun || !row) return;
    await WORK[row.what as ErrandKind]({ db, client, row });
  } catch (error) {
    if (error instanceof Stopped) return;
    if (!(error instanceof Unreadable)) throw error;
    await setState(db, id, {
      state: 'failed',
      said: `Nothing was changed: ${error.message}.`,
      endedAt: new Date(),
    });
  } finally {
    await client.end().catch(() => undefined);
  }
}

/**
 * Errands that nobody works on any more go back into the queue: those whose process died at them, and
 * those whose process died before they were in it.
 */
export async function takeUpLost(
  db: Database,
  boss: PgBoss,
  pool: pg.Pool,
  name: string,
): Promise<void> {
  const { rows } = await pool.query<{ id: string; queue: string; errand: string; lock: string }>(
    `select id, name as queue, data->>'errand' as errand,
       coalesce('errand ' || (data->>'errand'), 'learning ' || workshop_here()) as lock
     from ${name}.job where state = 'active'`,
  );
  for (const job of rows) {
    // A lock of one statement: it is asked whether somebody else has it.
    const { rows: held } = await pool.query<{ free: boolean }>(
      `select pg_try_advisory_xact_lock(hashtextextended($1, 0)) as free`,
      [job.lock],
    );
    if (!held[0]!.free) continue;
    if (job.queue === ERRANDS) await giveUpAfter(db, boss, job.id, job.errand);
    await boss.fail(job.queue, job.id, { why: 'its process ended' });
  }
  const forgotten = await pool.query<{ id: string }>(
    `select id from errand where state in ('waiting', 'working') and asked_at < now() - interval '1 minute'
       and id::text not in (select data->>'errand' from ${name}.job where name = $1 and state < 'completed')`,
    [ERRANDS],
  );
  for (const { id } of forgotten.rows) await boss.send(ERRANDS, { errand: id });
}

/** What is older than a day is of no use any more, nor what somebody began to send and did not. */
const clearAway = (db: Database) =>
  db.delete(errand).where(lt(errand.askedAt, new Date(Date.now() - DAY)));

export interface Worker {
  /** Puts an errand into the queue. */
  readonly send: (id: string) => Promise<void>;
  /** Has what was learned worked out anew, here unless another process is quicker. */
  readonly learn: () => Promise<void>;
  readonly stop: () => Promise<void>;
}

/** Begins to work on errands. url: of the same database as its connections. */
export async function startErrands(db: Database, pool: pg.Pool, url: string): Promise<Worker> {
  const { rows } = await pool.query<{ id: string }>('select workshop_here() as id');
  const name = queueSchema(rows[0]!.id);
  const boss = queueOf(pool, name, true);
  let said = 0;
  const failed = (error: Error): void => {
    // Every look at the queue fails while the database is away.
    if (Date.now() - said < SAYS_EVERY) return;
    said = Date.now();
    logger.warn({ from: 'errands', ...told(error) }, 'the queue waits');
  };
  boss.on('error', failed);
  await boss.start();
  await boss.work<{ errand: string }>(
    ERRANDS,
    { pollingIntervalSeconds: 2, batchSize: 1 },
    async ([job]) => {
      const id = job!.data.errand;
      try {
        await doErrand(db, url, id);
      } catch (error) {
        const short = told(error);
        logger.error({ from: 'errands', errand: id, ...short }, 'an errand is tried again');
        await giveUpAfter(db, boss, job!.id, id);
        // The queue keeps what it is thrown.
        throw new Error(short.why);
      }
    },
  );
  const learning = await boss.work(
    LEARNING,
    { pollingIntervalSeconds: 2, batchSize: 1 },
    async () => {
      try {
        await learnAnew(db);
      } catch (error) {
        const short = told(error);
        logger.error({ from: 'learning', ...short }, 'what was learned is worked out again');
        throw new Error(short.why);
      }
    },
  );
  const learn = async (): Promise<void> => {
    await boss.send(LEARNING, {});
    boss.notifyWorker(learning);
  };
  // Cases may have been closed while nobody worked, or by another version.
  void learn().catch(failed);
  const look = (): void =>
    void Promise.all([takeUpLost(db, boss, pool, name), clearAway(db)]).catch(failed);
  look();
  const looks = setInterval(look, LOOKS_EVERY);
  looks.unref();
  return {
    send: async (id) => void (await boss.send(ERRANDS, { errand: id })),
    learn,
    stop: async () => {
      clearInterval(looks);
      await boss.stop({ graceful: false, wait: true, close: false });
    },
  };
}

/** An errand that failed for the last time says so; before, it waits for its next try. */
async function giveUpAfter(db: Database, boss: PgBoss, job: string, id: string): Promise<void> {
  const known = await boss.getJobById(ERRANDS, job);
  const isLast = known === null || known.retryCount >= known.retryLimit;
  await setState(
    db,
    id,
    isLast
      ? {
          state: 'failed',
          said: 'It failed again and again; the log says why. Nothing was changed.',
          endedAt: new Date(),
        }
      : { state: 'waiting' },
  );
}

/** Errands of the workshop, the newest first. */
export const listErrands = (db: Database) =>
  db
    .select()
    .from(errand)
    .orderBy(sql`${errand.askedAt} desc`)
    .limit(20);

/** Whether one of a kind goes on. One that is said to come for an hour lost its sender. */
export async function isBusy(db: Database, what: ErrandKind): Promise<boolean> {
  const [row] = await db
    .select({ id: errand.id })
    .from(errand)
    .where(
      and(
        eq(errand.what, what),
        sql`(${errand.state} in ('waiting', 'working') or (${errand.state} = 'coming' and ${errand.askedAt} > now() - interval '1 hour'))`,
      ),
    )
    .limit(1);
  return row !== undefined;
}

/** The file of an errand has come, or did not; false where it was stopped while it came. */
export async function arrived(
  db: Database,
  id: string,
  state: 'waiting' | 'failed',
  said = '',
): Promise<boolean> {
  const rows = await db
    .update(errand)
    .set({ state, said, ...(state === 'failed' ? { endedAt: new Date() } : {}) })
    .where(and(eq(errand.id, id), eq(errand.state, 'coming')))
    .returning({ id: errand.id });
  return rows.length > 0;
}

/** Stops an errand that goes on; one that has ended is forgotten with its file. */
export async function endErrand(db: Database, id: string): Promise<boolean> {
  const stopped = await db
    .update(errand)
    .set({ state: 'stopped', said: 'Stopped; nothing was changed.', endedAt: new Date() })
    .where(and(eq(errand.id, id), inArray(errand.state, ['coming', 'waiting', 'working'])))
    .returning({ id: errand.id });
  if (stopped.length > 0) return true;
  const gone = await db.delete(errand).where(eq(errand.id, id)).returning({ id: errand.id });
  return gone.length > 0;
}
