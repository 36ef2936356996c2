// npm start: installs what is missing, starts the database, brings it up to date, builds, serves;
// starts database and application again where they end by themselves.
import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { get as httpGet } from 'node:http';
import { get as httpsGet } from 'node:https';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { addressToUse, LOOPBACK } from './address.mjs';
import { certificateToUse } from './certificate.mjs';
import { backupFolder } from './backup.mjs';
import { scheduleBackups } from './backup-schedule.mjs';
import { keepDatabase } from './database.mjs';
import { installPackages } from './install.mjs';
import { peopleCommand } from './people.mjs';
import { build, prepareDatabase } from './prepare.mjs';
import { complain, Remedy } from './say.mjs';
import { endChild, endOf, keepAlive } from './supervise.mjs';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const [major, minor] = process.versions.node.split('.').map(Number);
const empty = process.argv.includes('--empty');

/** How long the application may take to answer after it was started, milliseconds. */
const ANSWERS_WITHIN = 30_000;

async function main() {
  if (major < 20 || (major === 20 && minor < 11))
    throw new Remedy(`Node.js 20.11 or newer is needed; this is ${process.versions.node}.`);
  const say = (words) =>
    process.stdout.write(`  ${new Date().toTimeString().slice(0, 8)}  ${words}\n`);
  let database;
  let backups;
  let server;
  let stopping;
  const stop = (status) =>
    (stopping ??= (async () => {
      backups?.stop();
      await server?.stop();
      await database?.stop();
      if (server || database) process.stdout.write('Hanzai has stopped; everything is kept.\n');
      process.exit(status);
    })());
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
  try {
    const { host, port } = await addressToUse();
    const isSecure = certificateToUse(say);
    process.stdout.write('Hanzai is getting ready\n');
    await installPackages(root);
    const elsewhere = process.env.DATABASE_URL;
    if (!elsewhere) database = await keepDatabase(root, 'workshop', say);
    const name = empty ? 'hanzai_own' : 'hanzai';
    const url = elsewhere ?? database.applicationUrl(name);
    await prepareDatabase(
      root,
      elsewhere ?? database.url(name),
      !empty,
      elsewhere ? undefined : url,
    );
    await onlyWithPeople(host, elsewhere ?? database.url(name));
    await build(root);
    const base = `${isSecure ? 'https' : 'http'}://${host.includes(':') ? `[${host}]` : host}:${port}/`;
    backups = scheduleBackups(elsewhere ?? database.url(name), say);
    server = await keepAlive(
      'the application',
      () => startServer({ url, host, port, base, backups }),
      { say },
    );
    process.stdout.write(
      `\nHanzai is at  ${base}\n${empty ? 'An empty workshop of your own. ' : 'The demo workshop of the Thistlewick Loom Hall. '}Ctrl+C stops it.\n`,
    );
  } catch (error) {
    if (stopping) return;
    complain(error);
    await stop(1);
  }
}

/** Others on the network are let in only where people sign in. */
async function onlyWithPeople(host, url) {
  if (LOOPBACK.includes(host) || (await peopleCommand(['any'], url)).trim() === 'yes') return;
  throw new Remedy(
    `HOST=${host} would let others on the network in, and nobody signs in here yet. Add the owner first:\n\n  npm run people add NAME owner\n`,
  );
}

/**
 * Starts the application and waits until it answers as itself and not as somebody else on its port.
 */
async function startServer({ url, host, port, base, backups }) {
  const instance = randomUUID();
  const child = spawn(process.execPath, ['server.mjs'], {
    cwd: join(root, 'web'),
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: {
      ...process.env,
      DATABASE_URL: url,
      HANZAI_INSTANCE: instance,
      HANZAI_BACKUPS: backupFolder(),
      ASTRO_NODE_LOGGING: 'disabled',
      HOST: host,
      PORT: String(port),
    },
  });
  // Somebody at the screen asks for a backup: the application itself may not read all that one
  // holds.
  child.on('message', (message) => {
    if (message?.what !== 'backup') return;
    const tell = (answer) => child.connected && child.send({ what: 'backup', ...answer });
    backups.now().then(
      () => tell({ ok: true }),
      (error) => tell({ ok: false, why: error.message.split('\n').at(-1) }),
    );
  });
  const ended = endOf(child);
  let gone;
  void ended.then((how) => (gone = how));
  for (let waited = 0; waited < ANSWERS_WITHIN; waited += 100) {
    if (gone) throw new Remedy(`The application ended before it answered (${gone}).`);
    if ((await instanceAt(base)) === instance) return { ended, stop: () => endChild(child) };
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  await endChild(child);
  throw new Remedy('The application did not answer within 30 seconds.');
}

/**
 * Which run of the application answers there; undefined where none does, or not yet. Its certificate
 * may be for the name that others call it by: here it is known by its number.
 */
function instanceAt(base) {
  return new Promise((resolve) => {
    const ask = base.startsWith('https:') ? httpsGet : httpGet;
    const asked = ask(
      `${base}api/health`,
      { timeout: 2000, rejectUnauthorized: false },
      async (response) => {
        let body = '';
        try {
          for await (const chunk of response) body += chunk;
          resolve(JSON.parse(body).instance);
        } catch {
          resolve(undefined);
        }
      },
    );
    asked.on('timeout', () => asked.destroy());
    asked.on('error', () => resolve(undefined));
  });
}

await main();
