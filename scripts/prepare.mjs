import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { withDatabase } from './database.mjs';
import { run } from './run.mjs';
import { step } from './say.mjs';

const SOURCES = [
  'core/src',
  'data',
  'web/src',
  'web/public',
  'web/astro.config.mjs',
  'web/service-worker.mjs',
  'web/bundle-reckoner.mjs',
  'package-lock.json',
];

function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return stat.mtimeMs;
  return readdirSync(path).reduce(
    (latest, entry) =>
      entry === 'node_modules' ? latest : Math.max(latest, newest(join(path, entry))),
    0,
  );
}

/** Builds the application where its sources are newer than the last build. */
export async function build(root) {
  const stamp = join(root, 'web', 'dist', '.built');
  const latest = Math.max(
    ...SOURCES.map((source) => join(root, source))
      .filter(existsSync)
      .map(newest),
  );
  if (existsSync(stamp) && Number(readFileSync(stamp, 'utf8')) >= latest) return;
  await step('building the application', () =>
    run('npm', ['run', 'build', '-w', 'web'], {
      cwd: root,
      env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' },
    }),
  );
  writeFileSync(stamp, String(latest));
}

/**
 * Brings a database up to date, creating it where it is missing; seeds the demo workshop into a new
 * one where asked. applicationUrl: the application's own connection, whose role gets its rights.
 */
export async function prepareDatabase(root, url, demo, applicationUrl) {
  await step('bringing the tables up to date', () =>
    run('node', ['--import', 'tsx', 'src/server/db/prepare.ts', ...(demo ? ['--demo'] : [])], {
      cwd: join(root, 'web'),
      env: {
        ...process.env,
        DATABASE_URL: url,
        ...(applicationUrl ? { HANZAI_APPLICATION_URL: applicationUrl } : {}),
      },
    }),
  );
}

/**
 * Does work with the workshop's database, up to date: that of DATABASE_URL where it is named, else the
 * one that belongs to this folder. empty: the workshop of one's own, not the demo. work: gets its URL.
 */
export async function withWorkshop(root, empty, work) {
  const elsewhere = process.env.DATABASE_URL;
  if (elsewhere) return work(elsewhere);
  return withDatabase(root, 'workshop', async ({ url, applicationUrl }) => {
    const name = empty ? 'hanzai_own' : 'hanzai';
    await prepareDatabase(root, url(name), !empty, applicationUrl(name));
    return work(url(name));
  });
}
