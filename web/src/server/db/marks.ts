import pg from 'pg';
import type { TableMark } from './backup-file';
import { RIGHTS } from './role';

// What a database holds, so that two can be compared.

/** Not compared: what is worked out from others, and files on their way, which no backup holds. */
const WORKED_OUT = new Set(['case_summary', 'errand_piece', 'learned', 'board_exposure']);
const COMPARED = Object.keys(RIGHTS).filter((table) => !WORKED_OUT.has(table));

/** Does work with a database, connected for it alone. */
export async function withClient<T>(
  url: string,
  work: (client: pg.Client) => Promise<T>,
): Promise<T> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end().catch(() => undefined);
  }
}

/** The number that a query gives as `n`; 0 where it gives none. */
export const numberOf = async (client: pg.Client, sql: string): Promise<number> =>
  Number((await client.query<{ n: string }>(sql)).rows[0]?.n ?? 0);

/** Rows of each table that there is, with a digest of their primary keys. */
export async function marksOf(client: pg.Client): Promise<Readonly<Record<string, TableMark>>> {
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
