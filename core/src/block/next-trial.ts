import { minutesInWords, tellsInWords } from '../quantity';
import { believeBlocks } from './belief';
import type { BlockEvidence, UnitModel } from './unit-model';

/** Something that could be tried with the unit. */
export interface Trial {
  readonly title: string;
  readonly minutes: number;
  /** What would be filed for a good and for a bad outcome. */
  readonly good: BlockEvidence;
  readonly bad: BlockEvidence;
  /** A check that can end the job. */
  readonly kills: boolean;
  readonly caution?: string | undefined;
}

export interface ProposedTrial extends Trial {
  readonly gainBits: number;
  /** Chance of the bad outcome. */
  readonly chanceBad: number;
  readonly reason: string;
}

/**
 * What a swap costs, and what a job is worth that a kill check can save: minutes. From memory of
 * bench practice.
 */
const SWAP_MINUTES = 6;
const JOB_MINUTES = 120;

/**
 * Every kill check, and for every block the two ways of swapping it: the suspect into a known-good
 * unit, or a good one into this unit.
 */
export function possibleTrials(model: UnitModel): readonly Trial[] {
  const all = model.blocks.map(({ name }) => name);
  const trial = (exercised: readonly string[], passed: boolean): BlockEvidence => ({
    type: 'trial',
    exercised,
    passed: passed ? 1 : 0,
    failed: passed ? 0 : 1,
  });
  return [
    ...model.killChecks.map((check): Trial => ({
      title: check.title,
      minutes: check.minutes,
      kills: true,
      caution: check.caution,
      good: { type: 'check', block: check.block, good: true, coverage: check.coverage },
      bad: { type: 'check', block: check.block, good: false, coverage: check.coverage },
    })),
    ...model.blocks.flatMap(({ name, title }): Trial[] => {
      const others = all.filter((block) => block !== name);
      return [
        {
          title: `put this unit's ${title} into a known-good unit`,
          minutes: SWAP_MINUTES,
          kills: false,
          good: trial([name], true),
          bad: trial([name], false),
        },
        {
          title: `put a known-good ${title} into this unit`,
          minutes: SWAP_MINUTES,
          kills: false,
          good: trial(others, true),
          bad: trial(others, false),
        },
      ];
    }),
  ];
}

/**
 * Ranks what to try next: kill checks first where what they may save is above what they cost, then
 * by expected information per minute. A suspect goes into a
 * good unit rather than a good part into this one where several blocks may be bad: the information
 * says so by itself.
 */
export function nextTrials(
  model: UnitModel,
  evidence: readonly BlockEvidence[],
  trials: readonly Trial[] = possibleTrials(model),
): readonly ProposedTrial[] {
  const now = believeBlocks(model, evidence);
  const before = entropy(now.byBlock.map(({ probability }) => probability));
  const done = new Set(evidence.map(trialKey));
  const proposals = trials
    .filter(({ good, bad }) => !done.has(trialKey(good)) && !done.has(trialKey(bad)))
    .map((trial): ProposedTrial => {
      const [ifGood, ifBad] = [
        believeBlocks(model, [...evidence, trial.good]),
        believeBlocks(model, [...evidence, trial.bad]),
      ];
      const chanceBad = chanceOf(now.byBlock, ifGood.byBlock, ifBad.byBlock);
      const after =
        (1 - chanceBad) * entropy(ifGood.byBlock.map(({ probability }) => probability)) +
        chanceBad * entropy(ifBad.byBlock.map(({ probability }) => probability));
      const gainBits = Math.max(0, before - after);
      return { ...trial, gainBits, chanceBad, reason: reasonOf(trial, gainBits, chanceBad) };
    });
  const killValue = ({ kills, chanceBad, minutes }: ProposedTrial): number =>
    kills ? (chanceBad * JOB_MINUTES) / minutes : 0;
  const isWorthIt = (trial: ProposedTrial): boolean => killValue(trial) > 1;
  return [...proposals].sort((a, b) => {
    if (isWorthIt(a) !== isWorthIt(b)) return isWorthIt(a) ? -1 : 1;
    return isWorthIt(a)
      ? killValue(b) - killValue(a)
      : b.gainBits / b.minutes - a.gainBits / a.minutes;
  });
}

/** What makes two trials the same, however much a check covers. */
function trialKey(one: BlockEvidence): string {
  return one.type === 'check' ? `check ${one.block} ${one.good}` : JSON.stringify(one);
}

function reasonOf({ kills, minutes }: Trial, gainBits: number, chanceBad: number): string {
  const told = `tells ${tellsInWords(gainBits)} for ${minutesInWords(minutes)}`;
  return kills ? `can end the job: ${Math.round(100 * chanceBad)} % that it does; ${told}` : told;
}

/**
 * The share of the bad outcome that makes the beliefs after it average to those before, from the
 * block that moves most.
 */
function chanceOf(now: Shares, good: Shares, bad: Shares): number {
  const at = (shares: Shares, block: string): number =>
    shares.find((entry) => entry.block === block)!.probability;
  const widest = now.reduce((best, entry) =>
    Math.abs(at(bad, entry.block) - at(good, entry.block)) >
    Math.abs(at(bad, best.block) - at(good, best.block))
      ? entry
      : best,
  );
  const [p, g, b] = [widest.probability, at(good, widest.block), at(bad, widest.block)];
  return Math.abs(b - g) < 1e-12 ? 0 : Math.min(1, Math.max(0, (p - g) / (b - g)));
}
type Shares = readonly { readonly block: string; readonly probability: number }[];

/** Uncertainty about the blocks, each taken by itself, bits. */
function entropy(probabilities: readonly number[]): number {
  const of = (p: number): number =>
    p <= 0 || p >= 1 ? 0 : -p * Math.log2(p) - (1 - p) * Math.log2(1 - p);
  return probabilities.reduce((sum, p) => sum + of(p), 0);
}
