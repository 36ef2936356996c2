import { replaceableRef, type BoardIndex } from '../board';
import { modesOf } from '../device';
import { hypothesisSpace, type Hypothesis, type HypothesisSpace, type RateTable } from '../fault';
import { measurementKey, readout, type Readout, type Reading } from '../instrument';
import { causesOf, type Cause } from './causes';
import { doublesFor, type Double } from './doubles';
import { edgeVariants } from './edges';
import { EsrLevels } from './esr-levels';
import { blank } from './likelihood';
import { isMoved, Predictor } from './prediction';
import { ReadingRows, type LikelihoodRow } from './reading-rows';
import { SharedLevels } from './shared-levels';
import { taughtBy } from './taught';
import { gridLikelihood, gridSize, logMeanExp, logMeanExpWithout } from './severity-grid';

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

/** Readings whose likelihoods are kept at a time. */
const MOST_READINGS = 200;
/** Likelihoods of double faults kept at a time. */
const MOST_DOUBLE_ROWS = 20_000;

/** Keeps belief about one board. Likelihoods already computed are kept, so a new reading costs only itself and retracting one costs nothing. */
export class Diagnoser {
  private priors: HypothesisSpace;
  /** Predicts on the board as drawn, with nothing on its edges. */
  readonly predictor: Predictor;
  readonly voltSpan: number;
  private readonly predictors: readonly Predictor[];
  /** What belief is summed over: every part that can fail, then the bridges. */
  readonly refs: readonly string[];
  private readonly levels: EsrLevels;
  private ownCauses: ReadonlyMap<number, readonly Cause[]> | undefined;
  private readonly likelihoods = new Map<string, ReadingRows>();
  private readonly doubleLikelihoods = new Map<string, LikelihoodRow>();

  /** factor: what multiplies a part's prior (looks, age). */
  constructor(
    readonly index: BoardIndex,
    private readonly rates: RateTable,
    factor?: (ref: string) => number,
  ) {
    this.priors = hypothesisSpace(index, rates, factor);
    this.predictors = edgeVariants(index).map((variant) => new Predictor(variant));
    this.predictor = this.predictors[0]!;
    this.voltSpan = Math.max(10, 2 * index.board.parts.reduce((most, part) => Math.max(most, part.kind === 'voltageSource' ? Math.abs(part.volt) : 0), 0));
    this.levels = new EsrLevels(index, this.predictor, this.voltSpan, (board) => hypothesisSpace(board, rates).hypotheses);
    this.refs = [...new Set([...replaceableParts(index), ...this.space.hypotheses.flatMap(({ refs }) => refs)])];
  }

  /** What may have opened what opens. Positions do not change when parts are reweighed. */
  private get causes(): ReadonlyMap<number, readonly Cause[]> {
    return (this.ownCauses ??= causesOf(this.index, this.space.hypotheses));
  }

  /** All that may be the matter, with what is thought of it before any reading. */
  get space(): HypothesisSpace {
    return this.priors;
  }

  /** Takes another view of the parts before any reading (something was seen on the board). What was computed stays: likelihoods do not depend on it. */
  reweigh(factor: (ref: string) => number): void {
    this.priors = hypothesisSpace(this.index, this.rates, factor);
  }

  /** Works out what `believe` will need for these readings in small steps, for callers that must stay responsive: yields the share done, 0 to 1.
   *  Abandon it to stop; what was finished is kept. */
  *prepare(readings: readonly Reading[]): Generator<number, void> {
    const fresh = readings.filter((reading) => this.levels.groupOf(reading) === undefined && !this.likelihoods.has(readingKey(reading)));
    const { hypotheses } = this.space;
    for (const [r, reading] of fresh.entries()) {
      const rows = new ReadingRows(this.healthyLikelihood(reading));
      for (const [i, hypothesis] of hypotheses.entries()) {
        rows.push(this.row(hypothesis, reading, rows));
        if (i % 8 === 7) yield (r + i / hypotheses.length) / fresh.length;
      }
      this.keep(reading, rows);
    }
  }

  private keep(reading: Reading, rows: ReadingRows): void {
    if (this.likelihoods.size >= MOST_READINGS) this.likelihoods.delete(this.likelihoods.keys().next().value!);
    this.likelihoods.set(readingKey(reading), rows);
  }

  /** Belief after these readings. The order of the readings does not matter to it. */
  believe(readings: readonly Reading[]): Belief {
    const singles = this.space.hypotheses;
    const shared = new SharedLevels(this.levels, readings, singles, this.predictors.length);
    const known = readings.map((reading, r) => shared.rowsOf(r) ?? this.likelihoodsOf(reading));
    const rows = known.map((one) => one.rows);
    const healthyRows = known.map(({ healthy }) => healthy);
    const alone = rows.filter((_, r) => !shared.has(r));
    const totals = singles.map((h, i) => shared.add(addUp(alone, i, this.width(h)), i));
    const doubles = doublesFor({ readings, singles, totals, rows: known, voltSpan: this.voltSpan, causes: this.causes });
    const hypotheses: readonly Hypothesis[] = [...singles, ...doubles.map(({ hypothesis }) => hypothesis)];
    const doubleRows = doubles.map((double) =>
      readings.map((reading, r) => shared.doubleRow(double, r) ?? this.doubleLikelihood(double, reading, rows[r]!, healthyRows[r]!)),
    );
    const rowAt = (r: number, i: number): LikelihoodRow => (i < singles.length ? rows[r]![i]! : doubleRows[i - singles.length]![r]!);
    const allTotals = [
      ...totals,
      ...doubles.map((double, d) =>
        shared.addDouble(
          addUp(
            doubleRows[d]!.filter((_, r) => !shared.has(r)).map((row) => [row]),
            0,
            this.width(double.hypothesis),
          ),
          double,
        ),
      ),
    ];
    const healthyTotal = shared.add(
      addUp(
        healthyRows.filter((_, r) => !shared.has(r)).map((row) => [row]),
        0,
        this.predictors.length,
      ),
      undefined,
    );
    const blanks = readings.map((reading) => Math.log(blank(reading.measurement.kind, reading.value, this.voltSpan)));
    const all = blanks.reduce((a, b) => a + b, 0);

    const logPriors = Float64Array.from(hypotheses, ({ prior }) => Math.log(prior));
    const [logHealthy, logUnmodelled] = [Math.log(this.space.healthyPrior), Math.log(this.space.unmodelledPrior)];
    const means = Float64Array.from(allTotals, logMeanExp);
    const count = hypotheses.length;
    const probabilities = normalise(count, (i) => logPriors[i]! + means[i]!, logHealthy + logMeanExp(healthyTotal), logUnmodelled + all);
    const suspects = hypotheses.map((hypothesis, i) => ({ hypothesis, probability: probabilities[i]! })).sort((a, b) => b.probability - a.probability);

    const partsOf = this.partPositions(hypotheses);
    const shares = this.sumByPart(probabilities, partsOf);
    const weights = this.refs.map((): number[] => []);
    readings.forEach((_, r) => {
      const rest = known[r]!;
      const without = normalise(
        count,
        (i) => logPriors[i]! + rest.meanWithout(allTotals[i]!, means[i]!, rowAt(r, i)),
        logHealthy + logMeanExpWithout(healthyTotal, healthyRows[r]!),
        logUnmodelled + all - blanks[r]!,
      );
      const before = this.sumByPart(without, partsOf);
      shares.forEach((share, part) => weights[part]!.push(decibans(share) - decibans(before[part]!)));
    });
    const byPart = this.refs.map((ref, i) => ({ ref, probability: shares[i]!, weights: weights[i]! }));
    return {
      suspects,
      byPart: byPart.map((part, order) => ({ part, order })).sort((a, b) => b.part.probability - a.part.probability || a.order - b.order).map(({ part }) => part), // prettier-ignore
      healthy: probabilities[count]!,
      unmodelled: probabilities[count + 1]!,
      expected: readings.map((reading) => readout(reading.measurement.kind, this.predictor.healthy(reading.measurement, reading.absent))),
    };
  }

  private width(hypothesis: Hypothesis): number {
    return gridSize(hypothesis) * this.predictors.length;
  }

  private likelihoodsOf(reading: Reading): ReadingRows {
    let known = this.likelihoods.get(readingKey(reading));
    if (known) return known;
    known = new ReadingRows(this.healthyLikelihood(reading));
    for (const hypothesis of this.space.hypotheses) known.push(this.row(hypothesis, reading, known));
    this.keep(reading, known);
    return known;
  }

  /** A reading under a double fault. What at most one of the two moves has been worked out already; where both take part the board is solved with both. */
  private doubleLikelihood({ hypothesis, positions, peaks }: Double, reading: Reading, row: readonly LikelihoodRow[], healthy: LikelihoodRow): LikelihoodRow {
    const moving = hypothesis.members.map((member) => this.predictor.moves(member, reading.measurement, reading.absent));
    if (!moving[0] && !moving[1]) return healthy;
    if (moving[0] !== moving[1]) {
      const only = moving[0] ? 0 : 1;
      const size = gridSize(hypothesis.members[only]);
      return Float64Array.from(this.predictors, (_, k) => row[positions[only]]![k * size + (peaks[only] % size)]!);
    }
    const key = `${hypothesis.name}|${hypothesis.states.map(({ severity }) => severity).join()}|${readingKey(reading)}`;
    let known = this.doubleLikelihoods.get(key);
    if (!known) {
      if (this.doubleLikelihoods.size >= MOST_DOUBLE_ROWS) this.doubleLikelihoods.clear();
      this.doubleLikelihoods.set(key, (known = this.row(hypothesis, reading)));
    }
    return known;
  }

  /** rows: the reading's, where it has any yet. */
  private row(hypothesis: Hypothesis, reading: Reading, rows?: ReadingRows): LikelihoodRow {
    const size = gridSize(hypothesis);
    const { measurement: m, absent } = reading;
    const healthy = this.predictor.healthy(m, absent);
    const drawn = this.predictor.under(hypothesis, m, absent);
    if (rows && this.predictors.length === 1 && drawn.every((response) => response === healthy)) return rows.unmoved(size);
    const out = new Float64Array(size * this.predictors.length);
    out.set(gridLikelihood(reading, drawn, hypothesis.severities, size, this.voltSpan), 0);
    // Off, the circuit is passive: a fault that does not reach the reading on the board as drawn does not with something else at the edges. Powered it may.
    const moves = m.setup !== 'off' || drawn.some((response) => isMoved(healthy, response));
    for (const [k, predictor] of this.predictors.entries()) {
      if (k === 0) continue;
      const sound = predictor.healthy(m, absent);
      // What hangs on the edges does not reach this reading: the board as drawn answers for this guess too.
      if (!isMoved(healthy, sound)) out.copyWithin(k * size, 0, size);
      else out.set(gridLikelihood(reading, moves ? predictor.under(hypothesis, m, absent) : [sound], hypothesis.severities, size, this.voltSpan), k * size);
    }
    return out;
  }

  private healthyLikelihood(reading: Reading): LikelihoodRow {
    return Float64Array.from(
      this.predictors,
      (predictor) => gridLikelihood(reading, [predictor.healthy(reading.measurement, reading.absent)], [1], 1, this.voltSpan)[0]!,
    );
  }

  /** Positions in refs of the parts that each hypothesis condemns. */
  private partPositions(hypotheses: readonly Hypothesis[]): readonly (readonly number[])[] {
    const position = new Map(this.refs.map((ref, i) => [ref, i]));
    return hypotheses.map(({ refs }) => refs.map((ref) => position.get(ref)!));
  }

  private sumByPart(probabilities: Float64Array, partsOf: readonly (readonly number[])[]): number[] {
    const shares = this.refs.map(() => 0);
    partsOf.forEach((parts, i) => parts.forEach((part) => (shares[part]! += probabilities[i]!)));
    return shares;
  }
}

function readingKey(reading: Reading): string {
  return `${measurementKey(reading.measurement)}|${reading.value}|${reading.absent?.join() ?? ''}`;
}

/** Every part that can fail, in board order, by the designator under which it is replaced. */
export function replaceableParts(index: BoardIndex): readonly string[] {
  const refs = new Set<string>();
  for (const part of index.board.parts) if (modesOf(part).length > 0) refs.add(replaceableRef(part.ref));
  return [...refs];
}

/** Belief in one call, for those who have all readings at once. factor: what multiplies a part's prior (looks, what was said of the unit). */
export function diagnose(index: BoardIndex, readings: readonly Reading[], rates: RateTable, factor?: (ref: string) => number): Belief {
  const taught = taughtBy(index, readings);
  return new Diagnoser(taught.index, rates, factor).believe(taught.readings);
}

function addUp(rows: readonly (readonly LikelihoodRow[])[], hypothesis: number, size: number): LikelihoodRow {
  const total = new Float64Array(size);
  for (const row of rows) {
    const values = row[hypothesis]!;
    for (let i = 0; i < size; i += 1) total[i]! += values[i]!;
  }
  return total;
}

/** Probabilities of so many hypotheses, then of the sound board and of none of these, from their logarithms but for a common summand. */
function normalise(count: number, logOf: (i: number) => number, healthy: number, unmodelled: number): Float64Array {
  const values = new Float64Array(count + 2);
  for (let i = 0; i < count; i += 1) values[i] = logOf(i);
  values[count] = healthy;
  values[count + 1] = unmodelled;
  let top = -Infinity;
  for (let i = 0; i < values.length; i += 1) top = Math.max(top, values[i]!);
  let sum = 0;
  for (let i = 0; i < values.length; i += 1) sum += values[i] = Math.exp(values[i]! - top);
  for (let i = 0; i < values.length; i += 1) values[i] = values[i]! / sum;
  return values;
}

/** Log-odds in decibans; held within ±300 so that a certainty stays a number. Source: I. J. Good, Probability and the Weighing of Evidence, 1950. */
export function decibans(probability: number): number {
  const odds = Math.max(probability, 1e-30) / Math.max(1 - probability, 1e-30);
  return 10 * Math.log10(odds);
}
