// The simulated bench over TCP, spoken to by a client that nobody of this project wrote (PyVISA,
// from Debian's packages) and by a bare socket that misbehaves.
import { execFile, spawn, type ChildProcess } from 'node:child_process';
import { connect } from 'node:net';
import { once } from 'node:events';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

const run = promisify(execFile);
const root = new URL('../../', import.meta.url).pathname;
const board = `${root}data/demo/boards/cr40-srv.cir`;
const started: ChildProcess[] = [];

interface Served {
  readonly child: ChildProcess;
  readonly port: number;
}

async function simulate(...words: string[]): Promise<Served> {
  const child = spawn(
    process.execPath,
    [`${root}cli/bin/hanzai.mjs`, 'simulate', board, '--port', '0', '--seed', '7', ...words],
    { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] },
  );
  started.push(child);
  let said = '';
  child.stderr.on('data', (data) => (said += String(data)));
  for await (const line of child.stdout) {
    const port = /port (\d+)/.exec(String(line))?.[1];
    if (port) return { child, port: Number(port) };
  }
  throw new Error(`it ended without a port: ${said}`);
}

/** Sends bytes and returns what came back within a time, or until the bench hung up. */
function raw(port: number, bytes: string, milliseconds = 1500): Promise<string> {
  return new Promise((resolve, reject) => {
    let got = '';
    const socket = connect(port, '127.0.0.1', () => socket.write(bytes));
    const done = (): void => {
      socket.destroy();
      resolve(got);
    };
    setTimeout(done, milliseconds);
    socket.on('data', (data) => (got += data.toString('latin1')));
    socket.on('close', done);
    // A reset is how the other side lets go.
    socket.on('error', (error: NodeJS.ErrnoException) =>
      error.code === 'ECONNRESET' ? done() : reject(error),
    );
  });
}

async function refused(...words: string[]): Promise<{ status: number; err: string }> {
  try {
    await run(process.execPath, [`${root}cli/bin/hanzai.mjs`, 'simulate', ...words]);
  } catch (error) {
    const { code, stderr } = error as { code: number; stderr: string };
    return { status: code, err: stderr };
  }
  throw new Error('it did not refuse');
}

afterAll(() => started.forEach((child) => child.kill('SIGKILL')));

describe('hanzai simulate', () => {
  let bench: Served;
  beforeAll(async () => {
    bench = await simulate('--fault', 'C1:high-esr=20');
  });

  it('is understood by a client from elsewhere, and answers within the band of the board', async () => {
    const { stdout } = await run('/usr/bin/python3', [
      `${root}cli/test/simulate-client.py`,
      String(bench.port),
    ]);
    const found = JSON.parse(stdout) as {
      identity: string[];
      volts: number;
      three: number[];
      error: string;
      events: number;
      esr: number;
      open: number;
      complete: string;
      version: string;
    };
    expect(found.identity).toHaveLength(4);
    // The band of `hanzai read`, wider by what the parts of the seed differ.
    expect(found.volts).toBeGreaterThan(8.7);
    expect(found.volts).toBeLessThan(9.2);
    expect(found.three).toHaveLength(3);
    for (const volt of found.three) expect(Math.abs(volt - found.volts)).toBeLessThan(0.1);
    expect(found.error).toBe('-113,"Undefined header;NONSENSE:HEADER"');
    // A command error, and nothing else since *CLS.
    expect(found.events).toBe(32);
    // Sound parts of this rail read 0.05 Ω together; leads on top.
    expect(found.esr).toBeGreaterThan(0.05);
    expect(found.esr).toBeLessThan(2);
    expect(found.open).toBe(9.9e37);
    expect(found.complete).toBe('1');
    expect(found.version).toBe('1999.0');
  });
  it('takes lines in pieces, with and without a return, and several at once', async () => {
    expect(await raw(bench.port, '*IDN?\r\nSYST:VERS?\n')).toMatch(/^Hanzai,[^\n]*\n1999\.0\n$/);
    const socket = connect(bench.port, '127.0.0.1');
    await once(socket, 'connect');
    socket.write('SYST:');
    await new Promise((resolve) => setTimeout(resolve, 100));
    socket.write('VERS?\n');
    const [answer] = (await once(socket, 'data')) as [Buffer];
    expect(answer.toString()).toBe('1999.0\n');
    socket.destroy();
  });
  it('lets go of a client that sends without end, and goes on with the others', async () => {
    expect(await raw(bench.port, 'x'.repeat(200_000), 4000)).toBe('');
    expect(await raw(bench.port, '*CLS\n\u0000\u00ff\u0007\n;;;\n*OPC?\n')).toBe('1\n');
    // Gone before the answer.
    const hasty = connect(bench.port, '127.0.0.1', () => {
      hasty.write('MEAS:RES?\n');
      hasty.destroy();
    });
    await once(hasty, 'close');
    expect(await raw(bench.port, 'SYST:VERS?\n', 3000)).toBe('1999.0\n');
  });
  it('stops when it is told to, with clients on it', async () => {
    const other = await simulate();
    const socket = connect(other.port, '127.0.0.1');
    // A reset is how the other side lets go.
    socket.on('error', () => undefined);
    await once(socket, 'connect');
    other.child.kill('SIGTERM');
    const [code] = (await once(other.child, 'exit')) as [number];
    expect(code).toBe(0);
    socket.destroy();
  });
  it('says what is wrong with how it was called', async () => {
    expect(await refused(board)).toMatchObject({ status: 2 });
    expect(await refused(board, '--port', '70000')).toMatchObject({ status: 2 });
    expect(await refused('--port', '0')).toMatchObject({ status: 2 });
    expect(await refused(board, '--port', '0', '--seed', '0')).toMatchObject({ status: 2 });
    const fault = await refused(board, '--port', '0', '--fault', 'R999:open');
    expect(fault).toMatchObject({ status: 1, err: expect.stringContaining('R999') as string });
    const setup = await refused(board, '--port', '0', '--setup', 'dancing');
    expect(setup).toMatchObject({ status: 1, err: expect.stringContaining('dancing') as string });
    const taken = await refused(board, '--port', String(bench.port));
    expect(taken).toMatchObject({
      status: 1,
      err: expect.stringContaining('EADDRINUSE') as string,
    });
  });
});
