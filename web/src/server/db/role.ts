import type pg from 'pg';
import { prepareQueue } from '../errands/queue';

/** What the application does to each table; the journal and the pictures are only ever added to. */
export const RIGHTS: Readonly<Record<string, string>> = {
  board: 'select, insert, update',
  board_picture: 'select, insert, update',
  repair_case: 'select, insert, update',
  case_entry: 'select, insert',
  case_picture: 'select, insert',
  visitor_link: 'select, insert, update',
  instrument: 'select, insert, update',
  case_summary: 'select, insert, update, delete',
  stock_lot: 'select, insert, update',
  stock_move: 'select, insert',
  stock_reservation: 'select, insert, update, delete',
  unit_code: 'select, insert',
  workshop_mark: 'select',
  workshop_role: 'select',
  workshop_setting: 'select, insert, update',
  own_pattern: 'select, insert, update',
  pattern_pack: 'select, insert, update',
  learned: 'select, insert, update',
  board_exposure: 'select, insert, update',
  person: 'select, insert, update',
  person_session: 'select, insert, update, delete',
  person_account: 'select, insert, update, delete',
  person_passkey: 'select, insert, update, delete',
  person_verification: 'select, insert, delete',
  sign_in_rate: 'select, insert, update, delete',
  audit_line: 'select, insert',
  errand: 'select, insert, update, delete',
  errand_piece: 'select, insert, delete',
};

/**
 * Makes the role of a connection, or renews it: no superuser, no owner of anything, with just the
 * rights that the application needs. Run as the owner of the database. ownWorkshop: it works for one of
 * its own beside others in the same database, not for the first.
 */
export async function grantApplication(
  pool: pg.Pool,
  applicationUrl: string,
  ownWorkshop = false,
): Promise<void> {
  const { username, password, pathname } = new URL(applicationUrl);
  const client = await pool.connect();
  try {
    const role = client.escapeIdentifier(decodeURIComponent(username));
    const secret = client.escapeLiteral(decodeURIComponent(password));
    const database = client.escapeIdentifier(pathname.slice(1));
    const found = await client.query('select 1 from pg_roles where rolname = $1', [
      decodeURIComponent(username),
    ]);
    const verb = found.rowCount === 0 ? 'create' : 'alter';
    await client.query(
      `${verb} role ${role} login nosuperuser nocreatedb nocreaterole password ${secret}`,
    );
    await client.query(`grant connect on database ${database} to ${role}`);
    await client.query(`grant usage on schema public to ${role}`);
    await client.query(`revoke all on all tables in schema public from ${role}`);
    for (const [table, rights] of Object.entries(RIGHTS))
      await client.query(`grant ${rights} on ${client.escapeIdentifier(table)} to ${role}`);
    if (ownWorkshop)
      await client.query('insert into workshop_role (role) values ($1) on conflict do nothing', [
        decodeURIComponent(username),
      ]);
    const { rows } = await client.query<{ workshop: string }>(
      'select workshop from workshop_role where role = $1',
      [decodeURIComponent(username)],
    );
    await prepareQueue(pool, rows[0]?.workshop, role);
    // update: an import sets the number that the next case gets.
    await client.query(`grant usage, select, update on all sequences in schema public to ${role}`);
    // How far the tables are up to date is said under /api/ready.
    await client.query(`grant usage on schema drizzle to ${role}`);
    await client.query(`grant select on all tables in schema drizzle to ${role}`);
  } finally {
    client.release();
  }
}
