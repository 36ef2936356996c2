// npm run doctor: says in words what is wrong with this workshop, and what to do; ends with 1 where
// something is.
import { existsSync, readdirSync, statfsSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { backupCommand, backupFolder } from './backup.mjs';
import { newestBackup } from './backup-schedule.mjs';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const LEAST_FREE = 2e9;
const OLD_HOURS = 72;

/** Each gives words where all is well, and throws with what to do where it is not. */
const CHECKS = {
  'Node.js': () => {
    const [major, minor] = process.versions.node.split('.').map(Number);
    if (major < 20 || (major === 20 && minor < 11))
      throw new Error(`${process.versions.node}: 20.11 or newer is needed`);
    return process.versions.node;
  },
  packages: () => {
    if (!existsSync(join(root, 'node_modules', '.hanzai-installed')))
      throw new Error('not installed yet: npm start installs them');
    return 'installed';
  },
  PostgreSQL: () => {
    const base = '/usr/lib/postgresql';
    const versions = existsSync(base) ? readdirSync(base) : [];
    if (versions.length === 0 && !process.env.DATABASE_URL)
      throw new Error(
        'not installed: npm start installs it as root, or: apt-get install postgresql',
      );
    return versions.join(', ') || 'elsewhere';
  },
  disk: () => {
    const { bavail, bsize } = statfsSync(root);
    const free = bavail * bsize;
    if (free < LEAST_FREE)
      throw new Error(`${(free / 1e9).toFixed(1)} GB free: make room, or the database stops`);
    return `${(free / 1e9).toFixed(1)} GB free`;
  },
  application: async () => {
    const base = `http://${process.env.HOST ?? '127.0.0.1'}:${process.env.PORT ?? 4711}`;
    const answer = await fetch(`${base}/api/ready`, { signal: AbortSignal.timeout(5000) }).catch(
      () => undefined,
    );
    if (!answer) throw new Error(`does not answer at ${base}: npm start begins it`);
    const { checks = [] } = await answer.json();
    const bad = checks.filter(({ ok }) => !ok);
    if (bad.length > 0)
      throw new Error(bad.map(({ what, words }) => `${what}: ${words}`).join('; '));
    return checks.map(({ what, words }) => `${what} ${words}`).join(', ');
  },
  backup: async () => {
    const folder = backupFolder();
    const [name] = existsSync(folder)
      ? readdirSync(folder)
          .filter((one) => one.endsWith('.hanzai-backup'))
          .sort((a, b) => (a.slice(-30) < b.slice(-30) ? 1 : -1))
      : [];
    if (!name) throw new Error(`none in ${folder}: npm run backup makes one`);
    const hours = (Date.now() - newestBackup(folder, name.slice(0, -30))) / 3_600_000;
    const said = await backupCommand(['check', join(folder, name)]);
    if (hours > OLD_HOURS)
      throw new Error(`the newest is of ${Math.round(hours / 24)} days ago: npm run backup`);
    return said.trim();
  },
};

let isBad = false;
for (const [what, check] of Object.entries(CHECKS)) {
  try {
    process.stdout.write(`  well   ${what}: ${await check()}\n`);
  } catch (error) {
    isBad = true;
    process.stdout.write(`  WRONG  ${what}: ${error.message.trim().split('\n').at(-1)}\n`);
  }
}
process.exitCode = isBad ? 1 : 0;
