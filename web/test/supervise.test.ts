import { spawn } from 'node:child_process';
import { createServer as createHttpServer } from 'node:http';
import { describe, expect, it } from 'vitest';

interface Running {
  ended: Promise<string>;
  stop: () => Promise<void>;
}
const { keepAlive, endChild, endOf } = (await import(
  new URL('../../scripts/supervise.mjs', import.meta.url).href
)) as {
  keepAlive: (
    name: string,
    start: () => Promise<Running>,
    options: { say?: (line: string) => void; pauses?: number[] },
  ) => Promise<{ stop: () => Promise<void>; current: Running }>;
  endChild: (child: unknown, signal?: string, grace?: number) => Promise<void>;
  endOf: (child: unknown) => Promise<string>;
};
const { addressToUse } = (await import(
  new URL('../../scripts/address.mjs', import.meta.url).href
)) as {
  addressToUse: (env: Record<string, string>) => Promise<{ host: string; port: number }>;
};

/** Something that runs until it is told to end or ended from outside. */
function fake(): Running & { end: (how: string) => void; stopped: number } {
  let end: (how: string) => void = () => undefined;
  const ended = new Promise<string>((resolve) => (end = resolve));
  const running = {
    ended,
    end,
    stopped: 0,
    stop: async () => void ((running.stopped += 1), end('asked to')),
  };
  return running;
}

const turn = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 15));
/** Waits until something is so, however slow the machine is. */
const until = async (isSo: () => boolean): Promise<void> => {
  for (let waited = 0; waited < 500 && !isSo(); waited += 1) await turn();
};

describe('what is kept alive', () => {
  it('is started again each time it ends, with a line that says so, and not after it was stopped', async () => {
    const made: ReturnType<typeof fake>[] = [];
    const said: string[] = [];
    const kept = await keepAlive('it', async () => (made.push(fake()), made.at(-1)!), {
      say: (line) => said.push(line),
      pauses: [1, 1],
    });
    made[0]!.end('signal SIGKILL');
    await until(() => made.length === 2 && said.length === 2);
    made[1]!.end('status 3');
    await until(() => made.length === 3 && said.length === 4);
    expect(made).toHaveLength(3);
    expect(said.filter((line) => /ended \((signal SIGKILL|status 3)\)/.test(line))).toHaveLength(2);
    await kept.stop();
    expect(made[2]!.stopped).toBe(1);
    await turn();
    expect(made).toHaveLength(3);
  });
  it('waits longer with every failure in a row, and goes on trying', async () => {
    const said: string[] = [];
    let starts = 0;
    const first = fake();
    const start = async (): Promise<Running> => {
      starts += 1;
      if (starts === 1) return first;
      if (starts < 5) throw new Error('no room\nwith a second line');
      return fake();
    };
    const kept = await keepAlive('it', start, {
      say: (line) => said.push(line),
      pauses: [1, 2, 3],
    });
    first.end('status 1');
    await until(() => said.includes('it is up again'));
    expect(starts).toBe(5);
    expect(said.flatMap((line) => /again in ([\d.]+) s/.exec(line)?.[1] ?? [])).toEqual([
      '0.001',
      '0.002',
      '0.003',
      '0.003',
    ]);
    expect(said).toContain('it did not start: no room');
    await kept.stop();
  });
  it('stops at once while it waits for the next start', async () => {
    const first = fake();
    const kept = await keepAlive('it', async () => first, { pauses: [60_000] });
    first.end('status 1');
    await turn();
    const started = performance.now();
    await kept.stop();
    expect(performance.now() - started).toBeLessThan(1000);
  });
  it('does not try again what never came up', async () => {
    let starts = 0;
    const start = async (): Promise<Running> => {
      starts += 1;
      throw new Error('never');
    };
    await expect(keepAlive('it', start, { pauses: [1] })).rejects.toThrow('never');
    await turn();
    expect(starts).toBe(1);
  });
});

describe('a child process', () => {
  const node = (script: string) =>
    spawn(process.execPath, ['-e', script], { stdio: ['ignore', 'pipe', 'ignore'] });
  it('is ended by force where it does not listen', async () => {
    const child = node(
      "process.on('SIGTERM', () => {}); console.log('up'); setInterval(() => {}, 1000)",
    );
    await new Promise((resolve) => child.stdout!.once('data', resolve));
    await endChild(child, 'SIGTERM', 100);
    expect(child.signalCode).toBe('SIGKILL');
    // One that is gone already is no reason to wait.
    await endChild(child);
  });
  it('tells how it ended, whenever it is asked', async () => {
    const child = node('process.exit(7)');
    expect(await endOf(child)).toBe('status 7');
    expect(await endOf(child)).toBe('status 7');
    expect(await endOf(spawn('/no/such/program'))).toMatch(/ENOENT/);
  });
});

describe('where it listens', () => {
  it.each(['0', '65536', '-1', '80x', '4711 ', '1e3', '٤٧١١'])(
    'PORT=%s is refused in one sentence',
    async (PORT) => {
      await expect(addressToUse({ PORT })).rejects.toThrow(
        /^PORT=.* is no port: a whole number from 1 to 65535 is\.$/,
      );
    },
  );
  it.each(['0.0.0.0', '::', '192.168.1.7', 'example.org'])(
    'HOST=%s lets nobody in unless it is meant',
    async (HOST) => {
      await expect(addressToUse({ HOST })).rejects.toThrow(/HANZAI_ALLOW_NETWORK=1/);
    },
  );
  it('a taken port says by what, and a host that is none says so', async () => {
    const body = '{"state":"ready","instance":"x"}';
    const other = createHttpServer((_, response) =>
      response.setHeader('content-type', 'application/json').end(body),
    );
    const port = await new Promise<number>((resolve) =>
      other.listen(0, '127.0.0.1', () => resolve((other.address() as { port: number }).port)),
    );
    await expect(addressToUse({ PORT: String(port) })).rejects.toThrow(
      /is taken by another Hanzai/,
    );
    other.closeAllConnections();
    await new Promise((resolve) => other.close(resolve));
    expect(await addressToUse({ PORT: String(port) })).toEqual({ host: '127.0.0.1', port });
    await expect(
      addressToUse({ HOST: '203.0.113.9', HANZAI_ALLOW_NETWORK: '1', PORT: String(port) }),
    ).rejects.toThrow(/is no address of this machine/);
  });
});
