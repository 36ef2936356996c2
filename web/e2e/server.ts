import { spawn, type ChildProcess } from 'node:child_process';
import { get as httpGet } from 'node:http';
import { get as httpsGet } from 'node:https';
import pg from 'pg';

const address = process.env.E2E_ADDRESS!;

/** Makes the database of the application anew from that which the test command has seeded. */
async function copyWorkshop(): Promise<void> {
  const client = new pg.Client({ connectionString: process.env.E2E_OWNER_URL });
  await client.connect();
  try {
    const name = new URL(process.env.DATABASE_URL!).pathname.slice(1);
    const copy = client.escapeIdentifier(name);
    await client.query(`drop database if exists ${copy} with (force)`);
    // One at a time: the copied one must be nobody's at the moment.
    await client.query('select pg_advisory_lock(4711)');
    await client.query(
      `create database ${copy} template ${client.escapeIdentifier(process.env.E2E_SEEDED!)}`,
    );
  } finally {
    await client.end();
  }
}

/** Whether it answers there, whoever signed its certificate. */
const isUp = (base: string): Promise<boolean> =>
  new Promise((resolve) => {
    const ask = base.startsWith('https:') ? httpsGet : httpGet;
    const asked = ask(`${base}/api/health`, { rejectUnauthorized: false }, (response) => {
      response.resume();
      resolve(response.statusCode === 200);
    });
    asked.on('error', () => resolve(false));
  });

/**
 * The application under test, started and stopped as a person would: it is the server that goes
 * down, not a mock.
 */
export class Server {
  private child: ChildProcess | undefined;
  private fresh = false;

  /**
   * The first start is on a demo workshop that no other file of tests has touched. env: what it is
   * told beside what the test command says.
   */
  async start(env: Readonly<Record<string, string>> = {}): Promise<void> {
    if (!this.fresh) await copyWorkshop();
    this.fresh = true;
    this.child = spawn(process.execPath, ['server.mjs'], {
      cwd: new URL('../', import.meta.url).pathname,
      env: { ...process.env, ...env },
      stdio: ['ignore', 'inherit', 'inherit'],
    });
    const secure = env.HANZAI_CERTIFICATE !== undefined;
    for (let waited = 0; waited < 20_000; waited += 100) {
      if (await isUp(secure ? address.replace('http:', 'https:') : address)) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error('the application did not answer');
  }

  /** signal: SIGTERM to stop it, SIGKILL to pull the plug. */
  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const child = this.child;
    if (!child || child.exitCode !== null) return;
    const ended = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await ended;
    this.child = undefined;
  }
}
