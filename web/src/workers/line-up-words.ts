import { partsAlike, type Belief, type Diagnoser } from '@hanzai/core/diagnosis';
import type { Reading } from '@hanzai/core/instrument';
import { judged, type JudgedExpectation } from '../case/expectation';
import { partTitle, siteTitle } from '../case/wording';
import type { LineUp, LineUpEntry } from './engine-messages';
import { pairsOf } from './pairs';

/**
 * A part counts as cleared below this probability, where it has also lost this share of its prior.
 */
const CLEARED = { probability: 0.01, ofPrior: 0.25 } as const;
/** Doubts about the sheet that are worth a line. */
const DOUBTS = { from: 0.02, most: 4 } as const;
/** Parts below this chance are in no group of such as are not told apart. */
const ALIKE_FROM = 0.01;
/** Faults of a part that are named, from this share of it on. */
const FAULTS = { ofPart: 0.01, most: 8 } as const;
/** Leaders below this chance are not named. */
const LEADS_FROM = 0.02;

/** The likeliest parts, so many at most. */
export function leadersOf(
  { byPart }: Belief,
  most: number,
): readonly { readonly ref: string; readonly probability: number }[] {
  return byPart
    .slice(0, most)
    .filter(({ probability }) => probability >= LEADS_FROM)
    .map(({ ref, probability }) => ({ ref, probability }));
}

/** Belief as a line-up in words. ids: of the readings, in their order; priors: chances before them. */
export function lineUpInWords(
  diagnoser: Diagnoser,
  priors: ReadonlyMap<string, number>,
  belief: Belief,
  ids: readonly string[],
  readings: readonly Reading[],
  milliseconds: number,
): LineUp {
  const entries = belief.byPart.map(({ ref, probability, weights }): LineUpEntry => {
    const prior = priors.get(ref) ?? 0;
    const weighed = weights.map((decibans, i) => ({ id: ids[i]!, decibans }));
    const cleared = probability < CLEARED.probability && probability < CLEARED.ofPrior * prior;
    const loudest = [...weighed]
      .filter((w) => (cleared ? w.decibans < -1 : w.decibans > 1))
      .sort((a, b) => Math.abs(b.decibans) - Math.abs(a.decibans))[0];
    const faults = belief.suspects
      .filter((s) => s.hypothesis.refs.includes(ref) && s.probability > FAULTS.ofPart * probability)
      .slice(0, FAULTS.most)
      .map((s) => ({ name: s.hypothesis.name, probability: s.probability }));
    const modes = faults
      .filter((fault, i) => i === 0 || fault.probability > 0.05 * probability)
      .slice(0, 3)
      .map(({ name }) => name);
    return {
      ref,
      title:
        siteTitle(diagnoser.index, ref) ?? partTitle(diagnoser.index.replaceable.get(ref) ?? []),
      probability,
      prior,
      modes,
      faults,
      weights: weighed,
      loudest,
      cleared,
    };
  });
  const expected = Object.fromEntries(
    readings.map((reading, i): [string, JudgedExpectation] => [
      ids[i]!,
      judged(belief.expected[i]!, reading.value),
    ]),
  );
  return {
    entries,
    alike: partsAlike(belief, ALIKE_FROM),
    pairs: pairsOf(diagnoser, belief),
    healthy: belief.healthy,
    unmodelled: belief.unmodelled,
    sheet: belief.sheet
      .filter(({ probability }) => probability >= DOUBTS.from)
      .slice(0, DOUBTS.most),
    unexplained: belief.unexplained.map((r) => ids[r]!),
    expected,
    milliseconds,
  };
}
