import { GROUND, type BoardIndex } from '../board';
import { severityGrid } from '../device';
import { severityOf, type Fault, type FaultState } from '../fault';
import {
  BenchState,
  readout,
  resolveMeasurement,
  type Measurement,
  type Reading,
  type Readout,
} from '../instrument';
import { blank, logLikelihood, scaled } from './likelihood';
import { voltSpanOf } from './volt-span';

/** What a board with faults put on it shows where a reading was taken, and whether that was read. */
export interface WhatIfReading {
  readonly shown: Readout;
  /**
   * Whether the reading is likelier on this board than one of which nothing is known; false is what
   * speaks against the faults.
   */
  readonly fits: boolean;
}

export interface WhatIf {
  /** The faults as bad as the readings have them. */
  readonly faults: readonly FaultState[];
  /** One for each reading; undefined where that board has no answer to it. */
  readonly readings: readonly (WhatIfReading | undefined)[];
  /** Volts of every net to ground with the power on; nets that have no level are left out. */
  readonly volts: ReadonlyMap<string, Readout>;
}

/**
 * What the meter would show on a board with faults put on it: where readings were taken, and as volts
 * on every net. Each fault is taken as bad as it fits the readings best, one fault after the other.
 * No faults: a sound board. absent: parts that are off it now. Cost: a solved circuit for each
 * setup, set of absent parts and severity.
 */
export function whatIf(
  index: BoardIndex,
  faults: readonly Fault[],
  readings: readonly Reading[],
  absent: readonly string[],
): WhatIf {
  const span = voltSpanOf(index);
  let best = new Copy(
    index,
    faults.map((fault): FaultState => ({ fault })),
  );
  if (readings.length > 0)
    faults.forEach((fault, i) => {
      const at = (severity: number): Copy =>
        new Copy(
          index,
          best.faults.map((state, k) => (k === i ? { fault, severity } : state)),
        );
      best = fitted(best, at, severityGrid(severityOf(fault)), (copy) =>
        copy.likelihood(readings, span),
      );
    });
  const volts = new Map<string, Readout>();
  for (const net of index.nets) {
    if (net === GROUND) continue;
    const asked = resolveMeasurement(index, 'on', 'voltage', net, '');
    const response = asked.ok ? best.respond(asked.measurement, absent) : undefined;
    if (response && !response.unknown) volts.set(net, readout('voltage', response));
  }
  return {
    faults: best.faults,
    readings: readings.map((reading) => best.judge(reading, span)),
    volts,
  };
}

const NONE: readonly string[] = [];

/** How often the steps of severity are halved about the best, and into how many each time. */
const CLOSER = { rounds: 2, steps: 4 } as const;

/**
 * The likeliest of a board and of its copies at some severities, and then closer about the best of
 * those, on a log scale.
 */
function fitted(
  first: Copy,
  at: (severity: number) => Copy,
  severities: readonly number[],
  score: (copy: Copy) => number,
): Copy {
  if (severities.length < 2) return first;
  let best = first;
  let grid = severities;
  for (let round = 0; round <= CLOSER.rounds; round += 1) {
    const copies = grid.map(at);
    const scores = copies.map(score);
    const top = scores.indexOf(Math.max(...scores));
    if (scores[top]! > score(best)) best = copies[top]!;
    const [low, high] = [grid[Math.max(0, top - 1)]!, grid[Math.min(grid.length - 1, top + 1)]!];
    const step = Math.log(high / low) / (2 * CLOSER.steps);
    grid = Array.from({ length: 2 * CLOSER.steps + 1 }, (_, k) => low * Math.exp(k * step));
  }
  return best;
}

/** The board with faults put on it, solved where it is asked. */
class Copy {
  private readonly states = new Map<string, BenchState>();
  private sum: number | undefined;

  constructor(
    private readonly index: BoardIndex,
    readonly faults: readonly FaultState[],
  ) {}

  /** Undefined where the board has no solution. */
  respond(m: Measurement, absent: readonly string[]) {
    const key = `${m.setup} ${[...absent].sort().join()}`;
    const state =
      this.states.get(key) ??
      new BenchState(this.index, { setup: m.setup, faults: this.faults, absent });
    this.states.set(key, state);
    const response = state.respond(m);
    return 'ok' in response ? undefined : response;
  }

  /** Log-likelihood of all readings, nats. A reading without an answer says nothing. */
  likelihood(readings: readonly Reading[], span: number): number {
    this.sum ??= readings.reduce((sum, { measurement: m, value, absent = NONE }) => {
      const response = this.respond(m, absent);
      const said = response
        ? logLikelihood(m.kind, value, scaled(m.kind, response), span)
        : Math.log(blank(m.kind, value, span));
      return sum + said;
    }, 0);
    return this.sum;
  }

  judge(
    { measurement: m, value, absent = NONE }: Reading,
    span: number,
  ): WhatIfReading | undefined {
    const response = this.respond(m, absent);
    if (!response || response.unknown) return undefined;
    const said = logLikelihood(m.kind, value, scaled(m.kind, response), span);
    return { shown: readout(m.kind, response), fits: said > Math.log(blank(m.kind, value, span)) };
  }
}
