import { createServer, type Server, type Socket } from 'node:net';
import { checkBench, simulatedBench, type BenchTime, type BenchWish } from '@hanzai/core/simulated';
import { InputError, readArguments, UsageError } from './arguments';
import { loadBoard } from './files';

/** Characters that a client may send without an end of line before it is let go of. */
const LONGEST_LINE = 65_536;

const REAL_TIME: BenchTime = {
  now: () => performance.now(),
  wait: (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds)),
};

/**
 * simulate BOARD [--fault F]… [--setup S] --port N [--seed N] [--slips]: serves a bench on loopback
 * until it is told to stop. Port 0 takes any that is free. Resolves with the exit status.
 */
export async function simulate(words: readonly string[]): Promise<number> {
  const args = readArguments(words, ['fault', 'setup', 'port', 'seed'], ['slips', 'exact']);
  const [file, more] = args.positionals;
  if (file === undefined || more !== undefined) throw new UsageError('expected simulate BOARD');
  const port = wholeNumber('port', args.text('port'), 0, 65_535);
  const seed = wholeNumber('seed', args.text('seed') ?? '1', 1, 2_147_483_646);
  const setup = args.text('setup');
  const wish: BenchWish = {
    board: loadBoard(file).board,
    faults: args.list('fault'),
    ...(setup === undefined ? {} : { setup }),
    seed,
    slips: args.flag('slips'),
    exact: args.flag('exact'),
  };
  try {
    checkBench(wish);
  } catch (error) {
    throw new InputError(`${file}: ${(error as Error).message}`);
  }
  const server = serveBench(wish);
  await new Promise<void>((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(new InputError(`port ${port}: ${error.code ?? error.message}`)),
    );
    server.listen(port, '127.0.0.1', resolve);
  });
  const { port: taken } = server.address() as { port: number };
  // Ready to be stopped before anybody is told that it runs.
  const stopped = new Promise<void>((resolve) => {
    process.once('SIGTERM', resolve);
    process.once('SIGINT', resolve);
  });
  process.stdout.write(`A bench with ${wish.board.title} listens at 127.0.0.1 port ${taken}\n`);
  await stopped;
  server.close();
  return 0;
}

/** A server that speaks for one bench, to several clients at once: one program message a line. */
export function serveBench(wish: BenchWish, time = REAL_TIME): Server {
  const bench = simulatedBench(wish, time);
  const server = createServer((socket) => {
    clients.add(socket);
    socket.setNoDelay(true);
    // Bytes as they are: a program message is ASCII, and a block may hold any.
    socket.setEncoding('latin1');
    let held = '';
    socket.on('data', (data) => {
      held += String(data);
      const lines = held.split('\n');
      held = lines.pop()!;
      if (held.length > LONGEST_LINE) socket.destroy();
      for (const line of lines)
        void bench.execute(line.replace(/\r$/, '')).then((answer) => {
          if (answer !== undefined && !socket.destroyed) socket.write(`${answer}\n`, 'latin1');
        });
    });
    // A client that goes away in the middle of an answer is no concern of the bench's.
    socket.on('error', () => socket.destroy());
    socket.on('close', () => clients.delete(socket));
  });
  const clients = new Set<Socket>();
  const close = server.close.bind(server);
  server.close = (done) => {
    for (const client of clients) client.destroy();
    return close(done);
  };
  return server;
}

function wholeNumber(name: string, text: string | undefined, least: number, most: number): number {
  const value = Number(text);
  if (text === undefined || !/^\d+$/.test(text) || value < least || value > most)
    throw new UsageError(`expected --${name} and a whole number from ${least} to ${most}`);
  return value;
}
