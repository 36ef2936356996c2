// export FILE | import FILE: a workshop as open files, and one of open files into this workshop.
// DATABASE_URL: as its owner, or as the role of a workshop that shares a database.
import { createReadStream, createWriteStream } from 'node:fs';
import { rename, rm } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { fileURLToPath } from 'node:url';
import { completeSummaries } from '../case/service';
import { openDatabase } from '../db/client';
import { withClient } from '../db/marks';
import { closePools } from '../reckoning/pool';
import { importWords } from './imported';
import { takeWorkshop, Unreadable, type Imported } from './read';
import { workshopArchive } from './write';

/** Writes a workshop into a file; none is left where that fails. */
export async function exportWorkshop(url: string, file: string): Promise<void> {
  const part = `${file}.part`;
  try {
    await withClient(url, async (client) => {
      await pipeline(workshopArchive(client), createWriteStream(part, { mode: 0o600 }));
    });
    await rename(part, file);
  } finally {
    await rm(part, { force: true });
  }
}

/** Takes the workshop of a file in: all of it, or nothing. */
export async function importWorkshop(url: string, file: string): Promise<Imported> {
  const done = await withClient(url, async (client) => {
    await client.query('begin');
    const taken = await takeWorkshop(client, createReadStream(file));
    await client.query('commit');
    return taken;
  });
  const { db, pool } = openDatabase(url);
  try {
    await completeSummaries(db);
  } finally {
    await pool.end();
    await closePools();
  }
  return done;
}

async function main([what, file]: readonly string[]): Promise<void> {
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set');
  if (!file) throw new Unreadable('which file?');
  if (what === 'export') {
    await exportWorkshop(url, file);
    process.stdout.write(`${file}\n`);
  } else process.stdout.write(importWords(await importWorkshop(url, file)));
}

if (process.argv[1] === fileURLToPath(import.meta.url))
  await main(process.argv.slice(2)).catch((error: Error) => {
    if (!(error instanceof Unreadable)) throw error;
    process.stderr.write(`Nothing was changed: ${error.message}.\n`);
    process.exitCode = 1;
  });
