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

/** Takes a database back to before migration 0015: no workshops, no links for visitors. */
export const UNDO_WORKSHOPS = `
  drop table visitor_link;
  do $$
  declare one text;
  begin
    for one in select table_name from information_schema.columns where column_name = 'belongs_to' and table_schema = 'public' loop
      execute format('drop policy own_workshop on %I', one);
      execute format('alter table %I disable row level security, drop column belongs_to cascade', one);
    end loop;
  end $$;
  alter table workshop_setting add constraint workshop_setting_pkey primary key (name);
  alter table person add constraint person_email_unique unique (email);
  drop function same_workshop() cascade;
  drop function workshop_here() cascade;
  drop table workshop_role`;
