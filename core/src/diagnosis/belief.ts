import { GROUND, nameKey, replaceableRef, type BoardIndex } from '../board';
import { modesOf } from '../device';
import { hypothesisSpace, jointHypothesis, type Hypothesis, type HypothesisSpace, type RateTable, type SingleHypothesis } from '../fault';
import { measurementKey, readout, type Measurement, type Readout, type Reading, type Response } from '../instrument';
import { causesOf, type Cause } from './causes';
import { leadingSingles, pairsFor, peak, withOneMore, worthTrying, type Base, type Evidence, type Joint } from './joints';
import { edgeVariants } from './edges';
import { EsrLevels } from './esr-levels';
import { blank } from './likelihood';
import { edgeRegion, isNear, isOutside, type EdgeRegion } from './near-edges';
import { nearestFirst } from './nearness';
import { isMoved, Predictor } from './prediction';
import { best, ReadingRows, type LikelihoodRow } from './reading-rows';
import { SharedLevels } from './shared-levels';
import { looseEnds, sheetErrors } from './sheet-errors';
import { taughtBy } from './taught';
import { FINE, fineLikelihood, gridLikelihood, gridSize, logMeanExp, logMeanExpWithout, logMeanRefined } from './severity-grid';

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

/** One place where the sheet may be wrong. */
export interface SheetDoubt {
  readonly name: string;
  /** In words: "R12 may be 47k, not 4k7". */
  readonly title: string;
  /** What settles it. */
  readonly check: string;
  readonly probability: number;
}

/** What the readings say. Probabilities of suspects, healthy and unmodelled sum to 1. */
export interface Belief {
  readonly suspects: readonly Suspect[];
  readonly byPart: readonly PartBelief[];
  /** That nothing is wrong with any part; the sheet may be. */
  readonly healthy: number;
  readonly unmodelled: number;
  /** Where the sheet may be wrong, likeliest first; empty where the readings do not ask for it. */
  readonly sheet: readonly SheetDoubt[];
  /** Positions of readings that not even the likeliest explanation explains, worst first. */
  readonly unexplained: readonly number[];
  /** What each reading should have been on a healthy board. */
  readonly expected: readonly Readout[];
}

/** "None of these" at this much and more has the sheet doubted: it is what it is believed with before any reading. */
const DOUBT_FROM = 0.02;
/** On boards with more parts than this only what lies near a reading is doubted. */
const DOUBT_ALL_UP_TO = 60;

/** Faults of which a closer look is taken at the severity, and where: a neighbour on the grid explains the readings worse by so much, nats. */
const MOST_CLOSER = 60;
const SHARP_NATS = 1;

/** Readings whose likelihoods are kept at a time. */
const MOST_READINGS = 200;
/** Likelihoods of joint faults and of wrong sheets kept at a time. */
const MOST_OTHER_ROWS = 40_000;

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
  /** Rows that are still being worked out. */
  private readonly partial = new Map<string, ReadingRows>();
  private readonly otherLikelihoods = new Map<string, LikelihoodRow>();
  private readonly regions = new Map<string, EdgeRegion>();
  /** Answers with a guess at the edges, by guess, reading and what the faulty board comes to there. */
  private readonly atEdges = new Map<string, Response>();
  private ownLooseEnds: boolean | undefined;
  private ownSheetErrors: readonly SingleHypothesis[] | undefined;

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

  /** What of the board loads on its edges can see, where a reading is taken between these nets. */
  private regionOf({ at, to }: Measurement): EdgeRegion {
    const key = `${at.net} ${to.net}`;
    let region = this.regions.get(key);
    if (!region) this.regions.set(key, (region = edgeRegion(this.index, [at.net, to.net])));
    return region;
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

  /** Works out what `believe` will need for these readings in small steps, for callers that must stay responsive: yields the share done, 0 to 1. Likely faults near a reading come first, so that
   *  `believeSoFar` has something to go by early. Abandon it to stop; what was finished is kept. */
  *prepare(readings: readonly Reading[]): Generator<number, void> {
    const fresh = readings.filter((reading) => this.levels.groupOf(reading) === undefined && !this.likelihoods.has(readingKey(reading)));
    const { hypotheses } = this.space;
    const begun = fresh.map((reading) => ({ reading, rows: this.begin(reading), order: nearestFirst(this.index, hypotheses, reading.measurement) }));
    // All readings at once, each with what is nearest to it: so the first look has something of every one.
    for (let i = 0; i < hypotheses.length; i += 1) {
      for (const { reading, rows, order } of begun) rows.put(order[i]!, this.row(hypotheses[order[i]!]!, reading, rows));
      if (i % 8 === 7) yield i / hypotheses.length;
    }
    for (const { reading, rows } of begun) this.keep(reading, rows);
  }

  /** Rows of a reading to begin with: nothing is known to move it. */
  private begin(reading: Reading): ReadingRows {
    const rows = new ReadingRows(this.healthyLikelihood(reading));
    const guesses = this.predictors.length;
    for (const hypothesis of this.space.hypotheses) {
      const size = gridSize(hypothesis);
      rows.push(guesses === 1 ? rows.unmoved(size) : Float64Array.from({ length: size * guesses }, (_, i) => rows.healthy[Math.floor(i / size)]!));
    }
    this.partial.set(readingKey(reading), rows);
    return rows;
  }

  private keep(reading: Reading, rows: ReadingRows): void {
    this.partial.delete(readingKey(reading));
    if (this.likelihoods.size >= MOST_READINGS) this.likelihoods.delete(this.likelihoods.keys().next().value!);
    this.likelihoods.set(readingKey(reading), rows);
  }

  /** Belief after these readings. The order of the readings does not matter to it. Where what is drawn does not explain them, the sheet itself is doubted. */
  believe(readings: readonly Reading[]): Belief {
    const plain = this.weigh(readings, this.space.hypotheses);
    const isOdd = plain.unmodelled >= DOUBT_FROM || plain.unexplained.length > 0 || couldBeTheSheet(plain.suspects[0]) || this.hasLooseEnds;
    return readings.length === 0 || !isOdd ? plain : this.weigh(readings, [...this.space.hypotheses, ...this.sheetErrorsNear(readings)]);
  }

  /** A small sheet on which a net ends at a single pin is not whole. */
  private get hasLooseEnds(): boolean {
    return (this.ownLooseEnds ??= this.index.board.parts.length <= DOUBT_ALL_UP_TO && looseEnds(this.index).length > 0);
  }

  /** Belief by what `prepare` has worked out so far: faults not looked at yet count as if they did not move a reading. */
  believeSoFar(readings: readonly Reading[]): Belief {
    return this.weigh(readings, this.space.hypotheses, true);
  }

  /** Belief over these single hypotheses, those of the sheet behind those of the board, and what they are together. */
  private weigh(readings: readonly Reading[], singles: readonly SingleHypothesis[], soFar = false): Belief {
    const own = this.space.hypotheses;
    const shared = new SharedLevels(this.levels, readings, singles, this.predictors.length, own);
    const known = readings.map(
      (reading, r) => shared.rowsOf(r) ?? (soFar ? this.partial.get(readingKey(reading)) : undefined) ?? this.likelihoodsOf(reading, singles),
    );
    const rows = known.map((one) => one.rows);
    const healthyRows = known.map(({ healthy }) => healthy);
    const alone = rows.filter((_, r) => !shared.has(r));
    const totals = singles.map((h, i) => shared.add(addUp(alone, i, this.width(h)), i));
    const evidence: Evidence = { readings, singles, totals, rows: known, voltSpan: this.voltSpan, causes: this.causes };
    const weighed = (joint: Joint): Weighed => {
      const jointRows = readings.map((reading, r) => shared.jointRow(joint, r) ?? this.jointLikelihood(joint, reading, rows[r]!, healthyRows[r]!));
      const apart = jointRows.filter((_, r) => !shared.has(r)).map((row) => [row]);
      return { joint, rows: jointRows, total: shared.addJoint(addUp(apart, 0, this.width(joint.hypothesis)), joint) };
    };
    // While the work is under way pairs are not looked for.
    const more = (bases: readonly Base[]): readonly Weighed[] =>
      (soFar ? [] : worthTrying(evidence, bases)).map(({ base, h }) => {
        const sums = new Float64Array(this.width(singles[h]!));
        readings.forEach((reading, r) => addTo(sums, this.besideRow(base, singles[h]!, reading, rows[r]![h]!, base.byReading[r]!, shared.has(r))));
        return weighed(withOneMore(evidence, base, h, peak(sums)));
      });
    const asBase = ({ joint, rows: own, total }: Weighed): Base => ({ joint, byReading: own.map(best), score: Math.log(joint.hypothesis.prior) + logMeanExp(total) }); // prettier-ignore
    const pairs = distinct([...(soFar ? [] : pairsFor(evidence)).map(weighed), ...more(leadingSingles(evidence))]);
    const joints = distinct([...pairs, ...more(pairs.map(asBase))]);

    const hypotheses: readonly Hypothesis[] = [...singles, ...joints.map(({ joint }) => joint.hypothesis)];
    const rowAt = (r: number, i: number): LikelihoodRow => (i < singles.length ? rows[r]![i]! : joints[i - singles.length]!.rows[r]!);
    const allTotals = [...totals, ...joints.map(({ total }) => total)];
    const healthyApart = healthyRows.filter((_, r) => !shared.has(r)).map((row) => [row]);
    const healthyTotal = shared.add(addUp(healthyApart, 0, this.predictors.length), undefined);
    const blanks = readings.map((reading) => Math.log(blank(reading.measurement.kind, reading.value, this.voltSpan)));
    const all = blanks.reduce((a, b) => a + b, 0);

    const logPriors = Float64Array.from(hypotheses, ({ prior }) => Math.log(prior));
    const [logHealthy, logUnmodelled] = [Math.log(this.space.healthyPrior), Math.log(this.space.unmodelledPrior)];
    const means = Float64Array.from(allTotals, logMeanExp);
    // How far a closer look at the severities moves a mean; the looks of single readings move with it.
    const closer = new Float64Array(means.length);
    if (!soFar) for (const h of this.worthACloserLook(singles, totals, logPriors, means)) closer[h] = this.refinedMean(singles[h]!, readings, totals[h]!, rows.map((row) => row[h]!), shared) - means[h]!; // prettier-ignore
    const count = hypotheses.length;
    const probabilities = normalise(count, (i) => logPriors[i]! + means[i]! + closer[i]!, logHealthy + logMeanExp(healthyTotal), logUnmodelled + all);
    const suspects = hypotheses.flatMap((hypothesis, i) => (hypothesis.refs.length === 0 ? [] : [{ hypothesis, probability: probabilities[i]! }]));
    suspects.sort((a, b) => b.probability - a.probability);

    const partsOf = this.partPositions(hypotheses);
    const shares = this.sumByPart(probabilities, partsOf);
    const weights = this.refs.map((): number[] => []);
    readings.forEach((_, r) => {
      const rest = known[r]!;
      const without = normalise(
        count,
        (i) => logPriors[i]! + closer[i]! + rest.meanWithout(allTotals[i]!, means[i]!, rowAt(r, i)),
        logHealthy + logMeanExpWithout(healthyTotal, healthyRows[r]!),
        logUnmodelled + all - blanks[r]!,
      );
      const before = this.sumByPart(without, partsOf);
      shares.forEach((share, part) => weights[part]!.push(decibans(share) - decibans(before[part]!)));
    });
    const byPart = this.refs.map((ref, i) => ({ ref, probability: shares[i]!, weights: weights[i]! }));
    // The likeliest of all, the sound board among them, at the severity that suits it best.
    const leader = probabilities.subarray(0, count + 1).reduce((at, p, i, list) => (p > list[at]! ? i : at), count);
    const leaderTotal = leader === count ? healthyTotal : allTotals[leader]!;
    const at = peak(leaderTotal);
    const misfit = readings.map((_, r) => blanks[r]! - (leader === count ? healthyRows[r]! : rowAt(r, leader))[at]!);
    return {
      suspects,
      byPart: byPart.map((part, order) => ({ part, order })).sort((a, b) => b.part.probability - a.part.probability || a.order - b.order).map(({ part }) => part), // prettier-ignore
      // A wrong sheet of a board on which nothing else is wrong is a sound board.
      healthy: hypotheses.reduce((sum, { refs }, i) => sum + (refs.length === 0 ? probabilities[i]! : 0), probabilities[count]!),
      unmodelled: probabilities[count + 1]!,
      sheet: doubtsOf(hypotheses, probabilities),
      unexplained: [...misfit.keys()].filter((r) => misfit[r]! > 0).sort((a, b) => misfit[b]! - misfit[a]!),
      expected: readings.map((reading) => readout(reading.measurement.kind, this.predictor.healthy(reading.measurement, reading.absent))),
    };
  }

  /** Singles over a range of severities that count and of which the readings ask for one severity more sharply than the grid has it. */
  private worthACloserLook(
    singles: readonly SingleHypothesis[],
    totals: readonly LikelihoodRow[],
    logPriors: Float64Array,
    means: Float64Array,
  ): readonly number[] {
    // With guesses at the edges the readings are wide anyway.
    if (this.predictors.length > 1) return [];
    const order = [...singles.keys()].sort((a, b) => logPriors[b]! + means[b]! - logPriors[a]! - means[a]!).slice(0, MOST_CLOSER);
    return order.filter((h) => {
      const { severities, discrete } = singles[h]!;
      if (discrete || severities.length < 2) return false;
      const total = totals[h]!;
      const at = peak(total);
      return [at - 1, at + 1].every((i) => !(total[i]! > total[at]! - SHARP_NATS));
    });
  }

  /** ln of the mean likelihood of a single over its severities, looked at closely about its peak. */
  private refinedMean(
    single: SingleHypothesis,
    readings: readonly Reading[],
    total: LikelihoodRow,
    own: readonly LikelihoodRow[],
    shared: SharedLevels,
  ): number {
    const at = peak(total);
    const fine = new Float64Array(2 * FINE);
    readings.forEach((reading, r) => {
      // An ESR of which no sheet tells is wide anyway.
      if (shared.has(r)) return void fine.forEach((value, f) => (fine[f] = value + own[r]![at]!));
      const { measurement: m, absent } = reading;
      addTo(fine, fineLikelihood(reading, this.predictor.under(single, m, absent), single.severities, at, this.voltSpan));
    });
    return logMeanRefined(total, at, fine);
  }

  /** What of the sheet may be wrong: all of it on a small board, what lies near the readings on a large one. */
  private sheetErrorsNear(readings: readonly Reading[]): readonly SingleHypothesis[] {
    const all = (this.ownSheetErrors ??= sheetErrors(this.index, this.space.healthyPrior));
    if (this.index.board.parts.length <= DOUBT_ALL_UP_TO) return all;
    const near = new Set(readings.flatMap(({ measurement: { at, to } }) => [at.net, to.net].map(nameKey)));
    near.delete(GROUND);
    const netsOf = ({ fault }: SingleHypothesis): readonly string[] => (fault.type === 'bridge' ? fault.nets : fault.type === 'mode' ? fault.part.pins : []);
    return all.filter((one) => netsOf(one).some((net) => near.has(nameKey(net))));
  }

  private width(hypothesis: Hypothesis): number {
    return gridSize(hypothesis) * this.predictors.length;
  }

  /** Rows of a reading under these singles: first those of the board, then those of the sheet. */
  private likelihoodsOf(reading: Reading, singles: readonly SingleHypothesis[]): ReadingRows {
    let own = this.likelihoods.get(readingKey(reading));
    if (!own) {
      own = new ReadingRows(this.healthyLikelihood(reading));
      for (const hypothesis of this.space.hypotheses) own.push(this.row(hypothesis, reading, own));
      this.keep(reading, own);
    }
    const more = singles.slice(this.space.hypotheses.length);
    if (more.length === 0) return own;
    return own.with(more.map((hypothesis) => this.rowKept(`${hypothesis.name}|${readingKey(reading)}`, () => this.row(hypothesis, reading, own))));
  }

  private rowKept(key: string, make: () => LikelihoodRow): LikelihoodRow {
    let known = this.otherLikelihoods.get(key);
    if (!known) {
      if (this.otherLikelihoods.size >= MOST_OTHER_ROWS) this.otherLikelihoods.clear();
      this.otherLikelihoods.set(key, (known = make()));
    }
    return known;
  }

  /** A reading under several faults. What at most one of them moves has been worked out already; where more take part the board is solved with all. */
  private jointLikelihood({ hypothesis, positions, peaks }: Joint, reading: Reading, row: readonly LikelihoodRow[], healthy: LikelihoodRow): LikelihoodRow {
    const moving = hypothesis.members.flatMap((member, i) => (this.predictor.moves(member, reading.measurement, reading.absent) ? [i] : []));
    if (moving.length === 0) return healthy;
    const [only] = moving as [number];
    if (moving.length === 1) {
      const size = gridSize(hypothesis.members[only]!);
      return Float64Array.from(this.predictors, (_, k) => row[positions[only]!]![k * size + (peaks[only]! % size)]!);
    }
    const key = `${hypothesis.name}|${hypothesis.states.map(({ severity }) => severity).join()}|${readingKey(reading)}`;
    return this.rowKept(key, () => this.row(hypothesis, reading));
  }

  /** A reading under a single at each of its points, on the board with other faults in it. row: the same on a board without them; others: what the reading says of them alone. */
  private besideRow({ joint }: Base, single: SingleHypothesis, reading: Reading, row: LikelihoodRow, others: number, isShared: boolean): LikelihoodRow {
    const { measurement: m, absent } = reading;
    if (!this.predictor.moves(single, m, absent)) return new Float64Array(row.length).fill(others);
    if (isShared || !joint.hypothesis.members.some((member) => this.predictor.moves(member, m, absent))) return row;
    const { members, states } = joint.hypothesis;
    const severities = states.map(({ severity }) => severity!);
    const withAll = single.severities.map((severity) => jointHypothesis([...members, single], [...severities, severity], 0));
    const size = gridSize(single);
    const out = new Float64Array(row.length);
    for (const [k, predictor] of this.predictors.entries()) {
      if (k > 0 && !isMoved(this.predictor.healthy(m, absent), predictor.healthy(m, absent))) out.copyWithin(k * size, 0, size);
      else out.set(gridLikelihood(reading, withAll.map((all) => predictor.at(all, 0, m, absent)), single.severities, size, this.voltSpan), k * size); // prettier-ignore
    }
    return out;
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
    // A fault that does not reach the reading on the board as drawn does not with something else at the edges. Powered it may, where it lies near them.
    const moves =
      drawn.some((response) => isMoved(healthy, response)) || (m.setup !== 'off' && (hypothesis.type === 'joint' || isNear(this.regionOf(m).near, hypothesis)));
    for (const [k, predictor] of this.predictors.entries()) {
      if (k === 0) continue;
      const sound = predictor.healthy(m, absent);
      // What hangs on the edges does not reach this reading: the board as drawn answers for this guess too.
      if (!isMoved(healthy, sound)) out.copyWithin(k * size, 0, size);
      else out.set(gridLikelihood(reading, moves ? this.withGuess(k, hypothesis, reading, drawn) : [sound], hypothesis.severities, size, this.voltSpan), k * size); // prettier-ignore
    }
    return out;
  }

  /** What a hypothesis predicts with the k-th guess at the edges. Faults that come to the same on all that a load there can see are solved once. drawn: its answers on the board as drawn. */
  private withGuess(k: number, hypothesis: Hypothesis, { measurement: m, absent }: Reading, drawn: readonly Response[]): readonly Response[] {
    const predictor = this.predictors[k]!;
    if (hypothesis.type === 'joint' || m.setup === 'off' || !isOutside(this.regionOf(m), hypothesis)) return predictor.under(hypothesis, m, absent);
    return drawn.map((_, i) => {
      const state = this.predictor.stateOn(this.regionOf(m).nets, hypothesis, i, m, absent);
      if (state === undefined) return predictor.at(hypothesis, i, m, absent);
      const key = `${k}|${measurementKey(m)}|${absent?.join() ?? ''}|${state}`;
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

/** Several faults at once with what the readings say of them. */
interface Weighed {
  readonly joint: Joint;
  readonly rows: readonly LikelihoodRow[];
  readonly total: LikelihoodRow;
}

/** Of those with the same faults the one that the readings speak for most. */
function distinct(list: readonly Weighed[]): readonly Weighed[] {
  const found = new Map<string, Weighed>();
  const score = ({ joint, total }: Weighed): number => Math.log(joint.hypothesis.prior) + logMeanExp(total);
  for (const one of list) {
    const key = one.joint.positions.join();
    const before = found.get(key);
    if (!before || score(one) > score(before)) found.set(key, one);
  }
  return [...found.values()];
}

function addTo(total: LikelihoodRow, more: LikelihoodRow): void {
  for (let i = 0; i < total.length; i += 1) total[i]! += more[i]!;
}

function addUp(rows: readonly (readonly LikelihoodRow[])[], hypothesis: number, size: number): LikelihoodRow {
  const total = new Float64Array(size);
  for (const row of rows) {
    const values = row[hypothesis]!;
    for (let i = 0; i < size; i += 1) total[i]! += values[i]!;
  }
  return total;
}

/** Faults that a value typed wrongly, or a part that is not drawn, looks like to a meter. */
const LIKE_A_SHEET_ERROR = /:(drift-|leaky)/;

function couldBeTheSheet(leader: Suspect | undefined): boolean {
  return leader?.hypothesis.faults.some((name) => LIKE_A_SHEET_ERROR.test(name)) === true;
}

/** Where the sheet may be wrong, by the share of all that has it so. */
function doubtsOf(hypotheses: readonly Hypothesis[], probabilities: Float64Array): readonly SheetDoubt[] {
  const found = new Map<string, SheetDoubt>();
  hypotheses.forEach((hypothesis, i) => {
    for (const { name, sheet } of hypothesis.type === 'joint' ? hypothesis.members : [hypothesis]) {
      if (!sheet) continue;
      const before = found.get(name)?.probability ?? 0;
      found.set(name, { name, title: sheet.title, check: sheet.check, probability: before + probabilities[i]! });
    }
  });
  return [...found.values()].sort((a, b) => b.probability - a.probability);
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
