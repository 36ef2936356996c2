// npm run licences: every package that is installed with its licence, as the lock file has it; ends
// with 1 where one has none that was looked at. --check: says only what is wrong.
import { readFileSync } from 'node:fs';

/** Licences under which a package may be used here without another look. */
const FREE = new Set([
  '0BSD',
  'Apache-2.0',
  'BlueOak-1.0.0',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'CC0-1.0',
  'ISC',
  'MIT',
  'Python-2.0',
]);

/** Those that were looked at one by one, each with what came of it. */
const LOOKED_AT = {
  '@axe-core/playwright': 'MPL-2.0: used by the tests, unchanged, not shipped',
  'axe-core': 'MPL-2.0: used by the tests, unchanged, not shipped',
  '@fontsource/atkinson-hyperlegible-next': 'OFL-1.1: the font ships with its licence',
  '@fontsource/commit-mono': 'OFL-1.1: the font ships with its licence',
  'caniuse-lite': 'CC-BY-4.0: data of the build, not shipped',
  elkjs: 'EPL-2.0 of two: used unchanged',
  'png-js': 'MIT by its LICENSE file; the package says nothing',
  'zod-to-ts': 'MIT by its LICENSE file; the package says nothing',
};
/** sharp's own library is LGPL: linked dynamically, unchanged, replaceable. */
const LGPL = /^@img\/sharp-/;

/** What of an expression holds: one of those with OR, all of those with AND. */
export function isFree(expression) {
  const plain = expression.replace(/[()]/g, '').trim();
  if (plain.includes(' OR ')) return plain.split(' OR ').some(isFree);
  return plain.split(' AND ').every((one) => FREE.has(one.trim()));
}

/** Packages of a lock file with what is said of each; wrong: those that nobody has looked at. */
export function licencesOf(lock) {
  const packages = Object.entries(lock.packages)
    .filter(([path, { link }]) => path.includes('node_modules/') && !link)
    .map(([path, { version, license = '' }]) => {
      const name = path.slice(path.lastIndexOf('node_modules/') + 13);
      const note = LOOKED_AT[name] ?? (LGPL.test(name) ? 'LGPL-3.0: linked dynamically' : '');
      return { name, version, licence: license, note };
    });
  return {
    packages,
    wrong: packages.filter(({ licence, note }) => note === '' && !isFree(licence)),
  };
}

if (process.argv[1]?.endsWith('licences.mjs')) {
  const lock = JSON.parse(readFileSync(new URL('../package-lock.json', import.meta.url), 'utf8'));
  const { packages, wrong } = licencesOf(lock);
  if (!process.argv.includes('--check'))
    for (const { name, version, licence, note } of packages)
      process.stdout.write(`${name} ${version}: ${note || licence}\n`);
  for (const { name, version, licence } of wrong)
    process.stderr.write(
      `${name} ${version} is under ${licence || 'no licence that it names'}: look at it, then say so in scripts/licences.mjs\n`,
    );
  process.exitCode = wrong.length > 0 ? 1 : 0;
}
