// npm run backup [-- --empty]: a backup of the workshop into its folder, while people work or not.
// npm run restore FILE [-- --empty]: brings one back; what is there now is kept under another name.
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { withDatabase } from './database.mjs';
import { installPackages } from './install.mjs';
import { run } from './run.mjs';
import { complain, Remedy } from './say.mjs';

const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** Where backups go: named by the environment, else beside the project. */
export const backupFolder = () => process.env.HANZAI_BACKUPS ?? join(root, '.backups');

/** Runs the command of the application that backs up, restores or checks; what it said. */
export function backupCommand(words, url, applicationUrl) {
  return run('node', ['--import', 'tsx', 'src/server/db/backup-command.ts', ...words], {
    cwd: join(root, 'web'),
    env: {
      ...process.env,
      ...(url ? { DATABASE_URL: url } : {}),
      ...(applicationUrl ? { HANZAI_APPLICATION_URL: applicationUrl } : {}),
    },
  });
}

async function main() {
  const [what, ...rest] = process.argv.slice(2);
  const file = rest.find((word) => !word.startsWith('--'));
  const name = rest.includes('--empty') ? 'hanzai_own' : 'hanzai';
  if (what === 'restore' && !file) throw new Remedy('Which backup? npm run restore FILE');
  await installPackages(root);
  const words = what === 'restore' ? ['restore', resolve(file)] : ['backup', backupFolder()];
  const elsewhere = process.env.DATABASE_URL;
  const said = elsewhere
    ? await backupCommand(words, elsewhere)
    : await withDatabase(root, 'workshop', ({ url, applicationUrl }) =>
        backupCommand(words, url(name), what === 'restore' ? applicationUrl(name) : undefined),
      );
  process.stdout.write(said);
}

if (process.argv[1] === fileURLToPath(import.meta.url))
  await main().catch((error) => {
    complain(error);
    process.exitCode = 1;
  });
