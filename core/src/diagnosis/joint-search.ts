import {
  leadingSingles,
  pairsFor,
  withOneMore,
  worthTrying,
  type Base,
  type Evidence,
  type Joint,
} from './joints';
import type { ReadingLikelihoods } from './reading-likelihoods';
import { addTo, addUp, best, peak, type LikelihoodRow } from './reading-rows';
import { logMeanExp } from './severity-grid';
import type { SharedLevels } from './shared-levels';

/**
 * Several faults at once with what the readings say of them. rows: by reading; total: their sum.
 */
export interface WeighedJoint {
  readonly joint: Joint;
  readonly rows: readonly LikelihoodRow[];
  readonly total: LikelihoodRow;
}

/**
 * The pairs and threes of faults worth weighing: pairs that the singles promise, then one more
 * fault beside whatever leads, solved on the board with that in it.
 */
export function searchJoints(
  evidence: Evidence,
  likelihoods: ReadingLikelihoods,
  shared: SharedLevels,
): readonly WeighedJoint[] {
  const { readings, singles, rows } = evidence;
  const weighed = (joint: Joint): WeighedJoint => {
    const own = readings.map(
      (reading, r) => shared.jointRow(joint, r) ?? likelihoods.jointRow(joint, reading, rows[r]!),
    );
    const apart = own.filter((_, r) => !shared.has(r));
    return {
      joint,
      rows: own,
      total: shared.addJoint(addUp(apart, likelihoods.width(joint.hypothesis)), joint),
    };
  };
  const oneMore = (bases: readonly Base[]): readonly WeighedJoint[] =>
    worthTrying(evidence, bases).map(({ base, h }) => {
      const single = singles[h]!;
      const sums = new Float64Array(likelihoods.width(single));
      readings.forEach((reading, r) =>
        addTo(
          sums,
          likelihoods.besideRow(
            base,
            single,
            reading,
            rows[r]!.rows[h]!,
            base.byReading[r]!,
            shared.has(r),
          ),
        ),
      );
      return weighed(withOneMore(evidence, base, h, peak(sums)));
    });
  const pairs = likeliestOfEach([
    ...pairsFor(evidence).map(weighed),
    ...oneMore(leadingSingles(evidence)),
  ]);
  return likeliestOfEach([...pairs, ...oneMore(pairs.map(asBase))]);
}

function scoreOf({ joint, total }: WeighedJoint): number {
  return Math.log(joint.hypothesis.prior) + logMeanExp(total);
}

function asBase(one: WeighedJoint): Base {
  return { joint: one.joint, byReading: one.rows.map(best), score: scoreOf(one) };
}

/** Of those with the same faults the one that the readings speak for most. */
function likeliestOfEach(list: readonly WeighedJoint[]): readonly WeighedJoint[] {
  const found = new Map<string, WeighedJoint>();
  for (const one of list) {
    const key = one.joint.positions.join();
    const before = found.get(key);
    if (!before || scoreOf(one) > scoreOf(before)) found.set(key, one);
  }
  return [...found.values()];
}
