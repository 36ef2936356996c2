// npm start: installs what is missing, starts the database, brings it up to date, builds, serves.
import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { freePort, startDatabase } from './database.mjs';
import { installPackages } from './install.mjs';
import { build, prepareDatabase } from './prepare.mjs';
import { complain, Remedy } from './say.mjs';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const [major, minor] = process.versions.node.split('.').map(Number);
const empty = process.argv.includes('--empty');

async function main() {
  if (major < 20 || (major === 20 && minor < 11)) throw new Remedy(`Node.js 20.11 or newer is needed; this is ${process.versions.node}.`);
  process.stdout.write('Hanzai is getting ready\n');
  await installPackages(root);
  const elsewhere = process.env.DATABASE_URL;
  const database = elsewhere ? undefined : await startDatabase(root, 'workshop');
  let server;
  const stop = async (status) => {
    server?.kill('SIGTERM');
    if (server && server.exitCode === null) await new Promise((resolve) => server.on('exit', resolve));
    await database?.stop();
    process.stdout.write('Hanzai has stopped; everything is kept.\n');
    process.exit(status);
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
  try {
    const url = elsewhere ?? database.url(empty ? 'hanzai_own' : 'hanzai');
    await prepareDatabase(root, url, !empty);
    await build(root);
    const port = await portToUse();
    server = spawn(process.execPath, ['server.mjs'], {
      cwd: join(root, 'web'),
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env: { ...process.env, DATABASE_URL: url, ASTRO_NODE_LOGGING: 'disabled', HOST: process.env.HOST ?? '127.0.0.1', PORT: String(port) },
    });
    server.on('exit', (code) => void stop(code ?? 1));
    await waitFor(`http://127.0.0.1:${port}/api/health`);
    process.stdout.write(
      `\nHanzai is at  http://127.0.0.1:${port}/\n${empty ? 'An empty workshop of your own. ' : 'The demo workshop of the Thistlewick Loom Hall. '}Ctrl+C stops it.\n`,
    );
  } catch (error) {
    complain(error);
    await stop(1);
  }
}

/** PORT where it is set, else 4711 where it is free, else any. */
function portToUse() {
  if (process.env.PORT) return Number(process.env.PORT);
  return new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', () => resolve(freePort()));
    probe.listen(4711, '127.0.0.1', () => probe.close(() => resolve(4711)));
  });
}

async function waitFor(url) {
  for (let waited = 0; waited < 30_000; waited += 100) {
    try {
      if ((await fetch(url)).ok) return;
    } catch {
      // not yet listening
    }
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Remedy('The application did not answer within 30 seconds.');
}

main().catch((error) => {
  complain(error);
});
