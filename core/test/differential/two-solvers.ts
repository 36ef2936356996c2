import { RATES } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';
import { indexBoard } from '../../src/board';
import { Diagnoser, Predictor } from '../../src/diagnosis';
import { INCREMENTAL, WHOLE_BOARD, type Response } from '../../src/instrument';
import { candidateMeasurements } from '../../src/plan';

/** What a comparison of the two solvers came to. */
export interface Compared {
  readonly readings: number;
  /** Where the two differ by more than a meter could show. */
  readonly apart: readonly string[];
}

/** Least difference that counts, by kind, in its unit, beside a share of the reading. */
const LEAST = { voltage: 2e-3, resistance: 0.05, esr: 1e-3 } as const;
const SHARE = 5e-3;

function differ(kind: keyof typeof LEAST, one: Response, other: Response): boolean {
  if (one.unknown || other.unknown) return one.unknown !== other.unknown;
  if (!Number.isFinite(one.value) || !Number.isFinite(other.value))
    return Number.isFinite(one.value) !== Number.isFinite(other.value);
  const size = Math.max(Math.abs(one.value), Math.abs(other.value));
  // Above what an ohmmeter reads everything is an open line.
  if (kind === 'resistance' && Math.min(one.value, other.value) > 2e7) return false;
  return Math.abs(one.value - other.value) > LEAST[kind] + SHARE * size;
}

/**
 * Holds the incremental solver against the solver of whole boards: every fault at each severity,
 * against readings of all kinds. every: of those pairs one in so many, spread evenly.
 */
export function compareSolvers(name: Parameters<typeof demoBoard>[0], every: number): Compared {
  const index = indexBoard(demoBoard(name));
  const { hypotheses } = new Diagnoser(index, RATES).space;
  const kinds = ['voltage', 'resistance', 'esr'] as const;
  const measurements = candidateMeasurements(index, [...kinds]);
  const [quick, whole] = [INCREMENTAL, WHOLE_BOARD].map((s) => new Predictor(index, s));
  const apart: string[] = [];
  let [readings, at] = [0, 0];
  for (const hypothesis of hypotheses) {
    for (let i = 0; i < hypothesis.severities.length; i += 1) {
      // A few readings of one faulty board: solving it is what costs.
      for (const m of measurements) {
        at += 1;
        if (at % every !== 0) continue;
        const [one, other] = [quick!, whole!].map((predictor) => predictor.at(hypothesis, i, m));
        readings += 1;
        if (differ(m.kind as (typeof kinds)[number], one!, other!))
          apart.push(
            `${hypothesis.name}@${hypothesis.severities[i]!.toPrecision(3)} ${m.setup} ${m.kind} ${m.at.net}-${m.to.net}: ${one!.value} against ${other!.value}`,
          );
      }
    }
  }
  return { readings, apart };
}
