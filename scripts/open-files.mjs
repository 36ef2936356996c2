// npm run export FILE [-- --empty]: the whole workshop as open files (JSON, CSV, decks, JPEG) in one
// tar.gz. npm run import FILE [-- --empty]: one of open files into this workshop; what is here stays.
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { installPackages } from './install.mjs';
import { withWorkshop } from './prepare.mjs';
import { run } from './run.mjs';
import { complain, Remedy } from './say.mjs';

const root = dirname(dirname(fileURLToPath(import.meta.url)));

const command = (words, url) =>
  run('node', ['--import', 'tsx', 'src/server/open-files/open-files-command.ts', ...words], {
    cwd: join(root, 'web'),
    env: { ...process.env, DATABASE_URL: url },
  });

async function main() {
  const [what, ...rest] = process.argv.slice(2);
  const file = rest.find((word) => !word.startsWith('--'));
  if (!file) throw new Remedy(`Which file? npm run ${what} FILE`);
  const empty = rest.includes('--empty');
  await installPackages(root);
  const said = await withWorkshop(root, empty, (url) => command([what, resolve(file)], url));
  process.stdout.write(said);
}

await main().catch((error) => {
  complain(error);
  process.exitCode = 1;
});
