import { execFile } from 'node:child_process';
import { createReadStream, createWriteStream, mkdirSync, readdirSync, rmSync } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { promisify } from 'node:util';
import { BackupHead, digestOf } from './backup-file';
import { backupName, databaseOf, outdated } from './backup-names';
import { pgConnection, pgProgram } from './dump';
import { marksOf, numberOf, withClient } from './marks';

/**
 * Writes a database into one file while people work: all of it as it stood at one moment. url: as
 * its owner.
 * @throws where that fails; no file is left then
 */
export async function backUp(url: string, file: string): Promise<BackupHead> {
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
  const [dump, part] = [`${file}.dump`, `${file}.part`];
  try {
    const head = await withClient(url, async (client) => {
      // What is counted and what is dumped is the same moment.
      await client.query('begin isolation level repeatable read read only');
      const { rows } = await client.query<{ id: string; version: string }>(
        `select pg_export_snapshot() as id, current_setting('server_version_num') as version`,
      );
      const { id, version } = rows[0]!;
      const { words, env } = pgConnection(url);
      await promisify(execFile)(
        pgProgram('pg_dump', Number(version)),
        [
          '-Fc',
          `--snapshot=${id}`,
          '--exclude-table-data=public.errand_piece',
          '-f',
          dump,
          ...words,
        ],
        { env },
      );
      const tables = await marksOf(client);
      const schema = await numberOf(
        client,
        'select coalesce(max(created_at), 0) as n from drizzle.__drizzle_migrations',
      );
      return BackupHead.parse({
        format: 'hanzai backup',
        version: 1,
        madeAt: new Date().toISOString(),
        schema,
        ...(await digestOf(dump)),
        tables,
      });
    });
    const out = createWriteStream(part, { mode: 0o600 });
    out.write(`${JSON.stringify(head)}\n`);
    await pipeline(createReadStream(dump), out);
    await rename(part, file);
    return head;
  } finally {
    for (const left of [dump, part]) await rm(left, { force: true });
  }
}

/** Makes a backup in a folder and lets go of what is outdated there. The file's path. */
export async function backUpInto(url: string, folder: string, now = new Date()): Promise<string> {
  const name = backupName(new URL(url).pathname.slice(1), now);
  const file = join(folder, name);
  await backUp(url, file);
  const own = readdirSync(folder).filter((one) => databaseOf(one) === databaseOf(name));
  for (const old of outdated(own)) rmSync(join(folder, old));
  return file;
}
