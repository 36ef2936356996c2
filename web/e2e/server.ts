import { spawn, type ChildProcess } from 'node:child_process';
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
    await client.query(
      `create database ${copy} template ${client.escapeIdentifier(process.env.E2E_SEEDED!)}`,
    );
  } finally {
    await client.end();
  }
}

/**
 * The application under test, started and stopped as a person would: it is the server that goes
 * down, not a mock.
 */
export class Server {
  private child: ChildProcess | undefined;
  private fresh = false;

  /** The first start is on a demo workshop that no other file of tests has touched. */
  async start(): Promise<void> {
    if (!this.fresh) await copyWorkshop();
    this.fresh = true;
    this.child = spawn(process.execPath, ['server.mjs'], {
      cwd: new URL('../', import.meta.url).pathname,
      env: process.env,
      stdio: ['ignore', 'inherit', 'inherit'],
    });
    for (let waited = 0; waited < 20_000; waited += 100) {
      const ready = await fetch(`${address}/api/health`).then(
        (response) => response.ok,
        () => false,
      );
      if (ready) return;
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
