import type { ReadingKind, ReadingValue } from '@hanzai/core/instrument';
import { unitOf } from '@hanzai/core/instrument';
import { LinkSlow, type MeterLink } from './link';
import { HEADER, nameOf, readingOf } from './spoken';
import { SteadyHold } from './steady';

/** What a live meter shows at this moment. */
export interface LiveShown {
  readonly kind: ReadingKind;
  readonly value: ReadingValue;
  readonly isAtRest: boolean;
}

export interface LiveListener {
  /** It has said who it is. */
  readonly onName: (name: string) => void;
  /** A new value; undefined where there is none to show. */
  readonly onShown: (shown: LiveShown | undefined) => void;
  /** A value that has come to rest, once. */
  readonly onSteady: (kind: ReadingKind, value: ReadingValue) => void;
  /** What is odd about what it answers; undefined where all is well again. Nothing is filed of it. */
  readonly onTrouble: (words: string | undefined) => void;
  /** It is gone for good. */
  readonly onLost: (why: string) => void;
}

/** Between two looks where there is nothing to measure, ms. */
const IDLE_MILLISECONDS = 300;
/** Ohms below nothing by more than this are no ohms. */
const LEAST_OHM = -0.3;

const sleep = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds));

/** Reads an instrument over and over, in the function that is asked for. */
export class LiveMeter {
  private wanted: ReadingKind | undefined;
  private isOpen = true;
  private hold: SteadyHold | undefined;

  constructor(
    private readonly link: MeterLink,
    private readonly listener: LiveListener,
    private readonly idle = IDLE_MILLISECONDS,
    private readonly clock: () => number = () => performance.now(),
  ) {}

  /**
   * What is to be measured now; undefined for nothing. probes: whether they are on it already, or
   * have still to be moved there, in which case what they lie on now is not taken for it.
   */
  want(kind: ReadingKind | undefined, probes: 'there' | 'elsewhere'): void {
    this.hold = kind && new SteadyHold(unitOf(kind), probes === 'elsewhere');
    this.wanted = kind;
  }

  close(): void {
    this.isOpen = false;
    this.link.close();
  }

  /** Runs until it is closed or the instrument is gone. */
  async run(): Promise<void> {
    try {
      const identity = await this.patiently(() => this.link.ask('*IDN?'));
      if (identity === undefined) return;
      const name = nameOf(identity);
      if (name === undefined)
        throw new Error(`it says "${identity.slice(0, 60)}" when asked who it is: no instrument`);
      this.listener.onName(name);
      await this.read();
    } catch (error) {
      if (!this.isOpen) return;
      this.isOpen = false;
      this.link.close();
      this.listener.onLost((error as Error).message);
    }
  }

  private async read(): Promise<void> {
    let set: ReadingKind | undefined;
    while (this.isOpen) {
      const kind = this.wanted;
      const header = kind && HEADER[kind];
      if (kind === undefined || header === undefined) {
        set = undefined;
        this.listener.onShown(undefined);
        await sleep(this.idle);
        continue;
      }
      if (set !== kind) {
        const refused = await this.configure(header);
        this.listener.onTrouble(refused);
        if (refused !== undefined) {
          this.listener.onShown(undefined);
          await sleep(4 * this.idle);
          continue;
        }
        set = kind;
      }
      const answer = await this.patiently(() => this.link.ask('READ?'));
      // Asked for something else meanwhile: the answer is to no question any more.
      if (answer !== undefined && kind === this.wanted && this.isOpen) this.take(kind, answer);
    }
  }

  /** Returns why the instrument does not take the function. */
  private async configure(header: string): Promise<string | undefined> {
    await this.link.tell(`*CLS;:CONFigure:${header}`);
    const error = await this.patiently(() => this.link.ask('SYSTem:ERRor?'));
    if (error === undefined || /^[+-]?0\b/.test(error.trim())) return undefined;
    return `it does not measure this: ${error.trim().slice(0, 80)}`;
  }

  private take(kind: ReadingKind, answer: string): void {
    const value = readingOf(kind, answer);
    const odd = value === undefined ? garbled(answer) : impossible(kind, value);
    this.listener.onTrouble(odd);
    if (value === undefined || odd !== undefined) {
      this.hold = new SteadyHold(unitOf(kind));
      this.listener.onShown(undefined);
      return;
    }
    const steady = this.hold?.see(value, this.clock());
    this.listener.onShown({ kind, value, isAtRest: this.hold?.isAtRest ?? false });
    if (steady !== undefined) this.listener.onSteady(kind, steady);
  }

  /** Asks again while it is only slow; undefined where it was closed meanwhile. */
  private async patiently(ask: () => Promise<string>): Promise<string | undefined> {
    while (this.isOpen) {
      try {
        return await ask();
      } catch (error) {
        if (!(error instanceof LinkSlow)) throw error;
        this.listener.onTrouble(`it is slow: ${error.message}`);
        this.listener.onShown(undefined);
        // What was at rest before the silence is not known to be so still.
        if (this.wanted) this.hold = new SteadyHold(unitOf(this.wanted));
        await sleep(this.idle);
      }
    }
    return undefined;
  }
}

const garbled = (answer: string): string =>
  `it answers "${answer.trim().slice(0, 40)}", which is no reading`;

/** What no sound instrument shows on a board without power. */
function impossible(kind: ReadingKind, value: ReadingValue): string | undefined {
  if (typeof value !== 'number') return undefined;
  if ((kind === 'resistance' || kind === 'esr') && value < LEAST_OHM)
    return 'ohms below nothing: there are volts on the board, or the leads were zeroed wrongly';
  return undefined;
}
