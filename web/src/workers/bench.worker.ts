import { expose } from 'comlink';
import { hiddenFault, simulatedBench, type BenchWish } from '@hanzai/core/simulated';
import { RATES } from '@hanzai/data';
import type { ScpiInstrument } from '@hanzai/core/scpi';

/** A simulated bench in a worker: what a page can do with it. */
export class BenchDoor {
  private bench?: ScpiInstrument;

  /**
   * Puts a board on the bench; where no fault is named, one is hidden on it. Returns what is wrong
   * with it by name, or why it could not be set up.
   */
  open(wish: BenchWish): readonly string[] | string {
    const faults = wish.faults.length > 0 ? wish.faults : hiddenFault(wish.board, wish.seed, RATES);
    try {
      this.bench = simulatedBench(
        { ...wish, faults },
        {
          now: () => performance.now(),
          wait: (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds)),
        },
      );
    } catch (error) {
      return (error as Error).message;
    }
    return faults;
  }

  /** Carries out a program message. Returns its answer; empty where it has none. */
  async say(message: string): Promise<string> {
    return (await this.bench?.execute(message)) ?? '';
  }
}

expose(new BenchDoor());
