// Backups by the clock, and when somebody at the screen asks for one.
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { backupCommand, backupFolder } from './backup.mjs';

const ENDING = '.hanzai-backup';
/**
 * How old the newest may be before another is made, and how often that is looked at, milliseconds.
 */
const EVERY = 24 * 3_600_000;
const LOOKS_EVERY = 15 * 60_000;

/** When the newest backup of a database was made, milliseconds; 0 where there is none. */
export function newestBackup(folder, database) {
  if (!existsSync(folder)) return 0;
  return readdirSync(folder)
    .filter((name) => name.startsWith(`${database}-`) && name.endsWith(ENDING))
    .reduce((newest, name) => Math.max(newest, statSync(join(folder, name)).mtimeMs), 0);
}

/**
 * Makes a backup a day of the database of a url (as its owner), and one whenever it is asked for.
 * say: takes a line for whoever watches. Returns { now(), stop() }: now resolves to the file, or
 * rejects with why not.
 */
export function scheduleBackups(url, say, every = EVERY, looksEvery = LOOKS_EVERY) {
  const folder = backupFolder();
  const database = new URL(url).pathname.slice(1);
  let making;
  /** One at a time: whoever asks while one is made gets that one. */
  const now = () =>
    (making ??= backupCommand(['backup', folder], url)
      .then((said) => said.trim())
      .finally(() => (making = undefined)));
  const look = () => {
    if (Date.now() - newestBackup(folder, database) < every) return;
    now().then(
      (file) => say(`backed up into ${file}`),
      (error) => say(`the backup failed: ${error.message.split('\n').at(-1)}`),
    );
  };
  // Not while everything is being opened.
  const first = setTimeout(look, 60_000);
  const timer = setInterval(look, looksEvery);
  return {
    now,
    stop: () => {
      clearTimeout(first);
      clearInterval(timer);
    },
  };
}
