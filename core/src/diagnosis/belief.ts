import { replaceableRef, type BoardIndex } from '../board';
import { modesOf } from '../device';
import { hypothesisSpace, type Hypothesis, type HypothesisSpace, type RateTable } from '../fault';
import { measurementKey, readout, type Readout, type Reading } from '../instrument';
import { blank } from './likelihood';
import { Predictor } from './prediction';
import { gridLikelihood, gridSize, logMeanExp } from './severity-grid';

export interface Suspect {
  readonly hypothesis: Hypothesis;
  readonly probability: number;
}

export interface PartBelief {
  readonly ref: string;
  readonly probability: number;
  /** Weight of evidence of each reading for this part against everything else, decibans, in the order of the readings; given all the other readings. */
  readonly weights: readonly number[];
}

/** What the readings say. Probabilities of suspects, healthy and unmodelled sum to 1. */
export interface Belief {
  readonly suspects: readonly Suspect[];
  readonly byPart: readonly PartBelief[];
  readonly healthy: number;
  readonly unmodelled: number;
  /** What each reading should have been on a healthy board. */
  readonly expected: readonly Readout[];
}

/** Keeps belief about one board. Likelihoods already computed are kept, so a new reading costs only itself and retracting one costs nothing. */
export class Diagnoser {
  readonly space: HypothesisSpace;
  readonly predictor: Predictor;
  readonly voltSpan: number;
  private readonly refs: readonly string[];
  private readonly likelihoods = new Map<string, readonly Float64Array[]>();

  /** factor: what multiplies a part's prior (looks, age). */
  constructor(
    readonly index: BoardIndex,
    rates: RateTable,
    factor?: (ref: string) => number,
  ) {
    this.space = hypothesisSpace(index, rates, factor);
    this.predictor = new Predictor(index);
    this.voltSpan = Math.max(10, 2 * index.board.parts.reduce((most, part) => Math.max(most, part.kind === 'voltageSource' ? Math.abs(part.volt) : 0), 0));
    this.refs = replaceableParts(index);
  }

  /** Belief after these readings. The order of the readings does not matter to it. */
  believe(readings: readonly Reading[]): Belief {
    const { hypotheses, healthyPrior, unmodelledPrior } = this.space;
    const rows = readings.map((reading) => this.likelihoodsOf(reading));
    const healthyRows = readings.map((reading) => gridLikelihood(reading, [this.predictor.healthy(reading.measurement, reading.absent)], 1, this.voltSpan)[0]!);
    const blankRows = readings.map((reading) => Math.log(blank(reading.measurement.kind, reading.value, this.voltSpan)));
    const totals = hypotheses.map((h, i) => addUp(rows, i, gridSize(h)));
    const sum = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0);
    const logs = [
      ...hypotheses.map((h, i) => Math.log(h.prior) + logMeanExp(totals[i]!)),
      Math.log(healthyPrior) + sum(healthyRows),
      Math.log(unmodelledPrior) + sum(blankRows),
    ];
    const probabilities = normalise(logs);
    const suspects = hypotheses.map((hypothesis, i) => ({ hypothesis, probability: probabilities[i]! })).sort((a, b) => b.probability - a.probability);

    const partOf = this.partIndices();
    const shares = this.sumByPart(probabilities, partOf);
    const weights = this.refs.map((): number[] => []);
    readings.forEach((_, r) => {
      const without = [
        ...hypotheses.map((h, i) => Math.log(h.prior) + logMeanExp(subtract(totals[i]!, rows[r]![i]!))),
        logs[hypotheses.length]! - healthyRows[r]!,
        logs[hypotheses.length + 1]! - blankRows[r]!,
      ];
      const before = this.sumByPart(normalise(without), partOf);
      shares.forEach((share, part) => weights[part]!.push(decibans(share) - decibans(before[part]!)));
    });
    const byPart = this.refs.map((ref, i) => ({ ref, probability: shares[i]!, weights: weights[i]! }));
    return {
      suspects,
      byPart: byPart.map((part, order) => ({ part, order })).sort((a, b) => b.part.probability - a.part.probability || a.order - b.order).map(({ part }) => part), // prettier-ignore
      healthy: probabilities[hypotheses.length]!,
      unmodelled: probabilities[hypotheses.length + 1]!,
      expected: readings.map((reading) => readout(reading.measurement.kind, this.predictor.healthy(reading.measurement, reading.absent))),
    };
  }

  private likelihoodsOf(reading: Reading): readonly Float64Array[] {
    const key = `${measurementKey(reading.measurement)}|${reading.value}|${reading.absent?.join() ?? ''}`;
    let known = this.likelihoods.get(key);
    if (!known) {
      known = this.space.hypotheses.map((h) =>
        gridLikelihood(reading, this.predictor.under(h, reading.measurement, reading.absent), gridSize(h), this.voltSpan),
      );
      this.likelihoods.set(key, known);
    }
    return known;
  }

  private partIndices(): Int32Array {
    const position = new Map(this.refs.map((ref, i) => [ref, i]));
    return Int32Array.from(this.space.hypotheses, (h) => position.get(h.ref)!);
  }

  private sumByPart(probabilities: readonly number[], partOf: Int32Array): number[] {
    const shares = this.refs.map(() => 0);
    partOf.forEach((part, i) => (shares[part]! += probabilities[i]!));
    return shares;
  }
}

/** Every part that can fail, in board order, by the designator under which it is replaced. */
export function replaceableParts(index: BoardIndex): readonly string[] {
  const refs = new Set<string>();
  for (const part of index.board.parts) if (modesOf(part).length > 0) refs.add(replaceableRef(part.ref));
  return [...refs];
}

/** Belief in one call, for those who have all readings at once. */
export function diagnose(index: BoardIndex, readings: readonly Reading[], rates: RateTable): Belief {
  return new Diagnoser(index, rates).believe(readings);
}

function addUp(rows: readonly (readonly Float64Array[])[], hypothesis: number, size: number): Float64Array {
  const total = new Float64Array(size);
  for (const row of rows) {
    const values = row[hypothesis]!;
    for (let i = 0; i < size; i += 1) total[i]! += values[i]!;
  }
  return total;
}

function subtract(total: Float64Array, part: Float64Array): Float64Array {
  return total.map((value, i) => value - part[i]!);
}

function normalise(logs: readonly number[]): number[] {
  let top = -Infinity;
  for (const log of logs) top = Math.max(top, log);
  const weights = logs.map((log) => Math.exp(log - top));
  const sum = weights.reduce((a, b) => a + b, 0);
  return weights.map((weight) => weight / sum);
}

/** Log-odds in decibans; held within ±300 so that a certainty stays a number. Source: I. J. Good, Probability and the Weighing of Evidence, 1950. */
export function decibans(probability: number): number {
  const odds = Math.max(probability, 1e-30) / Math.max(1 - probability, 1e-30);
  return 10 * Math.log10(odds);
}
