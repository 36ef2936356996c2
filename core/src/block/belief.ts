import { COMMON_COVERAGE, type BlockEvidence, type UnitModel } from './unit-model';

/**
 * How often a bad block fails a try that uses it: always, every other time, one time in five.
 * Shares of faults that are of each kind: from memory of bench practice.
 */
const INTERMITTENCE = [
  { fails: 0.99, share: 0.7 },
  { fails: 0.5, share: 0.18 },
  { fails: 0.2, share: 0.12 },
] as const;
/**
 * A try with good blocks only goes wrong this often: a cable not home, a bad medium. From memory of
 * bench practice.
 */
const ACCIDENT = 0.02;
/** A direct check is wrong this often. From memory of bench practice. */
const WRONG_CHECK = 0.03;
/**
 * What a recognised pattern multiplies the odds of its suspects by, first suspect first; later ones
 * get the last. From memory of bench practice.
 */
const PATTERN_FACTORS = [6, 4, 3, 2] as const;

/** One state of a unit: the bad blocks with how often each fails. */
interface UnitState {
  readonly bad: readonly { readonly block: string; readonly fails: number }[];
  readonly prior: number;
}

export interface BlockBelief {
  readonly byBlock: readonly { readonly block: string; readonly probability: number }[];
  readonly healthy: number;
  /** Chance that more than one block is bad. */
  readonly several: number;
  /** Chance that what is bad fails only now and then. */
  readonly intermittent: number;
  /**
   * How well the best single state explains everything, against each piece of evidence explained by
   * itself: far below 1 where they contradict one another.
   */
  readonly consistency: number;
  /** Positions of the pieces of evidence that hardly fit what all of them together say. */
  readonly odd: readonly number[];
}

/**
 * Evidence with less than this chance of a try going as it did, given all the other evidence, is
 * odd. From memory of bench practice.
 */
const ODD = 0.08;

/**
 * Belief over the blocks of a unit: exact over every single and double bad block and how often each
 * fails. The order of the evidence does not matter.
 */
export function believeBlocks(model: UnitModel, given: readonly BlockEvidence[]): BlockBelief {
  const evidence = given.map((one) =>
    one.type === 'pattern' && given.some(({ type }) => type === 'stage')
      ? { ...one, stageKnown: true }
      : one,
  );
  const states = unitStates(model, evidence);
  // Of each piece of evidence its chance in each state: worked out once, used four times.
  const fits = evidence.map((one) => states.map((state) => likelihood(model, state, one)));
  const explained = states.map((_, s) => fits.reduce((sum, fit) => sum + Math.log(fit[s]!), 0));
  const logs = states.map(({ prior }, s) => Math.log(prior) + explained[s]!);
  const top = Math.max(...logs);
  const weights = logs.map((log) => Math.exp(log - top));
  const total = weights.reduce((a, b) => a + b, 0);
  const chance = (test: (state: UnitState) => boolean): number =>
    states.reduce((sum, state, i) => sum + (test(state) ? weights[i]! / total : 0), 0);
  const together = Math.max(...explained);
  const apart = fits.reduce((sum, fit) => sum + Math.log(Math.max(...fit)), 0);
  return {
    byBlock: model.blocks
      .map(({ name }) => ({
        block: name,
        probability: chance(({ bad }) => bad.some(({ block }) => block === name)),
      }))
      .sort((a, b) => b.probability - a.probability),
    healthy: chance(({ bad }) => bad.length === 0),
    several: chance(({ bad }) => bad.length > 1),
    intermittent: chance(({ bad }) => bad.length > 0 && bad.every(({ fails }) => fails < 0.9)),
    consistency: Math.exp(together - apart),
    odd: evidence.flatMap((one, i) =>
      !endsTheJob(model, one) && foretold(logs, fits[i]!) ** (1 / triesOf(one)) < ODD ? [i] : [],
    ),
  };
}

/**
 * A kill check that failed is rare by its nature; it is repeated for what it means, not because it
 * does not fit.
 */
function endsTheJob(model: UnitModel, one: BlockEvidence): boolean {
  return (
    one.type === 'check' && !one.good && model.killChecks.some(({ block }) => block === one.block)
  );
}

/**
 * Chance of a piece of evidence, given all the others. logs: of each state, with all of the
 * evidence; fit: its own chance in each state.
 */
function foretold(logs: readonly number[], fit: readonly number[]): number {
  const without = logs.map((log, s) => log - Math.log(fit[s]!));
  const top = Math.max(...without);
  const sum = (values: readonly number[]): number =>
    values.reduce((total, value) => total + Math.exp(value - top), 0);
  return sum(logs) / sum(without);
}

/** Tries that a piece of evidence counts. */
function triesOf(one: BlockEvidence): number {
  return one.type === 'trial' ? Math.max(1, one.passed + one.failed) : 1;
}

function unitStates(model: UnitModel, evidence: readonly BlockEvidence[]): readonly UnitState[] {
  const odds = new Map(model.blocks.map(({ name, prior }) => [name, prior / (1 - prior)]));
  for (const one of evidence) {
    if (one.type !== 'pattern') continue;
    const pattern = model.patterns.find(({ name }) => name === one.name);
    pattern?.suspects.forEach((block, i) =>
      odds.set(block, odds.get(block)! * PATTERN_FACTORS[Math.min(i, PATTERN_FACTORS.length - 1)]!),
    );
  }
  const allGood = model.blocks.reduce((product, { name }) => product / (1 + odds.get(name)!), 1);
  const states: UnitState[] = [{ bad: [], prior: allGood }];
  model.blocks.forEach(({ name: a }, i) => {
    for (const p of INTERMITTENCE) {
      const single = allGood * odds.get(a)! * p.share;
      states.push({ bad: [{ block: a, fails: p.fails }], prior: single });
      for (const { name: b } of model.blocks.slice(i + 1)) {
        for (const q of INTERMITTENCE)
          states.push({
            bad: [
              { block: a, fails: p.fails },
              { block: b, fails: q.fails },
            ],
            prior: single * odds.get(b)! * q.share,
          });
      }
    }
  });
  return states;
}

/** Chance that one try goes wrong which uses these blocks. */
function failsWith({ bad }: UnitState, used: readonly string[]): number {
  return (
    1 -
    bad.reduce(
      (works, { block, fails }) => (used.includes(block) ? works * (1 - fails) : works),
      1 - ACCIDENT,
    )
  );
}

function likelihood(model: UnitModel, state: UnitState, one: BlockEvidence): number {
  switch (one.type) {
    case 'pattern': {
      // Where it stops is said by the start itself, where one was filed.
      const stage = one.stageKnown
        ? undefined
        : model.patterns.find(({ name }) => name === one.name)?.stage;
      return stage === undefined ? 1 : stageLikelihood(model, state, stage);
    }
    case 'check': {
      // What it covers it finds; a fault that it does not cover passes it like a good block.
      const { coverage = COMMON_COVERAGE } = one;
      const failing = state.bad.some(({ block }) => block === one.block)
        ? coverage * (1 - WRONG_CHECK) + (1 - coverage) * WRONG_CHECK
        : WRONG_CHECK;
      return one.good ? 1 - failing : failing;
    }
    case 'trial': {
      const fails = failsWith(state, one.exercised);
      return fails ** one.failed * (1 - fails) ** one.passed;
    }
    case 'aid': {
      const isBad = state.bad.some(({ block }) => block === one.block);
      if (one.cured) return isBad ? one.cures : ACCIDENT;
      return isBad ? 1 - one.cures : 1;
    }
    case 'code': {
      const stage = model.codes?.find(({ code }) => code === one.code)?.stage;
      return stage === undefined ? 1 : stageLikelihood(model, state, stage);
    }
    case 'stage':
      return stageLikelihood(model, state, one.failedAt);
  }
}

/** Chance that the start gets through every stage before this one and stops at it. */
function stageLikelihood(model: UnitModel, state: UnitState, failedAt: string | undefined): number {
  let chance = 1;
  for (const { name, needs } of model.stages) {
    const fails = failsWith(state, needs);
    if (name === failedAt) return chance * fails;
    chance *= 1 - fails;
  }
  return chance;
}
