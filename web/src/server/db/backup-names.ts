import { format } from 'date-fns/format';

// Backups of a folder by their names: whose, of when, and which of them go.

export const BACKUP_ENDING = '.hanzai-backup';

/** Copies that are kept of what a schedule makes: the newest of each of so many days, and of so many weeks. */
export const KEPT = { days: 7, weeks: 5 } as const;

/** A name by which backups sort as they were made. */
export const backupName = (database: string, now: Date): string =>
  `${database.replace(/[^\w-]/g, '_')}-${format(now, 'yyyyMMdd-HHmmss')}${BACKUP_ENDING}`;

/** Which backups of a folder go, by their names: what is kept is the newest of each day and week, and the newest. */
export function outdated(names: readonly string[]): readonly string[] {
  const newest = [...names]
    .filter((name) => momentOf(name) !== undefined)
    .sort()
    .reverse();
  const kept = new Set(newest.slice(0, 1));
  const keepFirstOf = (most: number, period: (at: Date) => string): void => {
    const seen = new Set<string>();
    for (const name of newest) {
      const key = period(momentOf(name)!);
      if (seen.has(key)) continue;
      if (seen.size === most) return;
      seen.add(key);
      kept.add(name);
    }
  };
  keepFirstOf(KEPT.days, (at) => format(at, 'yyyyMMdd'));
  keepFirstOf(KEPT.weeks, (at) => format(at, "RRRR'w'II"));
  return newest.filter((name) => !kept.has(name));
}

/** When a backup was made, by its name; undefined where it is none. */
export function momentOf(name: string): Date | undefined {
  const [, y, mo, d, h, mi, s] =
    /-(\d{4})(\d\d)(\d\d)-(\d\d)(\d\d)(\d\d)\.hanzai-backup$/.exec(name) ?? [];
  if (y === undefined) return undefined;
  return new Date(Number(y), Number(mo) - 1, Number(d), Number(h), Number(mi), Number(s));
}

/** The database that a backup is of, by its name; undefined where it is none. */
export const databaseOf = (name: string): string | undefined =>
  momentOf(name) && name.slice(0, -'-yyyyMMdd-HHmmss'.length - BACKUP_ENDING.length);
