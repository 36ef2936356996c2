import type { BoardIndex } from '../board';
import type { BoardState, FaultState, LinearChange } from '../fault';
import { BenchState } from './bench-state';
import type { Measurement } from './measurement';
import type { Response } from './response';
import type { VoltSnapshot } from './snapshot';

/**
 * How a board with faults is solved that differs a little from one that was solved. Two do it: by
 * what the faults change, and as a whole; a script compares them over every fault of every demo
 * board (`npm run compare-solvers`).
 */
export interface FaultSolver {
  /**
   * Volts of every net with the faults, against the sound board's; null where there is no solution.
   * whole: the faulty board, solved as a whole where it has to be.
   */
  snapshot(
    sound: BenchState,
    faults: readonly FaultState[],
    whole: () => BenchState,
  ): VoltSnapshot | null;
  /** Ohms, continuity and diode tests with the faults; undefined where the whole has to be asked. */
  respond(sound: BenchState, faults: readonly FaultState[], m: Measurement): Response | undefined;
  /** Any reading after one admittance has changed; undefined where the whole has to be asked. */
  after(sound: BenchState, m: Measurement, change: LinearChange): Response | undefined;
  /** The faulty board as a whole. */
  state(index: BoardIndex, state: BoardState, sound: BenchState): BenchState;
}

/** Solves by what the faults change, where that can be done, and begins from the sound board. */
export const INCREMENTAL: FaultSolver = {
  snapshot: (sound, faults, whole) => sound.snapshotWith(faults) ?? whole().snapshot() ?? null,
  respond: (sound, faults, m) => sound.respondWith(faults, m),
  after: (sound, m, change) => sound.respondAfter(m, change),
  state: (index, state, sound) => {
    sound.solve();
    return new BenchState(index, state, sound);
  },
};

/** Solves every faulty board by itself, from nothing. Slow, and what the other is held against. */
export const WHOLE_BOARD: FaultSolver = {
  snapshot: (_sound, _faults, whole) => whole().snapshot() ?? null,
  respond: () => undefined,
  after: () => undefined,
  state: (index, state) => new BenchState(index, state),
};
