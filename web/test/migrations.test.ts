import { execFile } from 'node:child_process';
import { mkdtempSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ask, at, MIGRATIONS, UNDO_WORKSHOPS } from './databases';
import { prepareDatabase, Unfit } from '../src/server/db/prepare';

// What happens to a database that is older, newer, or spoilt, and what the application may do to
// it.

const own = `hanzai_migrations_${process.pid}`;

const dumps = mkdtempSync(join(tmpdir(), 'dumps-'));
beforeAll(() => {
  process.env.HANZAI_DUMPS = dumps;
});
afterAll(async () => {
  delete process.env.HANZAI_DUMPS;
  await ask(at('postgres'), `drop database if exists "${own}"`);
});

describe('migrations', () => {
  it('are each later than the one before: an earlier one would be passed over in silence', () => {
    const moments = MIGRATIONS.map(({ when }) => when);
    expect(moments).toEqual([...moments].sort((a, b) => a - b));
    expect(new Set(moments).size).toBe(moments.length);
    const files = readdirSync(new URL('../drizzle', import.meta.url)).filter((file) =>
      file.endsWith('.sql'),
    );
    expect(files.sort()).toEqual(MIGRATIONS.map(({ tag }) => `${tag}.sql`).sort());
  });

  it('leave a copy behind that brings back what was there, and none where nothing changes', async () => {
    await prepareDatabase(at(own));
    expect(readdirSync(dumps)).toEqual([]);
    // As an older version left it.
    await ask(
      at(own),
      `insert into unit_code (id, unit_type, code, stage, meaning)
      values ('01890000-0000-7000-8000-000000000001', 'x', '3-1', 's', 'kept')`,
    );
    await ask(
      at(own),
      `${UNDO_WORKSHOPS};
       alter table repair_case drop column arrived, drop column teaches, drop column made_in, drop column hours_run;
       alter table case_summary drop column follow_up_on, drop column lesson_mark;
       drop table learned, board_exposure;
       drop index case_summary_timers, case_entry_steps, repair_case_model, repair_case_opened;
       alter table case_picture drop column kept_at, alter column image set not null;
       drop table errand_piece, errand;
       drop table person_passkey, audit_line, sign_in_rate, person_verification, person_account, person_session, person;
       drop table pattern_pack, own_pattern, workshop_setting;
       drop table stock_reservation, stock_move, stock_lot;
       drop table instrument;
       drop table board_picture;
       alter table board drop column sheet, drop column version, drop column made_by, drop column changes;
       insert into board (id, title, source_name, content)
       values ('01890000-0000-7000-8000-000000000002', 'old sheet', 'x.cir', '{}');
       delete from drizzle.__drizzle_migrations where created_at >= ${MIGRATIONS.find(({ tag }) => tag === '0005_board-versions')!.when}`,
    );
    await prepareDatabase(at(own));
    const [copy] = readdirSync(dumps);
    expect(copy).toMatch(/\.dump$/);
    const { stdout } = await promisify(execFile)(
      join(
        '/usr/lib/postgresql',
        readdirSync('/usr/lib/postgresql').sort().at(-1)!,
        'bin/pg_restore',
      ),
      ['-f', '-', '-t', 'unit_code', '--data-only', join(dumps, copy!)],
    );
    expect(stdout).toContain('kept');
    // A sheet of before is the first version of itself.
    expect((await ask(at(own), 'select id = sheet as own, version from board')).rows).toEqual([
      { own: true, version: 1 },
    ]);
    await ask(at(own), 'delete from board');
  });

  it('of a newer version are not touched, in words', async () => {
    const future = MIGRATIONS.at(-1)!.when + 1;
    await ask(
      at(own),
      `insert into drizzle.__drizzle_migrations (hash, created_at) values ('newer', ${future})`,
    );
    await expect(prepareDatabase(at(own))).rejects.toThrow(Unfit);
    await expect(prepareDatabase(at(own))).rejects.toThrow(/a newer Hanzai/);
    await ask(at(own), `delete from drizzle.__drizzle_migrations where created_at = ${future}`);
  });
});

describe('the application as the database sees it', () => {
  const role = `application_${process.pid}`;
  const url = Object.assign(new URL(at(own)), { username: role, password: "it's a secret" }).href;
  beforeAll(() => prepareDatabase(at(own), { applicationUrl: url }));
  afterAll(async () => {
    await ask(at(own), `drop owned by "${role}"`);
    await ask(at(own), `drop role "${role}"`);
  });

  it('is no superuser and owns nothing', async () => {
    const { rows } = await ask(
      url,
      `select rolsuper, rolcreatedb, rolcreaterole from pg_roles where rolname = current_user`,
    );
    expect(rows).toEqual([{ rolsuper: false, rolcreatedb: false, rolcreaterole: false }]);
    const owned = await ask(url, `select 1 from pg_tables where tableowner = current_user`);
    expect(owned.rowCount).toBe(0);
  });

  it.each([
    ['update case_entry set kind = kind', /permission denied/],
    ['delete from case_entry', /permission denied/],
    ['truncate case_entry', /permission denied/],
    ['delete from case_picture', /permission denied/],
    ['delete from repair_case', /permission denied/],
    ['drop table case_entry', /must be owner/],
    ['alter table case_entry disable trigger all', /must be owner/],
    ['create table own (x int)', /permission denied/],
    [`create role other`, /permission denied/],
    ['delete from drizzle.__drizzle_migrations', /permission denied/],
  ])('may not: %s', async (sql, words) => {
    await expect(ask(url, sql)).rejects.toThrow(words);
  });

  it('may do its work', async () => {
    const id = '01890000-0000-7000-8000-000000000002';
    await ask(
      url,
      `insert into repair_case (id, title, unit_model) values ('${id}', 'own', 'unit');
       insert into case_entry (id, case_id, kind, body, made_at)
         values ('${id}', '${id}', 'symptom', '{}', now());
       update repair_case set owner = 'x' where id = '${id}'`,
    );
    expect((await ask(url, 'select made_by, epoch from case_entry')).rows).toEqual([
      { made_by: 'bench', epoch: 0 },
    ]);
  });

  it('keeps its rights when it is prepared again, and gets a new password', async () => {
    const again = Object.assign(new URL(url), { password: 'another' }).href;
    await prepareDatabase(at(own), { applicationUrl: again });
    expect((await ask(again, 'select 1 as n')).rows).toEqual([{ n: 1 }]);
    await expect(ask(url, 'select 1')).rejects.toThrow(/password/);
  });
});
