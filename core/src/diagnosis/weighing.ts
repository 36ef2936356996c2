import type { Hypothesis, HypothesisSpace, SingleHypothesis } from '../fault';
import { readout, type Reading } from '../instrument';
import { decibans, type Belief, type PartBelief, type SheetDoubt } from './belief';
import type { Cause } from './causes';
import { refinedMean, worthACloserLook } from './closer-look';
import type { EsrLevels } from './esr-levels';
import { searchJoints } from './joint-search';
import type { Evidence } from './joints';
import { blank } from './likelihood';
import type { ReadingLikelihoods } from './reading-likelihoods';
import { addUp, peak, type LikelihoodRow } from './reading-rows';
import { logMeanExp, logMeanExpWithout } from './severity-grid';
import { SharedLevels } from './shared-levels';

/** What belief about a board is worked out from. */
export interface Grounds {
  readonly space: HypothesisSpace;
  /** Of what belief is summed over. */
  readonly refs: readonly string[];
  readonly likelihoods: ReadingLikelihoods;
  readonly levels: EsrLevels;
  readonly causes: ReadonlyMap<number, readonly Cause[]>;
}

/**
 * Belief over what may be the matter with the board, where its sheet may be wrong (ofSheet) as
 * well, and what several of them are together. soFar: by the rows that are there already, with no
 * looking for several faults at once.
 */
export function weigh(
  grounds: Grounds,
  readings: readonly Reading[],
  ofSheet: readonly SingleHypothesis[],
  soFar = false,
): Belief {
  const { space, likelihoods, refs } = grounds;
  const own = space.hypotheses;
  const singles = [...own, ...ofSheet];
  const shared = new SharedLevels(grounds.levels, readings, singles, likelihoods.guesses, own);
  const rows = readings.map(
    (reading, r) =>
      shared.rowsOf(r) ??
      (soFar ? likelihoods.soFar(reading) : undefined) ??
      likelihoods.rowsOf(reading, own, ofSheet),
  );
  const apart = rows.filter((_, r) => !shared.has(r));
  const totals = singles.map((hypothesis, h) =>
    shared.add(
      addUp(
        apart.map((one) => one.rows[h]!),
        likelihoods.width(hypothesis),
      ),
      h,
    ),
  );
  const evidence: Evidence = { readings, singles, totals, rows, causes: grounds.causes };
  const joints = soFar ? [] : searchJoints(evidence, likelihoods, shared);

  const hypotheses: readonly Hypothesis[] = [
    ...singles,
    ...joints.map(({ joint }) => joint.hypothesis),
  ];
  const rowAt = (r: number, i: number): LikelihoodRow =>
    i < singles.length ? rows[r]!.rows[i]! : joints[i - singles.length]!.rows[r]!;
  const allTotals = [...totals, ...joints.map(({ total }) => total)];
  const healthyTotal = shared.add(
    addUp(
      apart.map(({ healthy }) => healthy),
      likelihoods.guesses,
    ),
    undefined,
  );
  const blanks = readings.map((reading) =>
    Math.log(blank(reading.measurement.kind, reading.value, likelihoods.voltSpan)),
  );
  const allBlanks = blanks.reduce((a, b) => a + b, 0);

  const logPriors = Float64Array.from(hypotheses, ({ prior }) => Math.log(prior));
  const [logHealthy, logUnmodelled] = [
    Math.log(space.healthyPrior),
    Math.log(space.unmodelledPrior),
  ];
  const means = Float64Array.from(allTotals, logMeanExp);
  // How far a closer look at the severities moves a mean; the looks of single readings move with
  // it. With guesses at the edges the readings are wide anyway.
  const closer = new Float64Array(means.length);
  if (!soFar && likelihoods.guesses === 1) {
    const scores = means.map((mean, i) => logPriors[i]! + mean);
    for (const h of worthACloserLook(evidence, scores)) {
      closer[h] =
        refinedMean(evidence, h, likelihoods.predictor, likelihoods.voltSpan, shared) - means[h]!;
    }
  }
  const count = hypotheses.length;
  const logOdds = (i: number): number => logPriors[i]! + means[i]! + closer[i]!;
  const probabilities = normalise(
    count,
    logOdds,
    logHealthy + logMeanExp(healthyTotal),
    logUnmodelled + allBlanks,
  );
  const suspects = hypotheses.flatMap((hypothesis, i) =>
    hypothesis.refs.length === 0 ? [] : [{ hypothesis, probability: probabilities[i]! }],
  );
  suspects.sort((a, b) => b.probability - a.probability);

  const partsOf = partPositions(refs, hypotheses);
  const shares = sumByPart(refs, probabilities, partsOf);
  const weights = refs.map((): number[] => []);
  rows.forEach((rest, r) => {
    const without = normalise(
      count,
      (i) => logPriors[i]! + closer[i]! + rest.meanWithout(allTotals[i]!, means[i]!, rowAt(r, i)),
      logHealthy + logMeanExpWithout(healthyTotal, rest.healthy),
      logUnmodelled + allBlanks - blanks[r]!,
    );
    const before = sumByPart(refs, without, partsOf);
    shares.forEach((share, part) => weights[part]!.push(decibans(share) - decibans(before[part]!)));
  });
  // The likeliest of all, the sound board among them, at the severity that suits it best.
  const leader = probabilities
    .subarray(0, count + 1)
    .reduce((at, p, i, list) => (p > list[at]! ? i : at), count);
  const at = peak(leader === count ? healthyTotal : allTotals[leader]!);
  const misfit = rows.map(
    ({ healthy }, r) => blanks[r]! - (leader === count ? healthy : rowAt(r, leader))[at]!,
  );
  const { predictor } = likelihoods;
  return {
    suspects,
    byPart: byProbability(
      refs.map((ref, i) => ({ ref, probability: shares[i]!, weights: weights[i]! })),
    ),
    // A wrong sheet of a board on which nothing else is wrong is a sound board.
    healthy: hypotheses.reduce(
      (sum, hypothesis, i) => sum + (hypothesis.refs.length === 0 ? probabilities[i]! : 0),
      probabilities[count]!,
    ),
    unmodelled: probabilities[count + 1]!,
    sheet: doubtsOf(hypotheses, probabilities),
    unexplained: [...misfit.keys()]
      .filter((r) => misfit[r]! > 0)
      .sort((a, b) => misfit[b]! - misfit[a]!),
    expected: readings.map(({ measurement: m, absent }) =>
      readout(m.kind, predictor.healthy(m, absent)),
    ),
  };
}

/** Likeliest first; those alike stay in the order in which they stand. */
function byProbability(parts: readonly PartBelief[]): readonly PartBelief[] {
  return [...parts].sort((a, b) => b.probability - a.probability);
}

/** Positions in refs of the parts that each hypothesis condemns. */
function partPositions(
  refs: readonly string[],
  hypotheses: readonly Hypothesis[],
): readonly (readonly number[])[] {
  const position = new Map(refs.map((ref, i) => [ref, i]));
  return hypotheses.map((hypothesis) => hypothesis.refs.map((ref) => position.get(ref)!));
}

function sumByPart(
  refs: readonly string[],
  probabilities: Float64Array,
  partsOf: readonly (readonly number[])[],
): number[] {
  const shares = refs.map(() => 0);
  partsOf.forEach((parts, i) => parts.forEach((part) => (shares[part]! += probabilities[i]!)));
  return shares;
}

/** Where the sheet may be wrong, by the share of all that has it so. */
function doubtsOf(
  hypotheses: readonly Hypothesis[],
  probabilities: Float64Array,
): readonly SheetDoubt[] {
  const found = new Map<string, SheetDoubt>();
  hypotheses.forEach((hypothesis, i) => {
    for (const { name, sheet } of hypothesis.type === 'joint' ? hypothesis.members : [hypothesis]) {
      if (!sheet) continue;
      const before = found.get(name)?.probability ?? 0;
      found.set(name, {
        name,
        title: sheet.title,
        check: sheet.check,
        probability: before + probabilities[i]!,
      });
    }
  });
  return [...found.values()].sort((a, b) => b.probability - a.probability);
}

/**
 * Probabilities of so many hypotheses, then of the sound board and of none of these, from their
 * logarithms but for a common summand.
 */
function normalise(
  count: number,
  logOf: (i: number) => number,
  healthy: number,
  unmodelled: number,
): Float64Array {
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
