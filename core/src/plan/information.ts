import { BLUNDER, type Scaled } from '../diagnosis';
import { cutsBetween, spread } from './bins';

/**
 * One thing that may be so, with what it predicts for the reading in question. `group`: what would
 * be replaced; hypotheses of one group need no telling apart.
 */
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

/**
 * Expected information gain of a reading: mutual information between its outcome and the group, the
 * outcome sorted into bins that lie where predictions part. outlooks: probabilities sum to 1. bins:
 * boundaries to use instead (category readings), ascending. Source: Lindley, Ann. Math. Stat. 27,
 * 1956 (information of an experiment).
 */
export function expectedInformation(
  outlooks: readonly Outlook[],
  groups: number,
  boundaries?: readonly number[],
): Information {
  const cuts = boundaries ?? cutsBetween(outlooks);
  const table = tableOf(outlooks, groups, cuts);
  const bits = mutualInformation(table);
  const expectedTop = likeliestOf(table);
  // Worked out when asked for: most readings are not worth it.
  let outcomes: readonly Outcome[] | undefined;
  return {
    gainBits: Math.max(0, bits),
    expectedTop,
    get outcomes(): readonly Outcome[] {
      return (outcomes ??= outcomesOf(tableOf(outlooks, groups, cuts)));
    },
  };
}

/**
 * Joint probability of bins and groups. In every bin each group has its `blank` (blunders, and what
 * predicts nothing); what predictions put there is in `parts`, at
 * bin * groups + group, and only the cells in `filled` have any. Valid until the next one is made:
 * thousands are in a plan.
 */
interface JointTable {
  readonly bins: number;
  readonly groups: number;
  readonly parts: Float64Array;
  readonly filled: readonly number[];
  readonly blank: Float64Array;
  /** By bin: sum of predictions on the natural scale, weighted by what they put there. */
  readonly weighted: Float64Array;
}

/** Memory that is used again by every table. */
class Room {
  parts = new Float64Array(0);
  blank = new Float64Array(0);
  weighted = new Float64Array(0);
  chances = new Float64Array(0);
  ofBin = new Float64Array(0);
  ofGroup = new Float64Array(0);
  readonly filled: number[] = [];

  /** Makes it large enough, and empty. */
  clear(bins: number, groups: number): void {
    for (const cell of this.filled) this.parts[cell] = 0;
    this.filled.length = 0;
    if (this.parts.length < bins * groups) this.parts = new Float64Array(2 * bins * groups);
    if (this.weighted.length < bins)
      [this.weighted, this.chances, this.ofBin] = [
        new Float64Array(2 * bins),
        new Float64Array(2 * bins),
        new Float64Array(2 * bins),
      ];
    if (this.blank.length < groups)
      [this.blank, this.ofGroup] = [new Float64Array(2 * groups), new Float64Array(2 * groups)];
    this.weighted.fill(0, 0, bins);
    this.blank.fill(0, 0, groups);
  }
}

const room = new Room();

function tableOf(
  outlooks: readonly Outlook[],
  groups: number,
  cuts: readonly number[],
): JointTable {
  const bins = cuts.length + 2;
  room.clear(bins, groups);
  const { parts, filled, blank, weighted, chances } = room;
  let spreadOut: Scaled | undefined;
  for (let o = 0; o < outlooks.length; o += 1) {
    const { group, probability, predicted } = outlooks[o]!;
    blank[group] = blank[group]! + (probability * (predicted ? BLUNDER : 1)) / bins;
    if (!predicted) continue;
    // Most outlooks predict what the one before does.
    if (predicted !== spreadOut) spread((spreadOut = predicted), cuts, chances);
    const share = probability * (1 - BLUNDER);
    for (let bin = 0; bin < bins; bin += 1) {
      const part = share * chances[bin]!;
      if (part === 0) continue;
      const cell = bin * groups + group;
      if (parts[cell] === 0) filled.push(cell);
      parts[cell] = parts[cell]! + part;
      if (!predicted.overload) weighted[bin] = weighted[bin]! + part * predicted.y;
    }
  }
  return { bins, groups, parts, filled, blank, weighted };
}

/**
 * No reading tells more of the group than which prediction came true: at most so many bits where
 * all but `others` of the probability predicts the same, and the others
 * predict `kinds` different things. Source: the data processing inequality, Cover & Thomas,
 * Elements of Information Theory, 2.8.
 */
export function mostInformation(others: number, kinds: number): number {
  return -entropyTerm(others) - entropyTerm(1 - others) + others * Math.log2(Math.max(1, kinds));
}

const entropyTerm = (p: number): number => (p > 0 ? p * Math.log2(p) : 0);

/**
 * Bits that the bin tells of the group: the sum of p log p over cells less that over bins and over
 * groups.
 */
function mutualInformation({ bins, groups, parts, filled, blank }: JointTable): number {
  const { ofBin, ofGroup } = room;
  let allBlank = 0;
  let bits = 0;
  for (let g = 0; g < groups; g += 1) {
    allBlank += blank[g]!;
    ofGroup[g] = bins * blank[g]!;
    bits += bins * entropyTerm(blank[g]!);
  }
  ofBin.fill(allBlank, 0, bins);
  for (let f = 0; f < filled.length; f += 1) {
    const cell = filled[f]!;
    const g = cell % groups;
    const bin = (cell - g) / groups;
    const part = parts[cell]!;
    ofBin[bin] = ofBin[bin]! + part;
    ofGroup[g] = ofGroup[g]! + part;
    bits += entropyTerm(part + blank[g]!) - entropyTerm(blank[g]!);
  }
  for (let bin = 0; bin < bins; bin += 1) bits -= entropyTerm(ofBin[bin]!);
  for (let g = 0; g < groups; g += 1) bits -= entropyTerm(ofGroup[g]!);
  return bits;
}

/** Expected probability of the likeliest group once the bin is known. */
function likeliestOf({ bins, groups, parts, filled, blank }: JointTable): number {
  let least = 0;
  for (let g = 0; g < groups; g += 1) least = Math.max(least, blank[g]!);
  const tops = room.ofBin.fill(least, 0, bins);
  for (let f = 0; f < filled.length; f += 1) {
    const cell = filled[f]!;
    const g = cell % groups;
    const bin = (cell - g) / groups;
    tops[bin] = Math.max(tops[bin]!, parts[cell]! + blank[g]!);
  }
  let sum = 0;
  for (let bin = 0; bin < bins; bin += 1) sum += tops[bin]!;
  return sum;
}

/** The bins that anything falls into. */
function outcomesOf({ bins, groups, parts, blank, weighted }: JointTable): readonly Outcome[] {
  const outcomes: Outcome[] = [];
  for (let bin = 0; bin < bins; bin += 1) {
    const shares = new Float64Array(groups);
    let [known, probability] = [0, 0];
    for (let g = 0; g < groups; g += 1) {
      const part = parts[bin * groups + g]!;
      known += part;
      probability += shares[g] = part + blank[g]!;
    }
    if (probability <= 0) continue;
    for (let g = 0; g < groups; g += 1) shares[g] = shares[g]! / probability;
    outcomes.push({
      probability,
      centre: bin === bins - 1 ? Infinity : known > 0 ? weighted[bin]! / known : 0,
      groups: shares,
    });
  }
  return outcomes;
}

/**
 * The outlooks after each outcome of a reading: its probability, and what each outlook then has, in
 * the order given (summing to 1). boundaries: as in expectedInformation.
 */
export function outlooksByOutcome(
  outlooks: readonly Outlook[],
  boundaries?: readonly number[],
): readonly { readonly probability: number; readonly shares: Float64Array }[] {
  const cuts = boundaries ?? cutsBetween(outlooks);
  const bins = Array.from({ length: cuts.length + 2 }, () => new Float64Array(outlooks.length));
  const chances = new Float64Array(bins.length);
  outlooks.forEach(({ probability, predicted }, i) => {
    const blank = (probability * (predicted ? BLUNDER : 1)) / bins.length;
    if (predicted) spread(predicted, cuts, chances);
    bins.forEach(
      (bin, k) => (bin[i] = blank + (predicted ? probability * (1 - BLUNDER) * chances[k]! : 0)),
    );
  });
  return bins.map((bin) => {
    const probability = bin.reduce((a, b) => a + b, 0);
    return { probability, shares: probability > 0 ? bin.map((value) => value / probability) : bin };
  });
}
