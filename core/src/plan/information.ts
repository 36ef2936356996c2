import { normalBelow } from '../quantity';
import { BLUNDER, type Scaled } from '../diagnosis';

/** One thing that may be so, with what it predicts for the reading in question. `group`: what would be replaced; hypotheses of one group need no telling apart. */
export interface Outlook {
  readonly group: number;
  readonly probability: number;
  /** Undefined for "none of these", which predicts nothing. */
  readonly predicted: Scaled | undefined;
}

/** One distinguishable outcome of a reading. */
export interface Outcome {
  readonly probability: number;
  /** Belief-weighted centre of the predictions that fall here, natural scale; infinite for OL. */
  readonly centre: number;
  /** Probability of each group given this outcome. */
  readonly groups: Float64Array;
}

export interface Information {
  /** Expected information about which group it is, bits. */
  readonly gainBits: number;
  /** Expected probability of the likeliest group after the reading. */
  readonly expectedTop: number;
  readonly outcomes: readonly Outcome[];
}

const MAX_BINS = 40;
/** Two predictions nearer than this share of the sum of their standard deviations lie in one bin. */
const SEPARATION = 0.5;

/** Expected information gain of a reading: mutual information between its outcome and the group, the outcome sorted into bins that lie where
 *  predictions part. outlooks: probabilities sum to 1. bins: boundaries to use instead (category readings), ascending.
 *  Source: Lindley, Ann. Math. Stat. 27, 1956 (information of an experiment). */
export function expectedInformation(outlooks: readonly Outlook[], groups: number, boundaries?: readonly number[]): Information {
  const cuts = boundaries ?? cutsBetween(outlooks);
  const bins = cuts.length + 2;
  const joint = new Float64Array(bins * groups);
  const centre = new Float64Array(bins);
  const known = new Float64Array(bins);
  const blank = new Float64Array(groups);
  const chances = new Float64Array(bins);
  let spreadOut: Scaled | undefined;
  for (const { group, probability, predicted } of outlooks) {
    blank[group] = blank[group]! + (probability * (predicted ? BLUNDER : 1)) / bins;
    if (!predicted) continue;
    if (predicted !== spreadOut) {
      // Most outlooks predict what the one before does.
      chances.fill(0);
      spread(predicted, cuts, (bin, chance) => (chances[bin] = chance));
      spreadOut = predicted;
    }
    const share = probability * (1 - BLUNDER);
    for (let bin = 0; bin < bins; bin += 1) {
      const part = share * chances[bin]!;
      if (part === 0) continue;
      joint[bin * groups + group] = joint[bin * groups + group]! + part;
      known[bin] = known[bin]! + part;
      if (!predicted.overload) centre[bin] = centre[bin]! + part * predicted.y;
    }
  }
  for (let bin = 0; bin < bins; bin += 1) for (let g = 0; g < groups; g += 1) joint[bin * groups + g] = joint[bin * groups + g]! + blank[g]!;
  return measure(joint, bins, groups, (bin) => (bin === bins - 1 ? Infinity : known[bin]! > 0 ? centre[bin]! / known[bin]! : 0));
}

/** The outlooks after each outcome of a reading: its probability, and what each outlook then has, in the order given (summing to 1). boundaries: as in expectedInformation. */
export function outlooksByOutcome(
  outlooks: readonly Outlook[],
  boundaries?: readonly number[],
): readonly { readonly probability: number; readonly shares: Float64Array }[] {
  const cuts = boundaries ?? cutsBetween(outlooks);
  const bins = Array.from({ length: cuts.length + 2 }, () => new Float64Array(outlooks.length));
  outlooks.forEach(({ probability, predicted }, i) => {
    const blank = (probability * (predicted ? BLUNDER : 1)) / bins.length;
    for (const bin of bins) bin[i]! += blank;
    if (predicted) spread(predicted, cuts, (bin, chance) => (bins[bin]![i]! += probability * (1 - BLUNDER) * chance));
  });
  return bins.map((bin) => {
    const probability = bin.reduce((a, b) => a + b, 0);
    return { probability, shares: probability > 0 ? bin.map((value) => value / probability) : bin };
  });
}

/** Hands each bin its share of one prediction. The last bin is OL. */
function spread(predicted: Scaled, cuts: readonly number[], put: (bin: number, chance: number) => void): void {
  if (predicted.overload) return put(cuts.length + 1, 1);
  const sigma = Math.max(predicted.sigma, 1e-9);
  let below = 0;
  for (let bin = 0; bin <= cuts.length; bin += 1) {
    const upTo = bin === cuts.length ? 1 : normalBelow((cuts[bin]! - predicted.y) / sigma);
    if (upTo - below > 1e-6) put(bin, upTo - below);
    below = upTo;
    if (below > 1 - 1e-6) return;
  }
}

/** Whether all predictions lie so near to one another that there is no boundary between them: so it is with most readings. */
function areTogether(outlooks: readonly Outlook[]): boolean {
  let [least, most, sigma] = [Infinity, -Infinity, Infinity];
  for (const { predicted } of outlooks) {
    if (!predicted || predicted.overload) continue;
    least = Math.min(least, predicted.y);
    most = Math.max(most, predicted.y);
    sigma = Math.min(sigma, predicted.sigma);
  }
  return !(most - least > 2 * SEPARATION * Math.max(sigma, 1e-12));
}

/** Boundaries between groups of predictions, at most MAX_BINS - 1, the widest gaps first. */
function cutsBetween(outlooks: readonly Outlook[]): number[] {
  if (areTogether(outlooks)) return [];
  const points = outlooks.flatMap(({ predicted }) => (predicted && !predicted.overload ? [predicted] : [])).sort((a, b) => a.y - b.y);
  const gaps: { at: number; width: number }[] = [];
  for (let i = 1; i < points.length; i += 1) {
    const [left, right] = [points[i - 1]!, points[i]!];
    const total = left.sigma + right.sigma;
    const width = (right.y - left.y) / Math.max(total, 1e-12);
    if (width > SEPARATION) gaps.push({ width, at: (left.y * right.sigma + right.y * left.sigma) / Math.max(total, 1e-12) });
  }
  return gaps.sort((a, b) => b.width - a.width).slice(0, MAX_BINS - 1).map((gap) => gap.at).sort((a, b) => a - b); // prettier-ignore
}

function measure(joint: Float64Array, bins: number, groups: number, centreOf: (bin: number) => number): Information {
  const prior = new Float64Array(groups);
  const totals = new Float64Array(bins);
  for (let bin = 0; bin < bins; bin += 1) {
    for (let g = 0; g < groups; g += 1) {
      const share = joint[bin * groups + g]!;
      prior[g] = prior[g]! + share;
      totals[bin] = totals[bin]! + share;
    }
  }
  let gain = 0;
  let expectedTop = 0;
  for (let bin = 0; bin < bins; bin += 1) {
    const total = totals[bin]!;
    let top = 0;
    for (let g = 0; g < groups; g += 1) {
      const share = joint[bin * groups + g]!;
      if (share > 0) gain += share * Math.log2(share / (total * prior[g]!));
      if (share > top) top = share;
    }
    expectedTop += top;
  }
  // Worked out when asked for: most readings are not worth it.
  let outcomes: readonly Outcome[] | undefined;
  const outcomeOf = (bin: number): Outcome => ({
    probability: totals[bin]!,
    centre: centreOf(bin),
    groups: joint.slice(bin * groups, (bin + 1) * groups).map((share) => share / totals[bin]!),
  });
  return {
    gainBits: Math.max(0, gain),
    expectedTop,
    get outcomes(): readonly Outcome[] {
      return (outcomes ??= [...totals.keys()].filter((bin) => totals[bin]! > 0).map(outcomeOf));
    },
  };
}
