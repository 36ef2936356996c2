// The diagnosis by a dictionary and nothing else: every fault at every severity, and every pair of
// an open and a short, solved in full and held against the readings. What the engine is compared
// with on sheets that are exact. Knows no priors, no causes, no likelihood but the distance of each
// reading.
import type { BoardIndex } from '@hanzai/core/board';
import { severityGrid } from '@hanzai/core/device';
import {
  severityOf,
  singleFaults,
  faultRef,
  type Fault,
  type FaultState,
} from '@hanzai/core/fault';
import {
  BenchState,
  measurementKey,
  type Measurement,
  type Reading,
} from '@hanzai/core/instrument';
import { standsFor, type CorpusCase } from '../core/test/reference/corpus';

/**
 * Uncertainty of a reading for the dictionary: share of the value and a floor in the reading's
 * unit.
 */
const UNSURE: Readonly<Record<string, readonly [number, number]>> = {
  voltage: [0.015, 0.02],
  resistance: [0.03, 0.3],
  esr: [0.15, 0.05],
  diode: [0.02, 0.01],
};
/** A reading off by more than this counts no more, standard deviations. */
const MOST_OFF = 6;
/** Opens and shorts are paired at so many points of the short's range. */
const PAIR_POINTS = 5;

interface Entry {
  readonly refs: readonly string[];
  readonly answers: ReadonlyMap<string, number>;
}

/**
 * Each fault by itself and each pair, with what all of the board's readings would show. Lives for
 * one board.
 */
export class BruteForce {
  private readonly entries: readonly Entry[];

  constructor(
    private readonly index: BoardIndex,
    measurements: readonly Measurement[],
  ) {
    const faults = singleFaults(index).filter(({ type }) => type === 'mode' || type === 'dry');
    const single = faults.flatMap((fault) =>
      severityGrid(severityOf(fault)).map((severity) => [{ fault, severity }]),
    );
    const opens = faults.filter((fault) => fault.type === 'mode' && fault.mode.name === 'open');
    const shorts = faults.filter(
      (fault) => fault.type === 'mode' && fault.mode.name.startsWith('short'),
    );
    const points = (fault: Fault): readonly number[] => {
      const { low, high } = severityOf(fault);
      return Array.from(
        { length: PAIR_POINTS },
        (_, i) => low * (high / low) ** (i / (PAIR_POINTS - 1)),
      );
    };
    const pairs = opens.flatMap((open) =>
      shorts.flatMap((short) =>
        faultRef(open) === faultRef(short)
          ? []
          : points(short).map((severity) => [{ fault: open }, { fault: short, severity }]),
      ),
    );
    this.entries = [[], ...single, ...pairs].map((states: readonly FaultState[]) => ({
      refs: states.map(({ fault }) => faultRef(fault)),
      answers: this.solve(states, measurements),
    }));
  }

  private solve(
    faults: readonly FaultState[],
    measurements: readonly Measurement[],
  ): ReadonlyMap<string, number> {
    const states = new Map<string, BenchState>();
    return new Map(
      measurements.flatMap((m): [string, number][] => {
        let own = states.get(m.setup);
        if (!own)
          states.set(
            m.setup,
            (own = new BenchState(this.index, { setup: m.setup, faults, absent: [] })),
          );
        const answer = own.respond(m);
        return 'ok' in answer || answer.unknown ? [] : [[measurementKey(m), answer.value]];
      }),
    );
  }

  /**
   * Parts in the order of the entries that come nearest, and whether the sound board is as near as
   * any.
   */
  rank(readings: readonly Reading[]): {
    readonly refs: readonly string[];
    readonly isSound: boolean;
  } {
    const far = this.entries.map(({ answers }) =>
      readings.reduce(
        (sum, { measurement: m, value }) =>
          sum + off(m.kind, answers.get(measurementKey(m)), value),
        0,
      ),
    );
    const order = [...far.keys()].sort(
      (a, b) => far[a]! - far[b]! || this.entries[a]!.refs.length - this.entries[b]!.refs.length,
    );
    return {
      refs: [...new Set(order.flatMap((e) => this.entries[e]!.refs))],
      isSound: far[0]! <= far[order[0]!]! + MOST_OFF,
    };
  }

  score(
    one: CorpusCase,
    readings: readonly Reading[],
  ): {
    readonly first: boolean;
    readonly three: boolean;
    readonly four: boolean;
    readonly peace: boolean;
  } {
    const { refs, isSound } = this.rank(readings);
    const among = (count: number, alike: readonly string[]): boolean =>
      refs.slice(0, count).some((ref) => standsFor(ref, alike));
    return {
      first: one.alike.some((alike) => among(1, alike)),
      three: one.alike.some((alike) => among(3, alike)),
      four: one.alike.every((alike) => among(4, alike)),
      peace: isSound,
    };
  }
}

function off(kind: string, answer: number | undefined, value: Reading['value']): number {
  if (answer === undefined) return MOST_OFF ** 2;
  if (value === 'OL' || !Number.isFinite(answer))
    return value === 'OL' && !Number.isFinite(answer) ? 0 : MOST_OFF ** 2;
  const [share, floor] = UNSURE[kind] ?? [0.02, 0.02];
  return (
    Math.min(
      MOST_OFF,
      Math.abs(answer - Number(value)) /
        Math.hypot(share * Math.max(Math.abs(answer), Math.abs(Number(value))), floor),
    ) ** 2
  );
}
