import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { OLD_HOURS, type Backups } from '../../workshop/backups';
import { databaseOf } from '../db/backup-names';
import type { Outcome } from '../outcome';

const failed = (detail: string): Outcome<never> => ({ ok: false, why: 'refused', detail });

/** A backup of a large workshop takes a while. */
const MOST_MILLISECONDS = 10 * 60_000;

/** When this run began: a workshop that was just opened has had no time for a backup. */
const BEGUN = Date.now();
const FIRST_WITHIN_HOURS = 1;

/** The backups of this workshop, the newest first. */
export function backupsOf(folder: string | undefined, database: string, now: number): Backups {
  const picturesElsewhere = (process.env.HANZAI_PICTURES ?? '') !== '';
  if (folder === undefined)
    return { isScheduled: false, picturesElsewhere, backups: [], isOld: false };
  const backups = (existsSync(folder) ? readdirSync(folder) : [])
    .filter((name) => databaseOf(name) === database)
    .map((name) => {
      const { mtime, size } = statSync(join(folder, name));
      return { name, madeAt: mtime.toISOString(), bytes: size };
    })
    .sort((a, b) => (a.madeAt < b.madeAt ? 1 : -1));
  const newest = backups[0] ? Date.parse(backups[0].madeAt) : undefined;
  const isOld =
    newest === undefined
      ? now - BEGUN > FIRST_WITHIN_HOURS * 3_600_000
      : now - newest > OLD_HOURS * 3_600_000;
  return { isScheduled: true, picturesElsewhere, backups, isOld };
}

export function ownBackups(): Backups {
  const database = new URL(process.env.DATABASE_URL ?? 'postgres://x/x').pathname.slice(1);
  return backupsOf(process.env.HANZAI_BACKUPS, database, Date.now());
}

/** Asks the start command for a backup: the application itself may not read all that one holds. */
export async function askForBackup(): Promise<Outcome<Backups>> {
  if (!process.send || process.env.HANZAI_BACKUPS === undefined)
    return failed('this application was not begun by npm start: use npm run backup');
  const answer = await new Promise<{ ok: boolean; why?: string }>((resolve) => {
    const timer = setTimeout(
      () => resolve({ ok: false, why: 'it takes longer than ten minutes' }),
      MOST_MILLISECONDS,
    );
    const hear = (message: unknown): void => {
      const said = message as { what?: string; ok?: boolean; why?: string } | null;
      if (said?.what !== 'backup') return;
      clearTimeout(timer);
      process.off('message', hear);
      resolve({ ok: said.ok === true, ...(said.why === undefined ? {} : { why: said.why }) });
    };
    process.on('message', hear);
    process.send!({ what: 'backup' });
  });
  return answer.ok ? { ok: true, value: ownBackups() } : failed(answer.why ?? 'it failed');
}
