import { spawn, type ChildProcess } from 'node:child_process';

const address = process.env.E2E_ADDRESS!;

/**
 * The application under test, started and stopped as a person would: it is the server that goes
 * down, not a mock.
 */
export class Server {
  private child: ChildProcess | undefined;

  async start(): Promise<void> {
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
