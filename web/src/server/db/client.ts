import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import * as boardSchema from './schema/board';
import * as caseSchema from './schema/case';
import * as errandSchema from './schema/errand';
import * as learningSchema from './schema/learning';
import * as peopleSchema from './schema/people';
import * as unitSchema from './schema/unit';
import * as workshopSchema from './schema/workshop';

export const schema = {
  ...boardSchema,
  ...caseSchema,
  ...errandSchema,
  ...learningSchema,
  ...peopleSchema,
  ...unitSchema,
  ...workshopSchema,
};
export type Database = NodePgDatabase<typeof schema>;

let shared: { db: Database; pool: pg.Pool } | undefined;

/** A query that takes longer has lost its server: it fails, so that whoever waits can try again. */
const MOST_QUERY_MILLISECONDS = 20_000;

/** Opens a database. Failures of the connection surface at the first query. */
export function openDatabase(url: string): { db: Database; pool: pg.Pool } {
  const pool = new pg.Pool({
    connectionString: url,
    max: 8,
    // One that answers two seconds late needs four of its answers for a connection.
    connectionTimeoutMillis: 12_000,
    query_timeout: MOST_QUERY_MILLISECONDS,
    keepAlive: true,
    // Compiling a query takes longer than any of ours runs: half a second for one of fifty milliseconds.
    options: '-c jit=off',
  });
  // A lost idle connection must not end the program; the next query opens another.
  pool.on('error', () => undefined);
  // Nor one that is lost while a query has it: that query fails, and says so itself.
  pool.on('connect', (client) => client.on('error', () => undefined));
  const db = drizzle(pool, { schema });
  // Drizzle's own gives its connection back only where `begin` went through: every one that was lost
  // just then would be one less for ever, until nobody gets any.
  db.transaction = async (work, config) => {
    const client = await pool.connect();
    let failed = true;
    try {
      const result = await drizzle(client, { schema }).transaction(work, config);
      failed = false;
      return result;
    } finally {
      // One that failed may still be waiting for an answer: it is closed, not used again.
      client.release(failed);
    }
  };
  return { db, pool };
}

/** The connections of `database()`. */
export function connections(): pg.Pool {
  database();
  return shared!.pool;
}

/** The application's database, named by DATABASE_URL. */
export function database(): Database {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set: start the application with npm start');
  shared ??= openDatabase(url);
  return shared.db;
}
