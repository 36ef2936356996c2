import { indexBoard, type BoardIndex } from '@hanzai/core/board';
import { Diagnoser, esrSurvey } from '@hanzai/core/diagnosis';
import {
  BenchState,
  resolveMeasurement,
  type Measurement,
  type Reading,
} from '@hanzai/core/instrument';
import { candidateMeasurements, planNext } from '@hanzai/core/plan';
import { RATES } from '@hanzai/data';
import type { HypothesisSpace, SingleHypothesis } from '@hanzai/core/fault';
import { driveBoard } from './drive-board';

/** What one generated board took. Times in milliseconds. */
export interface BenchRow {
  readonly parts: number;
  readonly discrete: boolean;
  readonly asGoal: boolean;
  readonly nets: number;
  readonly faults: number;
  readonly readings: number;
  /** Every fault at every severity solved in the powered setup, and the first reading judged. */
  readonly dictionary: number;
  /** The first ohms reading after it. */
  readonly off: number;
  /** The first ranking of everything that could be measured. */
  readonly firstPlan: number;
  /**
   * Medians over further readings, each at a new net: to a new ranking of the suspects, and from
   * that to the next suggestion.
   */
  readonly reading: number;
  readonly plan: number;
  readonly esrSurvey: number;
}

/** What is the matter with the board. */
const TRUTH = 'C3:short';
/** Further readings over which medians are taken. */
const FURTHER = 15;

function timed<T>(work: () => T): [T, number] {
  const started = performance.now();
  const result = work();
  return [result, performance.now() - started];
}

function measure(index: BoardIndex, kind: string, at: string): Measurement {
  const result = resolveMeasurement(index, '', kind, at, '');
  if (!result.ok) throw new Error(result.what);
  return result.measurement;
}

/**
 * Reads off a board on which one electrolytic behind the regulator has shorted, at its middle
 * severity: most of the board is then without a level, the hard case.
 */
function reader(index: BoardIndex, { space }: Diagnoser): (kind: string, at: string) => Reading {
  const truth = space.hypotheses.find(({ name }) => name === TRUTH)!;
  const faults = [
    { fault: truth.fault, severity: truth.severities[truth.severities.length >> 1]! },
  ];
  return (kind, at) => {
    const measurement = measure(index, kind, at);
    const response = new BenchState(index, {
      setup: measurement.setup,
      faults,
      absent: [],
    }).respond(measurement);
    if ('ok' in response) throw new Error(response.why);
    return { measurement, value: response.value };
  };
}

/**
 * Which board, and what is asked of it: every fault and reading that it has, or as many as the goal
 * was set for.
 */
export interface BenchBoard {
  readonly parts: number;
  readonly discrete: boolean;
  readonly asGoal: boolean;
}

/**
 * What the goals were set for: so many faults a part (900 on 300 parts), taken evenly from all of
 * them, and the kinds of readings that make some two a part.
 */
const GOAL = { faultsPerPart: 3, allow: ['voltage', 'logic', 'resistance'] } as const;

/** Knows some of the faults only. */
class FewerFaults extends Diagnoser {
  private kept: HypothesisSpace | undefined;

  override get space(): HypothesisSpace {
    if (this.kept) return this.kept;
    const { hypotheses, ...rest } = super.space;
    const every =
      hypotheses.length /
      (GOAL.faultsPerPart * Math.round(this.index.board.parts.length / 100) * 100);
    const chosen = hypotheses.filter(
      ({ name }, i) => name === TRUTH || Math.floor(i / every) !== Math.floor((i - 1) / every),
    );
    const [all, some] = [hypotheses, chosen].map((list) =>
      list.reduce((sum, { prior }) => sum + prior, 0),
    ) as [number, number];
    return (this.kept = {
      ...rest,
      hypotheses: chosen.map((h) => ({ ...h, prior: (h.prior * all) / some })),
    });
  }
}

/**
 * Takes a generated drive board of about so many parts through a search. discrete: without chips.
 * done: told when it is over, while everything is still held.
 */
export function benchBoard(
  { parts, discrete, asGoal }: BenchBoard,
  done: () => void = () => undefined,
): BenchRow {
  const index = indexBoard(driveBoard(parts, 7, discrete));
  const diagnoser = asGoal ? new FewerFaults(index, RATES) : new Diagnoser(index, RATES);
  const options = asGoal ? { allow: GOAL.allow } : {};
  const read = reader(index, diagnoser);
  const readings = [
    read('voltage', 'V12'),
    read('voltage', 'V5'),
    read('resistance', 'V5'),
    read('voltage', 'VF'),
  ];
  const [, dictionary] = timed(() => diagnoser.believe(readings.slice(0, 1)));
  const [, off] = timed(() => diagnoser.believe(readings.slice(0, 3)));
  const belief = diagnoser.believe(readings);
  const [, firstPlan] = timed(() => planNext(diagnoser, readings, belief, options));
  const nets = index.nets.filter((net) => !['0', 'V12', 'V5', 'VF'].includes(net));
  const every = Math.max(1, Math.floor(nets.length / FURTHER));
  const further = nets
    .filter((_, i) => i % every === 0)
    .slice(0, FURTHER)
    .map((net) => {
      const all = [...readings, read('voltage', net)];
      const [now, reading] = timed(() => diagnoser.believe(all));
      const [, plan] = timed(() => planNext(diagnoser, all, now, options));
      return { reading, plan };
    });
  const [, survey] = timed(() => esrSurvey(index));
  done();
  return {
    parts: index.board.parts.length,
    discrete,
    asGoal,
    nets: index.nets.length,
    faults: diagnoser.space.hypotheses.length,
    readings: candidateMeasurements(index, options.allow).length,
    dictionary,
    off,
    firstPlan,
    reading: median(further.map((one) => one.reading)),
    plan: median(further.map((one) => one.plan)),
    esrSurvey: survey,
  };
}

/**
 * A sweep of resistor faults over the discrete board: which, the volts of V5 under each, and what
 * it took each time.
 */
export interface Sweep {
  readonly faults: readonly {
    readonly ref: string;
    readonly mode: string;
    readonly ohm: number;
    readonly severity: number;
  }[];
  readonly volts: readonly number[];
  readonly times: readonly number[];
}

/** times: how often in a row; by the last the code is compiled. */
export const SWEPT = { parts: 300, net: 'V5', times: 5 } as const;

export function sweepFaults(): Sweep {
  const index = indexBoard(driveBoard(SWEPT.parts, 7, true));
  const m = measure(index, 'voltage', SWEPT.net);
  const faults = new Diagnoser(index, RATES).space.hypotheses.filter(
    (h): h is SingleHypothesis => h.fault.type === 'mode' && h.fault.part.kind === 'resistor',
  );
  const once = (): [number[], number] => {
    const { predictor } = new Diagnoser(index, RATES);
    return timed(() => {
      predictor.healthy(m);
      return faults.map((h) => predictor.at(h, h.severities.length >> 1, m).value);
    });
  };
  const sweeps = Array.from({ length: SWEPT.times }, once);
  const named = faults.flatMap(({ name, fault, severities }) =>
    fault.type === 'mode' && fault.part.kind === 'resistor'
      ? [
          {
            ref: fault.part.ref,
            mode: name.split(':')[1]!,
            ohm: fault.part.resistanceOhm,
            severity: severities[severities.length >> 1]!,
          },
        ]
      : [],
  );
  return { faults: named, volts: sweeps[0]![0], times: sweeps.map(([, time]) => time) };
}

function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1]!;
}
