import { readFileSync } from 'node:fs';
import pg from 'pg';

// Databases of the server that the tests run on, by name.

const base = new URL(process.env.DATABASE_URL!);

/** The address of a database of this name. */
export const at = (name: string): string =>
  Object.assign(new URL(base), { pathname: `/${name}` }).href;

/** Asks a database once, as its owner. */
export async function ask(url: string, sql: string): Promise<pg.QueryResult> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return await client.query(sql);
  } finally {
    await client.end();
  }
}

/** The migrations that this version knows, oldest first. */
export const { entries: MIGRATIONS } = JSON.parse(
  readFileSync(new URL('../drizzle/meta/_journal.json', import.meta.url), 'utf8'),
) as { entries: { tag: string; when: number }[] };
