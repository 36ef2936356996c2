// Brings the database of DATABASE_URL up to date; with --demo also seeds the demo workshop, once.
import { fileURLToPath } from 'node:url';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { openDatabase } from './client';
import { seedDemo } from './seed';

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

export async function prepareDatabase(url: string, demo: boolean): Promise<void> {
  await createWhereMissing(url);
  const { db, pool } = openDatabase(url);
  try {
    await migrate(db, {
      migrationsFolder: fileURLToPath(new URL('../../../drizzle', import.meta.url)),
    });
    if (demo) await seedDemo(db);
  } finally {
    await pool.end();
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set');
  await prepareDatabase(url, process.argv.includes('--demo'));
}
