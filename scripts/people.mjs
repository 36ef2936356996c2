// npm run people [list | add NAME ROLE | code NAME | role NAME ROLE | leaves NAME] [-- --empty]: who
// signs in to this workshop. Names of several words stand between quotation marks.
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { installPackages } from './install.mjs';
import { withWorkshop } from './prepare.mjs';
import { run } from './run.mjs';
import { complain } from './say.mjs';

const root = dirname(dirname(fileURLToPath(import.meta.url)));

/** Runs the command of the application that adds people; what it said. */
export function peopleCommand(words, url) {
  return run('node', ['--import', 'tsx', 'src/server/people/people-command.ts', ...words], {
    cwd: join(root, 'web'),
    env: { ...process.env, DATABASE_URL: url },
  });
}

async function main() {
  const words = process.argv.slice(2).filter((word) => word !== '--empty');
  const empty = process.argv.includes('--empty');
  await installPackages(root);
  const said = await withWorkshop(root, empty, (url) => peopleCommand(words, url));
  process.stdout.write(said);
}

if (process.argv[1] === fileURLToPath(import.meta.url))
  await main().catch((error) => {
    complain(error);
    process.exitCode = 1;
  });
