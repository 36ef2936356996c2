import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { run } from './run.mjs';
import { Remedy, step } from './say.mjs';

const isRoot = process.getuid?.() === 0;

/** Installs the npm packages where they are missing or the lock file has changed since. */
export async function installPackages(root) {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = join(root, 'node_modules', '.hanzai-installed');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  await step('installing packages (a minute or two the first time)', () =>
    run('npm', ['ci', '--no-audit', '--no-fund'], { cwd: root }),
  );
  mkdirSync(join(root, 'node_modules'), { recursive: true });
  writeFileSync(stamp, lock);
}

/**
 * Installs Debian packages by name where `present` says they are missing. As an ordinary user it
 * says the one command instead. prepare: root-only work before.
 */
export async function installDebian(packages, present, prepare = () => {}) {
  if (present()) return;
  const command = `apt-get update && DEBIAN_FRONTEND=noninteractive apt-get -y -o Dpkg::Options::=--force-confold install --no-install-recommends ${packages.join(' ')}`;
  if (!isRoot)
    throw new Remedy(
      `${packages.join(' and ')} is missing. Run this once, then start again:\n\n  sudo sh -c '${command}'\n`,
    );
  await step(`installing ${packages.join(' and ')} from Debian's packages`, async () => {
    prepare();
    await run('sh', ['-c', command], {
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    });
  });
  if (!present())
    throw new Remedy(
      `${packages.join(' and ')} was installed but cannot be found. Run by hand: ${command}`,
    );
}
