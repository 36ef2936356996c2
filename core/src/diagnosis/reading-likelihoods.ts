import type { BoardIndex } from '../board';
import { jointHypothesis, type Hypothesis, type SingleHypothesis } from '../fault';
import { answerKey, type Measurement, type Reading, type Response } from '../instrument';
import type { Base, Joint } from './joints';
import { edgeRegion, isNear, isOutside, type EdgeRegion } from './near-edges';
import { nearestFirst } from './nearness';
import { isMoved, type Predictor } from './prediction';
import { ReadingRows, type LikelihoodRow } from './reading-rows';
import { gridLikelihood, gridSize } from './severity-grid';

/** Readings whose likelihoods are kept at a time. */
const MOST_READINGS = 200;
/** Likelihoods of joint faults and of wrong sheets kept at a time. */
const MOST_OTHER_ROWS = 40_000;

/**
 * What each reading says of each explanation of one board, as log-likelihoods (nats). All that was
 * worked out is kept, so that a new reading costs only itself and retracting one costs nothing.
 */
export class ReadingLikelihoods {
  private readonly known = new Map<string, ReadingRows>();
  /** Rows that are still being worked out. */
  private readonly partial = new Map<string, ReadingRows>();
  private readonly others = new Map<string, LikelihoodRow>();
  private readonly regions = new Map<string, EdgeRegion>();
  /**
   * Answers with a guess at the edges, by guess, reading and what the faulty board comes to there.
   */
  private readonly atEdges = new Map<string, Response>();

  /**
   * predictors: of the board as drawn, then with each guess at its edges. voltSpan: over which a
   * voltage may lie that nothing explains.
   */
  constructor(
    private readonly index: BoardIndex,
    private readonly predictors: readonly Predictor[],
    readonly voltSpan: number,
  ) {}

  /** Of the board as drawn, with nothing on its edges. */
  get predictor(): Predictor {
    return this.predictors[0]!;
  }

  /** How many views of the edges each severity is looked at with. */
  get guesses(): number {
    return this.predictors.length;
  }

  /** Length of the rows of a hypothesis. */
  width(hypothesis: Hypothesis): number {
    return gridSize(hypothesis) * this.predictors.length;
  }

  /** What of the board loads on its edges can see, where a reading is taken between these nets. */
  private regionOf({ at, to }: Measurement): EdgeRegion {
    const key = `${at.net} ${to.net}`;
    let region = this.regions.get(key);
    if (!region) this.regions.set(key, (region = edgeRegion(this.index, [at.net, to.net])));
    return region;
  }

  /**
   * Works out the rows of these readings under the singles of the board in small steps, likely
   * faults near a reading first: yields the share done, 0 to 1. Abandon it to stop; what was
   * finished is kept.
   */
  *prepare(
    readings: readonly Reading[],
    own: readonly SingleHypothesis[],
  ): Generator<number, void> {
    const fresh = readings.filter((reading) => !this.known.has(readingKey(reading)));
    const begun = fresh.map((reading) => ({
      reading,
      rows: this.begin(reading, own),
      order: nearestFirst(this.index, own, reading.measurement),
    }));
    // All readings at once, each with what is nearest to it: so the first look has something of
    // every one.
    for (let i = 0; i < own.length; i += 1) {
      for (const { reading, rows, order } of begun)
        rows.put(order[i]!, this.row(own[order[i]!]!, reading, rows));
      if (i % 8 === 7) yield i / own.length;
    }
    for (const { reading, rows } of begun) this.keep(reading, rows);
  }

  /**
   * Rows of a reading as far as `prepare` has come: what was not looked at yet counts as not moving
   * it. Undefined where it was not begun.
   */
  soFar(reading: Reading): ReadingRows | undefined {
    return this.known.get(readingKey(reading)) ?? this.partial.get(readingKey(reading));
  }

  /** Rows of a reading to begin with: nothing is known to move it. */
  private begin(reading: Reading, own: readonly SingleHypothesis[]): ReadingRows {
    const rows = new ReadingRows(this.healthyLikelihood(reading));
    const { guesses } = this;
    for (const hypothesis of own) {
      const size = gridSize(hypothesis);
      rows.push(
        guesses === 1
          ? rows.unmoved(size)
          : Float64Array.from(
              { length: size * guesses },
              (_, i) => rows.healthy[Math.floor(i / size)]!,
            ),
      );
    }
    this.partial.set(readingKey(reading), rows);
    return rows;
  }

  private keep(reading: Reading, rows: ReadingRows): void {
    this.partial.delete(readingKey(reading));
    if (this.known.size >= MOST_READINGS) this.known.delete(this.known.keys().next().value!);
    this.known.set(readingKey(reading), rows);
  }

  /** Rows of a reading under the singles of the board and, behind them, those of its sheet. */
  rowsOf(
    reading: Reading,
    own: readonly SingleHypothesis[],
    ofSheet: readonly SingleHypothesis[],
  ): ReadingRows {
    const rows = this.known.get(readingKey(reading)) ?? this.allRows(reading, own);
    if (ofSheet.length === 0) return rows;
    return rows.with(
      ofSheet.map((hypothesis) =>
        this.rowKept(`${hypothesis.name}|${readingKey(reading)}`, () =>
          this.row(hypothesis, reading, rows),
        ),
      ),
    );
  }

  private allRows(reading: Reading, own: readonly SingleHypothesis[]): ReadingRows {
    const rows = new ReadingRows(this.healthyLikelihood(reading));
    for (const hypothesis of own) rows.push(this.row(hypothesis, reading, rows));
    this.keep(reading, rows);
    return rows;
  }

  private rowKept(key: string, make: () => LikelihoodRow): LikelihoodRow {
    let known = this.others.get(key);
    if (!known) {
      if (this.others.size >= MOST_OTHER_ROWS) this.others.clear();
      this.others.set(key, (known = make()));
    }
    return known;
  }

  /**
   * A reading under several faults. What at most one of them moves has been worked out already;
   * where more take part the board is solved with all.
   */
  jointRow(
    { hypothesis, positions, peaks }: Joint,
    reading: Reading,
    { rows, healthy }: ReadingRows,
  ): LikelihoodRow {
    const moving = hypothesis.members.flatMap((member, i) =>
      this.predictor.moves(member, reading.measurement, reading.absent) ? [i] : [],
    );
    if (moving.length === 0) return healthy;
    const [only] = moving as [number];
    if (moving.length === 1) {
      const size = gridSize(hypothesis.members[only]!);
      return Float64Array.from(
        this.predictors,
        (_, k) => rows[positions[only]!]![k * size + (peaks[only]! % size)]!,
      );
    }
    const key = `${hypothesis.name}|${hypothesis.states.map(({ severity }) => severity).join()}|${readingKey(reading)}`;
    return this.rowKept(key, () => this.row(hypothesis, reading));
  }

  /**
   * A reading under a single at each of its points, on the board with other faults in it. row: the
   * same on a board without them; others: what the reading says of them alone.
   */
  besideRow(
    { joint }: Base,
    single: SingleHypothesis,
    reading: Reading,
    row: LikelihoodRow,
    others: number,
    isShared: boolean,
  ): LikelihoodRow {
    const { measurement: m, absent } = reading;
    if (!this.predictor.moves(single, m, absent)) return new Float64Array(row.length).fill(others);
    if (
      isShared ||
      !joint.hypothesis.members.some((member) => this.predictor.moves(member, m, absent))
    )
      return row;
    const { members, states } = joint.hypothesis;
    const severities = states.map(({ severity }) => severity!);
    const withAll = single.severities.map((severity) =>
      jointHypothesis([...members, single], [...severities, severity], 0),
    );
    const size = gridSize(single);
    const out = new Float64Array(row.length);
    for (const [k, predictor] of this.predictors.entries()) {
      if (k > 0 && !isMoved(this.predictor.healthy(m, absent), predictor.healthy(m, absent)))
        out.copyWithin(k * size, 0, size);
      else {
        const answers = withAll.map((all) => predictor.at(all, 0, m, absent));
        out.set(gridLikelihood(reading, answers, single.severities, size, this.voltSpan), k * size);
      }
    }
    return out;
  }

  /** rows: the reading's, where it has any yet. */
  private row(hypothesis: Hypothesis, reading: Reading, rows?: ReadingRows): LikelihoodRow {
    const size = gridSize(hypothesis);
    const { measurement: m, absent } = reading;
    const healthy = this.predictor.healthy(m, absent);
    const drawn = this.predictor.under(hypothesis, m, absent);
    if (rows && this.predictors.length === 1 && drawn.every((response) => response === healthy))
      return rows.unmoved(size);
    const out = new Float64Array(size * this.predictors.length);
    out.set(gridLikelihood(reading, drawn, hypothesis.severities, size, this.voltSpan), 0);
    // A fault that does not reach the reading on the board as drawn does not with something else at
    // the edges. Powered it may, where it lies near them.
    const moves =
      drawn.some((response) => isMoved(healthy, response)) ||
      (m.setup !== 'off' &&
        (hypothesis.type === 'joint' || isNear(this.regionOf(m).near, hypothesis)));
    for (const [k, predictor] of this.predictors.entries()) {
      if (k === 0) continue;
      const sound = predictor.healthy(m, absent);
      // What hangs on the edges does not reach this reading: the board as drawn answers for this
      // guess too.
      if (!isMoved(healthy, sound)) out.copyWithin(k * size, 0, size);
      else {
        const answers = moves ? this.withGuess(k, hypothesis, reading, drawn) : [sound];
        out.set(
          gridLikelihood(reading, answers, hypothesis.severities, size, this.voltSpan),
          k * size,
        );
      }
    }
    return out;
  }

  /**
   * What a hypothesis predicts with the k-th guess at the edges. Faults that come to the same on
   * all that a load there can see are solved once. drawn: its answers on the board as drawn.
   */
  private withGuess(
    k: number,
    hypothesis: Hypothesis,
    { measurement: m, absent }: Reading,
    drawn: readonly Response[],
  ): readonly Response[] {
    const predictor = this.predictors[k]!;
    if (
      hypothesis.type === 'joint' ||
      m.setup === 'off' ||
      !isOutside(this.regionOf(m), hypothesis)
    )
      return predictor.under(hypothesis, m, absent);
    return drawn.map((_, i) => {
      const state = this.predictor.stateOn(this.regionOf(m).nets, hypothesis, i, m, absent);
      if (state === undefined) return predictor.at(hypothesis, i, m, absent);
      const key = `${k}|${answerKey(m)}|${absent?.join() ?? ''}|${state}`;
      let known = this.atEdges.get(key);
      if (!known) {
        if (this.atEdges.size >= MOST_OTHER_ROWS) this.atEdges.clear();
        this.atEdges.set(key, (known = predictor.at(hypothesis, i, m, absent)));
      }
      return known;
    });
  }

  private healthyLikelihood(reading: Reading): LikelihoodRow {
    return Float64Array.from(
      this.predictors,
      (predictor) =>
        gridLikelihood(
          reading,
          [predictor.healthy(reading.measurement, reading.absent)],
          [1],
          1,
          this.voltSpan,
        )[0]!,
    );
  }
}

function readingKey(reading: Reading): string {
  return `${answerKey(reading.measurement)}|${reading.value}|${reading.absent?.join() ?? ''}`;
}
