import { connect, type Socket } from 'node:net';

/** What a talk with an instrument came to. */
export type Talked =
  | { readonly ok: true; readonly answer: string | null }
  | {
      readonly ok: false;
      readonly why: 'forbidden' | 'unreachable' | 'slow';
      readonly detail: string;
    };

export interface Said {
  readonly host: string;
  readonly port: number;
  /** One program message, without its end of line. */
  readonly message: string;
  readonly isQuery: boolean;
}

const LOOPBACK: readonly string[] = ['127.0.0.1', '::1', 'localhost'];
/** Lower ports belong to the machine's own services. */
const LOWEST_PORT = 1024;
const CONNECT_MILLISECONDS = 3000;
const ANSWER_MILLISECONDS = 10_000;
/** A line that nobody spoke on for so long is let go. */
const IDLE_MILLISECONDS = 60_000;
const LONGEST_ANSWER = 65_536;
/** Instruments that are spoken to at once. */
const MOST_LINES = 20;

/**
 * Whether an address may be spoken to. Loopback, and what the workshop has put on its list: hosts,
 * or hosts with a port, parted by commas.
 */
export function isAllowed(host: string, port: number, list = ''): boolean {
  if (port < LOWEST_PORT) return false;
  const wanted = host.toLowerCase();
  if (LOOPBACK.includes(wanted)) return true;
  return list
    .toLowerCase()
    .split(',')
    .map((one) => one.trim())
    .some((one) => one !== '' && (one === wanted || one === `${wanted}:${port}`));
}

/** One line to an instrument: connected, introduced, and spoken on by one message at a time. */
class Line {
  private socket: Socket | undefined;
  private held = '';
  private waiting: ((line: string) => void) | undefined;
  private broken: ((error: Error) => void) | undefined;
  private turn: Promise<unknown> = Promise.resolve();
  private idle: NodeJS.Timeout | undefined;

  constructor(
    private readonly host: string,
    private readonly port: number,
    private readonly patience: number,
    private readonly onGone: () => void,
  ) {}

  say(message: string, isQuery: boolean): Promise<string | null> {
    const done = this.turn.then(() => this.exchange(message, isQuery));
    this.turn = done.catch(() => undefined);
    return done;
  }

  private async exchange(message: string, isQuery: boolean): Promise<string | null> {
    clearTimeout(this.idle);
    try {
      if (!this.socket) await this.open();
      const answer = await this.send(message, isQuery);
      this.idle = setTimeout(() => this.end(), IDLE_MILLISECONDS).unref();
      return answer;
    } catch (error) {
      // After a silence nobody knows which question the next answer is to.
      this.end();
      throw error;
    }
  }

  /** Connects, and makes sure that it is an instrument before anything else is said to it. */
  private async open(): Promise<void> {
    const socket = connect({ host: this.host, port: this.port });
    this.socket = socket;
    socket.setEncoding('latin1');
    socket.setNoDelay(true);
    socket.on('data', (data) => this.hear(String(data)));
    const gone = (): void => this.broken?.(new Error('it hung up'));
    socket.on('close', () => {
      gone();
      this.end();
    });
    await timed(
      CONNECT_MILLISECONDS,
      'it does not take the call',
      new Promise<void>((resolve, reject) => {
        socket.once('connect', resolve);
        socket.on('error', (error: NodeJS.ErrnoException) =>
          reject(new Error(`it cannot be reached (${error.code ?? error.message})`)),
        );
      }),
    );
    const identity = await this.send('*IDN?', true);
    if (identity?.split(',').length !== 4)
      throw new Error('it does not answer *IDN? as an instrument does');
  }

  private hear(data: string): void {
    this.held += data;
    if (this.held.length > LONGEST_ANSWER) {
      this.broken?.(new Error('it answers without end'));
      return;
    }
    const end = this.held.indexOf('\n');
    if (end < 0) return;
    const line = this.held.slice(0, end).replace(/\r$/, '');
    this.held = this.held.slice(end + 1);
    this.waiting?.(line);
  }

  private send(message: string, isQuery: boolean): Promise<string | null> {
    // What came unasked is no answer to this.
    this.held = '';
    const answered = new Promise<string | null>((resolve, reject) => {
      this.waiting = isQuery ? resolve : undefined;
      this.broken = reject;
      this.socket!.write(`${message}\n`, 'latin1', (error) => {
        if (error) reject(new Error('it hung up'));
        else if (!isQuery) resolve(null);
      });
    });
    return timed(this.patience, undefined, answered);
  }

  end(): void {
    clearTimeout(this.idle);
    const { socket } = this;
    this.socket = undefined;
    socket?.removeAllListeners('close');
    socket?.on('error', () => undefined);
    socket?.destroy();
    this.onGone();
  }
}

class Slow extends Error {}

/** words: what to say where nothing came; where not given it is the instrument that is slow. */
function timed<T>(milliseconds: number, words: string | undefined, work: Promise<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => {
      reject(
        words === undefined ? new Slow(`no answer for ${milliseconds / 1000} s`) : new Error(words),
      );
    }, milliseconds);
    work.then(resolve, reject).finally(() => clearTimeout(timer));
  });
}

/** The instruments that the server speaks to over the network. */
export class Switchboard {
  private readonly lines = new Map<string, Line>();

  /** list: addresses beside loopback, as in isAllowed. patience: for an answer, ms. */
  constructor(
    private readonly list: string,
    private readonly patience = ANSWER_MILLISECONDS,
  ) {}

  async say({ host, port, message, isQuery }: Said): Promise<Talked> {
    if (!isAllowed(host, port, this.list))
      return {
        ok: false,
        why: 'forbidden',
        detail: `${host} port ${port} is not on this workshop's list of instruments (HANZAI_INSTRUMENTS)`,
      };
    const key = `${host.toLowerCase()} ${port}`;
    if (!this.lines.has(key) && this.lines.size >= MOST_LINES)
      return { ok: false, why: 'unreachable', detail: `${MOST_LINES} instruments are in use` };
    let line = this.lines.get(key);
    if (!line) {
      const own = new Line(host, port, this.patience, () => {
        if (this.lines.get(key) === own) this.lines.delete(key);
      });
      this.lines.set(key, (line = own));
    }
    try {
      return { ok: true, answer: await line.say(message, isQuery) };
    } catch (error) {
      const detail = `${host} port ${port}: ${(error as Error).message}`;
      return { ok: false, why: error instanceof Slow ? 'slow' : 'unreachable', detail };
    }
  }

  /** Hangs up on all of them. */
  close(): void {
    for (const line of [...this.lines.values()]) line.end();
  }
}
