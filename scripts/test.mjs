// npm test: does its own set-up and runs everything. One part alone: npm run check | test:unit |
// test:integration | test:e2e
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { freePort, startDatabase } from './database.mjs';
import { installDebian, installPackages } from './install.mjs';
import { build, prepareDatabase } from './prepare.mjs';
import { run } from './run.mjs';
import { complain, sideStep } from './say.mjs';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const wanted = process.argv[2];
const wants = (part) => wanted === undefined || wanted === part;
/** Rows of integration tests side by side, each on a database of its own (web/test/own-database.ts). */
const ROWS = 2;
/** Browsers side by side: each waits for its application much of the time. */
const E2E_WORKERS = Math.max(1, Math.min(2, availableParallelism()));
const totals = { passed: 0, failed: 0 };
/** What failed, by name: said once more at the end, where it is looked for. */
const failures = [];

/**
 * Counts one check that either passes or fails as a whole; a failure is shown and the run goes on.
 */
async function check(words, work) {
  try {
    await sideStep(words, work);
    totals.passed += 1;
  } catch (error) {
    complain(error);
    totals.failed += 1;
    failures.push(words);
  }
}

/**
 * Adds the counts of a test runner's JSON report; a runner that reported nothing counts as a
 * failure.
 */
function count(file, read) {
  const {
    passed,
    failed,
    names = [],
  } = existsSync(file) ? read(JSON.parse(readFileSync(file, 'utf8'))) : { passed: 0, failed: 0 };
  totals.passed += passed;
  totals.failed += failed;
  failures.push(...names);
  if (passed + failed === 0) {
    process.stdout.write(`  ${file}: no tests were run, which counts as a failure\n`);
    totals.failed += 1;
  }
  rmSync(file, { force: true });
}

async function shown(command, words, env = {}) {
  try {
    await run(command, words, { cwd: root, show: true, env: { ...process.env, ...env } });
  } catch {
    // The report file has the counts; what went wrong is on the screen already.
  }
}

async function vitest(project, env, ...more) {
  const report = join(root, `.test-${project}.json`);
  rmSync(report, { force: true });
  process.stdout.write(`\n${project} tests\n`);
  await shown(
    'npx',
    [
      'vitest',
      'run',
      '--project',
      `${project}*`,
      '--reporter=default',
      '--reporter=json',
      `--outputFile.json=${report}`,
      ...more,
    ],
    env,
  );
  count(report, (json) => ({
    passed: json.numPassedTests,
    failed:
      json.numFailedTests +
      json.testResults.filter(
        // A file that fails before its tests, for instance in what prepares them, runs none of
        // them.
        (file) =>
          file.status === 'failed' &&
          !file.assertionResults.some(({ status }) => status === 'failed'),
      ).length,
    names: json.testResults.flatMap(({ name, status, assertionResults }) => {
      const failed = assertionResults.filter((one) => one.status === 'failed');
      const file = relative(root, name);
      if (failed.length > 0) return failed.map(({ fullName }) => `${file}: ${fullName}`);
      return status === 'failed' ? [`${file}: before its tests`] : [];
    }),
  }));
}

/** Checks one after the other, in two rows side by side: a machine has two cores and more. */
async function checks() {
  process.stdout.write('\nchecks\n');
  const rows = [
    [
      ['lint', () => run('npx', ['eslint', '.'], { cwd: root })],
      [
        'licences of packages',
        () => run('node', ['scripts/licences.mjs', '--check'], { cwd: root }),
      ],
      ['direction of imports', () => run('npm', ['run', 'deps'], { cwd: root })],
    ],
    [
      [
        'types of core, data, command line and scripts',
        () => run('npx', ['tsc', '--noEmit', '-p', 'tsconfig.json'], { cwd: root }),
      ],
      [
        'types of the web application',
        () =>
          run('npm', ['run', 'typecheck', '-w', 'web'], {
            cwd: root,
            env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' },
          }),
      ],
      ['format', () => run('npx', ['prettier', '--check', '.'], { cwd: root })],
      [
        'shipped demo boards are those of their descriptions',
        () => run('node', ['--import', 'tsx', 'scripts/demo-boards.ts', '--check'], { cwd: root }),
      ],
      [
        'published JSON Schema is that of the code',
        () => run('node', ['--import', 'tsx', 'scripts/json-schemas.ts', '--check'], { cwd: root }),
      ],
    ],
  ];
  await Promise.all(
    rows.map(async (row) => {
      for (const [words, work] of row) await check(words, work);
    }),
  );
}

async function integration(database) {
  await run('node', ['bundle-reckoner.mjs'], { cwd: join(root, 'web') });
  const env = {
    DATABASE_URL: database.url('hanzai_integration'),
    HANZAI_RECKONER_IS_BUILT: '1',
  };
  await vitest('integration', env, `--maxWorkers=${ROWS}`);
}

async function endToEnd(database) {
  await installDebian(['chromium', 'fonts-dejavu-core'], () => existsSync('/usr/bin/chromium'));
  // Stands before the application in one of the tests, as docs/set-ups.md has it.
  await installDebian(['nginx-light', 'openssl'], () => existsSync('/usr/sbin/nginx'));
  await build(root);
  await prepareDatabase(
    root,
    database.url('hanzai_e2e'),
    true,
    database.applicationUrl('hanzai_e2e'),
  );
  // Each file of tests begins on a copy of it (web/e2e/server.ts).
  const ports = await Promise.all(Array.from({ length: E2E_WORKERS }, freePort));
  const env = {
    E2E_DATABASE_URL: database.applicationUrl('hanzai_e2e_copy'),
    E2E_OWNER_URL: database.url('postgres'),
    E2E_SEEDED: 'hanzai_e2e',
    HOST: '127.0.0.1',
    ASTRO_NODE_LOGGING: 'disabled',
    E2E_PORTS: ports.join(','),
    E2E_ROOT: root,
  };
  const report = join(root, '.test-e2e.json');
  rmSync(report, { force: true });
  process.stdout.write('\nend-to-end tests\n');
  await shown(
    'npx',
    [
      'playwright',
      'test',
      '--config',
      'web/playwright.config.ts',
      ...(process.env.E2E_ONLY ? ['-g', process.env.E2E_ONLY] : []),
    ],
    {
      ...env,
      PLAYWRIGHT_JSON_OUTPUT_NAME: report,
    },
  );
  count(report, ({ stats, suites }) => ({
    passed: stats.expected + stats.flaky,
    failed: stats.unexpected,
    names: suites.flatMap(({ file, specs }) =>
      specs.filter(({ ok }) => !ok).map(({ title }) => `${file}: ${title}`),
    ),
  }));
}

async function main() {
  const started = Date.now();
  await installPackages(root);
  if (wants('check')) await checks();
  if (wants('unit')) {
    // A client of instruments that is not ours, to try the simulated bench with.
    const client = '/usr/lib/python3/dist-packages';
    await installDebian(['python3-pyvisa', 'python3-pyvisa-py'], () =>
      ['pyvisa', 'pyvisa_py'].every((name) => existsSync(join(client, name))),
    );
    // Reads what stands in a PDF, to compare it with what should.
    await installDebian(['poppler-utils'], () => existsSync('/usr/bin/pdftotext'));
    await vitest('unit', {});
  }
  if (wants('integration') || wants('e2e')) {
    const database = await startDatabase(root, 'test');
    const stop = () => void database.stop().then(() => process.exit(1));
    process.once('SIGINT', stop);
    process.once('SIGTERM', stop);
    try {
      const rows = Array.from({ length: ROWS }, (_, i) => `hanzai_integration_row${i + 1}`);
      await dropDatabases(database, [...rows, 'hanzai_e2e']);
      if (wants('integration')) await integration(database);
      if (wants('e2e')) await endToEnd(database);
    } finally {
      await database.stop();
    }
  }
  process.stdout.write(`\n${((Date.now() - started) / 60_000).toFixed(1)} minutes\n`);
}

/** Tests begin on empty databases. */
async function dropDatabases(database, names) {
  const { default: pg } = await import('pg');
  const client = new pg.Client({ connectionString: database.url('postgres') });
  await client.connect();
  for (const name of names) await client.query(`drop database if exists "${name}"`);
  await client.end();
}

try {
  await main();
} catch (error) {
  complain(error);
  totals.failed += 1;
}
process.exitCode = totals.failed > 0 ? 1 : 0;
if (failures.length > 0)
  process.stdout.write(`failed:\n${failures.map((one) => `  ${one}\n`).join('')}`);
process.stdout.write(`${totals.passed} passed, ${totals.failed} failed\n`);
