import { GROUND, nameKey, replaceableRef, type BoardIndex } from '../board';
import { modesOf } from '../device';
import {
  hypothesisSpace,
  type HypothesisSpace,
  type RateTable,
  type SingleHypothesis,
} from '../fault';
import type { Reading } from '../instrument';
import type { Belief, Suspect } from './belief';
import { causesOf, type Cause } from './causes';
import { edgeVariants } from './edges';
import { EsrLevels } from './esr-levels';
import { netsOfFault } from './nearness';
import { Predictor } from './prediction';
import { ReadingLikelihoods } from './reading-likelihoods';
import { looseEnds, sheetErrors } from './sheet-errors';
import { taughtBy } from './taught';
import { weigh } from './weighing';
import { voltSpanOf } from './volt-span';

/**
 * "None of these" at this much and more has the sheet doubted: it is what it is believed with
 * before any reading.
 */
const DOUBT_FROM = 0.02;
/** On boards with more parts than this only what lies near a reading is doubted. */
const DOUBT_ALL_UP_TO = 60;

/**
 * Keeps belief about one board. Likelihoods already computed are kept, so a new reading costs only
 * itself and retracting one costs nothing.
 */
export class Diagnoser {
  private priors: HypothesisSpace;
  readonly voltSpan: number;
  /** What belief is summed over: every part that can fail, then the bridges. */
  readonly refs: readonly string[];
  readonly likelihoods: ReadingLikelihoods;
  readonly levels: EsrLevels;
  private ownCauses: ReadonlyMap<number, readonly Cause[]> | undefined;
  private ownLooseEnds: boolean | undefined;
  private ownSheetErrors: readonly SingleHypothesis[] | undefined;

  /** factor: what multiplies a part's prior (looks, age). */
  constructor(
    readonly index: BoardIndex,
    private readonly rates: RateTable,
    factor?: (ref: string) => number,
  ) {
    this.priors = hypothesisSpace(index, rates, factor);
    this.voltSpan = voltSpanOf(index);
    const predictors = edgeVariants(index).map((variant) => new Predictor(variant));
    this.likelihoods = new ReadingLikelihoods(index, predictors, this.voltSpan);
    this.levels = new EsrLevels(
      index,
      this.predictor,
      this.voltSpan,
      (board) => hypothesisSpace(board, rates).hypotheses,
    );
    this.refs = [
      ...new Set([
        ...replaceableParts(index),
        ...this.space.hypotheses.flatMap(({ refs }) => refs),
      ]),
    ];
  }

  /** Predicts on the board as drawn, with nothing on its edges. */
  get predictor(): Predictor {
    return this.likelihoods.predictor;
  }

  /** What may have opened what opens. Positions do not change when parts are reweighed. */
  get causes(): ReadonlyMap<number, readonly Cause[]> {
    return (this.ownCauses ??= causesOf(this.index, this.space.hypotheses));
  }

  /** All that may be the matter, with what is thought of it before any reading. */
  get space(): HypothesisSpace {
    return this.priors;
  }

  /**
   * Takes another view of the parts before any reading (something was seen on the board). What was
   * computed stays: likelihoods do not depend on it.
   */
  reweigh(factor: (ref: string) => number): void {
    this.priors = hypothesisSpace(this.index, this.rates, factor);
  }

  /**
   * Works out what `believe` will need for these readings in small steps, for callers that must
   * stay responsive: yields the share done, 0 to 1. Abandon it to stop; what was finished is kept.
   */
  prepare(readings: readonly Reading[]): Generator<number, void> {
    const apart = readings.filter((reading) => this.levels.groupOf(reading) === undefined);
    return this.likelihoods.prepare(apart, this.space.hypotheses);
  }

  /**
   * Belief after these readings. The order of the readings does not matter to it. Where what is
   * drawn does not explain them, the sheet itself is doubted.
   */
  believe(readings: readonly Reading[]): Belief {
    const plain = weigh(this, readings, []);
    const isOdd =
      plain.unmodelled >= DOUBT_FROM ||
      plain.unexplained.length > 0 ||
      couldBeTheSheet(plain.suspects[0]) ||
      this.hasLooseEnds;
    return readings.length === 0 || !isOdd
      ? plain
      : weigh(this, readings, this.sheetErrorsNear(readings));
  }

  /**
   * Belief by what `prepare` has worked out so far: faults not looked at yet count as if they did
   * not move a reading.
   */
  believeSoFar(readings: readonly Reading[]): Belief {
    return weigh(this, readings, [], true);
  }

  /** A small sheet on which a net ends at a single pin is not whole. */
  private get hasLooseEnds(): boolean {
    return (this.ownLooseEnds ??=
      this.index.board.parts.length <= DOUBT_ALL_UP_TO && looseEnds(this.index).length > 0);
  }

  /**
   * What of the sheet may be wrong: all of it on a small board, what lies near the readings on a
   * large one.
   */
  private sheetErrorsNear(readings: readonly Reading[]): readonly SingleHypothesis[] {
    const all = (this.ownSheetErrors ??= sheetErrors(this.index, this.space.healthyPrior));
    if (this.index.board.parts.length <= DOUBT_ALL_UP_TO) return all;
    const near = new Set(
      readings.flatMap(({ measurement: { at, to } }) => [at.net, to.net].map(nameKey)),
    );
    near.delete(GROUND);
    return all.filter(({ fault }) => netsOfFault(fault).some((net) => near.has(nameKey(net))));
  }
}

/** Faults that a value typed wrongly, or a part that is not drawn, looks like to a meter. */
const LIKE_A_SHEET_ERROR = /:(drift-|leaky)/;

function couldBeTheSheet(leader: Suspect | undefined): boolean {
  return leader?.hypothesis.faults.some((name) => LIKE_A_SHEET_ERROR.test(name)) === true;
}

/** Every part that can fail, in board order, by the designator under which it is replaced. */
export function replaceableParts(index: BoardIndex): readonly string[] {
  const refs = new Set<string>();
  for (const part of index.board.parts)
    if (modesOf(part).length > 0) refs.add(replaceableRef(part.ref));
  return [...refs];
}

/**
 * Belief in one call, for those who have all readings at once. factor: what multiplies a part's
 * prior (looks, what was said of the unit).
 */
export function diagnose(
  index: BoardIndex,
  readings: readonly Reading[],
  rates: RateTable,
  factor?: (ref: string) => number,
): Belief {
  const taught = taughtBy(index, readings);
  return new Diagnoser(taught.index, rates, factor).believe(taught.readings);
}
