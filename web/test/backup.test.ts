import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { v7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { ask, at, MIGRATIONS, UNDO_WORKSHOPS } from './databases';
import { NewCaseRequest } from '../src/case/case-card';
import { backUp, backUpInto } from '../src/server/db/backup';
import { BACKUP_ENDING, outdated } from '../src/server/db/backup-names';
import { restore } from '../src/server/db/restore';
import { backupsOf } from '../src/server/health/backups';
import { readiness } from '../src/server/health/ready';
import { checkBackup, readHead } from '../src/server/db/backup-file';
import { openDatabase } from '../src/server/db/client';
import { prepareDatabase, Unfit } from '../src/server/db/prepare';
import { addEntry, openCase } from '../src/server/case/service';

// A backup is made while people work, is checked to the last byte, and comes back whole or not at
// all.

const own = `hanzai_backup_${process.pid}`;
const folder = mkdtempSync(join(tmpdir(), 'backups-'));

const count = async (table: string): Promise<number> =>
  Number((await ask(at(own), `select count(*) as n from ${table}`)).rows[0].n);
const databases = async (): Promise<string[]> =>
  (
    await ask(at('postgres'), `select datname from pg_database where datname like '${own}%'`)
  ).rows.map(({ datname }) => datname as string);

const CASES = 4;
let caseId = '';

async function symptom(text: string): Promise<void> {
  const { db, pool } = openDatabase(at(own));
  const added = await addEntry(db, caseId, {
    id: v7(),
    madeAt: new Date().toISOString(),
    body: { kind: 'symptom', text },
  });
  await pool.end();
  expect(added.ok).toBe(true);
}

beforeAll(async () => {
  await prepareDatabase(at(own));
  const { db, pool } = openDatabase(at(own));
  for (let i = 0; i < CASES; i += 1) {
    const opened = await openCase(
      db,
      NewCaseRequest.parse({ title: `loom lamp ${i}`, unitModel: 'loom lamp' }),
    );
    if (!opened.ok) throw new Error(opened.detail);
    caseId = opened.value.id;
  }
  await pool.end();
  await symptom('dark');
});
afterAll(async () => {
  for (const name of await databases())
    await ask(at('postgres'), `drop database if exists "${name}" with (force)`);
  rmSync(folder, { recursive: true, force: true });
});

describe('a backup', () => {
  const file = join(folder, `one${BACKUP_ENDING}`);
  it('says what is in it, and is whole', async () => {
    const head = await backUp(at(own), file);
    expect(head.tables.repair_case!.rows).toBe(CASES);
    expect(head.tables.case_entry!.rows).toBe(1);
    expect(head.schema).toBe(MIGRATIONS.at(-1)!.when);
    expect(await checkBackup(file)).toMatchObject({ ok: true, head });
    expect(readdirSync(folder)).toEqual([`one${BACKUP_ENDING}`]);
  });
  it('comes back in the place of what was there, which is kept', async () => {
    await symptom('hums');
    expect(await count('case_entry')).toBe(2);
    // Somebody is connected all the while.
    const { db, pool } = openDatabase(at(own));
    await db.execute('select 1');
    const restored = await restore(at(own), file);
    await pool.end();
    expect(restored.rows).toBe(CASES + 1 + 0 + (await count('workshop_mark')));
    expect(await count('case_entry')).toBe(1);
    expect(await count('case_summary')).toBe(CASES);
    const kept = await ask(at(restored.before!), 'select count(*) as n from case_entry');
    expect(Number(kept.rows[0].n)).toBe(2);
    // The journal still takes entries, and still none but at its end.
    await symptom('after');
    await expect(ask(at(own), 'delete from case_entry')).rejects.toThrow();
  });
  it('into a name that is free needs nothing there before', async () => {
    const restored = await restore(at(`${own}_free`), file);
    expect(restored.before).toBeUndefined();
    expect(await databases()).toContain(`${own}_free`);
  });
  it.each([
    ['cut off', (bytes: Buffer) => bytes.subarray(0, bytes.length - 7), 'cut off'],
    [
      'with a bit turned in the middle',
      (bytes: Buffer) => {
        const other = Buffer.from(bytes);
        const middle = Math.floor(bytes.length / 2);
        other.writeUInt8(other.readUInt8(middle) ^ 1, middle);
        return other;
      },
      'spoilt',
    ],
    [
      'without its first line',
      (bytes: Buffer) => bytes.subarray(bytes.indexOf(0x0a) + 1),
      'no backup',
    ],
    ['that is empty', () => Buffer.alloc(0), 'no backup'],
    ['of another program', () => Buffer.from('{"format":"zip"}\nxyz'), 'format'],
  ])('%s is refused, and nothing is touched', async (_, spoil, words) => {
    const other = join(folder, `spoilt${BACKUP_ENDING}`);
    writeFileSync(other, spoil(readFileSync(file)));
    const before = await databases();
    await expect(restore(at(own), other)).rejects.toThrow(Unfit);
    await expect(restore(at(own), other)).rejects.toThrow(words);
    expect(await databases()).toEqual(before);
    rmSync(other);
  });
  it('whose rows are not those that it says is refused, and nothing is touched', async () => {
    const read = await readHead(file);
    if (!read.ok) throw new Error(read.why);
    const tables = { ...read.head.tables, case_entry: { rows: 9, keys: '' } };
    const other = join(folder, `lying${BACKUP_ENDING}`);
    writeFileSync(
      other,
      Buffer.concat([
        Buffer.from(`${JSON.stringify({ ...read.head, tables })}\n`),
        readFileSync(file).subarray(read.offset),
      ]),
    );
    const before = await databases();
    await expect(restore(at(own), other)).rejects.toThrow('case_entry holds 1 of 9 rows');
    expect(await databases()).toEqual(before);
    rmSync(other);
  });
  it('is made while entries come in: each of them is in it whole or not at all', async () => {
    let writing = true;
    const writer = (async () => {
      for (let i = 0; writing; i += 1) await symptom(`while it is made ${i}`);
    })();
    const busy = join(folder, `busy${BACKUP_ENDING}`);
    const head = await backUp(at(own), busy);
    writing = false;
    await writer;
    const name = `${own}_busy`;
    await restore(at(name), busy);
    const rows = Number((await ask(at(name), 'select count(*) as n from case_entry')).rows[0].n);
    expect(rows).toBe(head.tables.case_entry!.rows);
    rmSync(busy);
  });
  it('of a database that is not there leaves no file behind', async () => {
    await expect(backUp(at(`${own}_never`), join(folder, 'never'))).rejects.toThrow();
    expect(readdirSync(folder).filter((name) => name.startsWith('never'))).toEqual([]);
  });
});

describe('a backup of an earlier version', () => {
  // The same statements, taken back, that each migration since brought: as those versions left it.
  const EARLIER: readonly (readonly [tag: string, undo: string])[] = [
    [
      '0020_learning-runs',
      'drop table learned, board_exposure; alter table case_summary drop column lesson_mark',
    ],
    [
      '0019_docket-indexes',
      'alter table case_summary drop column follow_up_on; drop index case_summary_timers, case_entry_steps, repair_case_model, repair_case_opened',
    ],
    [
      '0018_picture-store',
      'alter table case_picture drop column kept_at, alter column image set not null; alter table board_picture drop column kept_at, alter column image set not null',
    ],
    ['0017_errands', 'drop table errand_piece, errand; drop schema jobs cascade'],
    ['0016_passkeys', 'drop table person_passkey'],
    ['0015_workshops', UNDO_WORKSHOPS],
    [
      '0014_people',
      'drop table audit_line, sign_in_rate, person_verification, person_account, person_session, person',
    ],
    ['0013_hours_run', 'alter table repair_case drop column hours_run'],
    ['0012_made_in', 'alter table repair_case drop column made_in'],
    ['0011_packs', 'drop table pattern_pack'],
    [
      '0010_learning',
      'drop table own_pattern, workshop_setting; alter table repair_case drop column teaches',
    ],
    ['0009_arrivals', 'alter table repair_case drop column arrived'],
    ['0008_stock', 'drop table stock_reservation, stock_move, stock_lot'],
    ['0007_instruments', 'drop table instrument'],
    ['0006_board-pictures', 'drop table board_picture'],
    [
      '0005_board-versions',
      'alter table board drop column sheet, drop column version, drop column made_by, drop column changes',
    ],
    [
      '0004_summaries',
      `drop table case_summary;
       drop trigger case_entry_tells on case_entry; drop trigger repair_case_tells on repair_case;
       drop function tell_of_case();
       alter table case_entry drop column made_by, drop column epoch;
       alter table board drop column parts, drop column nets, drop column archived_at`,
    ],
    [
      '0003_append-only',
      `drop trigger case_entry_append_only on case_entry; drop trigger case_entry_no_truncate on case_entry;
       drop function journal_is_append_only()`,
    ],
    ['0002_codes-per-unit', 'alter table unit_code drop column unit_model'],
    [
      '0001_first-half',
      `drop table case_picture, unit_code;
       alter table repair_case drop column waits_kind, drop column unit_type, drop column accessories,
         drop column stuck_inside, drop column cause_of_death, drop column earlier_visitors,
         drop column media_note, drop column batch`,
    ],
  ];
  // The newest, one in the middle and the oldest; all of them with EVERY_VERSION=1.
  const tried = EARLIER.map(([tag], i) => [tag, i] as const).filter(
    ([, i]) => process.env.EVERY_VERSION === '1' || [0, 3, EARLIER.length - 1].includes(i),
  );
  it.each(tried)('from before %s comes back up to date', async (tag, i) => {
    const old = `${own}_old`;
    await ask(at('postgres'), `drop database if exists "${old}" with (force)`);
    await ask(at('postgres'), `create database "${old}" template "${own}"`);
    const { when } = MIGRATIONS.find((entry) => entry.tag === tag)!;
    for (const [, undo] of EARLIER.slice(0, i + 1)) await ask(at(old), undo);
    await ask(at(old), `delete from drizzle.__drizzle_migrations where created_at >= ${when}`);
    const file = join(folder, `old${BACKUP_ENDING}`);
    const head = await backUp(at(old), file);
    expect(head.schema).toBeLessThan(when);
    const restored = await restore(at(old), file);
    const { rows } = await ask(
      at(old),
      `select (select count(*) from case_entry)::int as entries, (select count(*) from case_summary)::int as summaries,
         (select max(created_at) from drizzle.__drizzle_migrations)::text as newest, to_regclass('pattern_pack') as packs`,
    );
    expect(rows[0]).toMatchObject({
      entries: head.tables.case_entry!.rows,
      summaries: CASES,
      newest: String(MIGRATIONS.at(-1)!.when),
      packs: 'pattern_pack',
    });
    await ask(at('postgres'), `drop database "${restored.before}" with (force)`);
  });
});

describe('what is said of a workshop', () => {
  const stateOf = async (url: string): Promise<Readonly<Record<string, boolean>>> => {
    const { db, pool } = openDatabase(url);
    const checks = await readiness(db);
    await pool.end();
    return Object.fromEntries(checks.map(({ what, ok }) => [what, ok]));
  };
  it('is ready where the database answers and its tables are of this version', async () => {
    expect(await stateOf(at(own))).toEqual({ database: true, tables: true, disk: true });
  });
  it('is not where the tables are older, or nothing answers', async () => {
    const old = `${own}_late`;
    await ask(at('postgres'), `create database "${old}" template "${own}"`);
    await ask(
      at(old),
      `delete from drizzle.__drizzle_migrations where created_at >= ${MIGRATIONS.at(-1)!.when}`,
    );
    expect(await stateOf(at(old))).toMatchObject({ database: true, tables: false });
    expect(await stateOf(at(`${own}_never`))).toMatchObject({ database: false, tables: false });
  });
  it('calls its backups old after three days, and none where there should be one', async () => {
    const there = mkdtempSync(join(tmpdir(), 'old-'));
    const hour = 3_600_000;
    expect(backupsOf(undefined, own, Date.now())).toMatchObject({
      isScheduled: false,
      isOld: false,
    });
    expect(backupsOf(there, own, Date.now())).toMatchObject({ isScheduled: true, isOld: false });
    expect(backupsOf(there, own, Date.now() + 2 * hour).isOld).toBe(true);
    await backUpInto(at(own), there);
    expect(backupsOf(there, own, Date.now() + 71 * hour)).toMatchObject({ isOld: false });
    expect(backupsOf(there, own, Date.now() + 73 * hour)).toMatchObject({ isOld: true });
    // Another workshop's are none of this one's.
    expect(backupsOf(there, 'hanzai', Date.now()).backups).toEqual([]);
    rmSync(there, { recursive: true });
  });
});

describe('a schedule', () => {
  const name = (day: string, time = '030000', database = 'w'): string =>
    `${database}-${day}-${time}${BACKUP_ENDING}`;
  it('keeps the newest of seven days and of five weeks', () => {
    const days = Array.from({ length: 60 }, (_, i) => {
      const date = new Date(Date.UTC(2026, 0, 1 + i, 12));
      return name(date.toISOString().slice(0, 10).replaceAll('-', ''));
    });
    const left = days.filter((one) => !outdated(days).includes(one));
    // The seven days are one week, Monday to Sunday: four more weeks beside it.
    expect(left).toHaveLength(7 + 4);
    expect(left.at(-1)).toBe(days.at(-1));
    expect(left.slice(-7)).toEqual(days.slice(-7));
  });
  it('of several on one day keeps the last, and never lets go of what it does not know', () => {
    const two = [name('20260301', '010000'), name('20260301', '090000')];
    expect(outdated(two)).toEqual([two[0]]);
    expect(outdated(['holiday.jpg', 'w-2026.hanzai-backup'])).toEqual([]);
  });
  it('lets go only of backups of its own database', async () => {
    const other = name('20200101', '000000', 'another');
    writeFileSync(join(folder, other), 'x');
    const first = await backUpInto(at(own), folder, new Date(2026, 4, 1, 3));
    const second = await backUpInto(at(own), folder, new Date(2026, 4, 1, 4));
    const there = readdirSync(folder).map((one) => join(folder, one));
    expect(there).toContain(second);
    expect(there).not.toContain(first);
    expect(there).toContain(join(folder, other));
  });
});
