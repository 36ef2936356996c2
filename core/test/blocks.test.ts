import { describe, expect, it } from 'vitest';
import {
  believeBlocks,
  fatalFindings,
  nextTrials,
  UnitModel,
  unitModelIssues,
  type BlockEvidence,
} from '@hanzai/core/block';
import { comparePeers, compareSister } from '@hanzai/core/diagnosis';
import { ARCHETYPES } from '@hanzai/data';

// prettier-ignore
const toy: UnitModel = UnitModel.parse({
  name: 'toy', title: 'toy', source: 'worked by hand',
  blocks: ['a', 'b', 'c'].map((name) => ({ name, title: name, prior: 0.1 })),
  stages: [{ name: 's', title: 's', needs: ['a'] }, { name: 't', title: 't', needs: ['b', 'c'] }],
  killChecks: [{ name: 'k', title: 'check c', block: 'c', minutes: 2, coverage: 0.6, finished: 'c', worthSaving: 'a and b' }],
  patterns: [],
});
const trial = (exercised: string[], passed: number, failed: number): BlockEvidence => ({
  type: 'trial',
  exercised,
  passed,
  failed,
});

/**
 * Brute force, written apart from the engine: every subset of at most two blocks, every combination
 * of failure rates.
 */
function enumerate(
  evidence: readonly Extract<BlockEvidence, { type: 'trial' }>[],
): Record<string, number> {
  const rates: [number, number][] = [
    [0.99, 0.7],
    [0.5, 0.18],
    [0.2, 0.12],
  ];
  const sums: Record<string, number> = { a: 0, b: 0, c: 0, none: 0 };
  let total = 0;
  for (const a of [undefined, ...rates])
    for (const b of [undefined, ...rates])
      for (const c of [undefined, ...rates]) {
        const state = { a, b, c };
        const bad = Object.values(state).filter((rate) => rate !== undefined);
        if (bad.length > 2) continue;
        let weight =
          0.9 ** (3 - bad.length) *
          0.1 ** bad.length *
          bad.reduce((product, [, share]) => product * share, 1);
        for (const { exercised, passed, failed } of evidence) {
          let works = 0.98;
          for (const [name, rate] of Object.entries(state))
            if (rate && exercised.includes(name)) works *= 1 - rate[0];
          weight *= works ** passed * (1 - works) ** failed;
        }
        total += weight;
        for (const [name, rate] of Object.entries(state)) if (rate) sums[name]! += weight;
        if (bad.length === 0) sums.none! += weight;
      }
  return Object.fromEntries(Object.entries(sums).map(([name, sum]) => [name, sum / total]));
}

describe('swap trials', () => {
  // Source: brute-force enumeration in this file.
  it.each([
    [[trial(['a'], 1, 0)]],
    [[trial(['a', 'b'], 0, 2), trial(['b', 'c'], 3, 0)]],
    [[trial(['a', 'b', 'c'], 3, 1), trial(['c'], 4, 0), trial(['a'], 2, 1)]],
    [[trial(['a'], 0, 1), trial(['b'], 0, 1)]],
  ] as [Extract<BlockEvidence, { type: 'trial' }>[]][])(
    'agree with brute force, case %#',
    (evidence) => {
      const belief = believeBlocks(toy, evidence);
      const exact = enumerate(evidence);
      for (const { block, probability } of belief.byBlock)
        expect(probability).toBeCloseTo(exact[block]!, 9);
      expect(belief.healthy).toBeCloseTo(exact.none!, 9);
    },
  );

  it('a check clears a block only as far as it looks', () => {
    // Bayes' rule written out: a bad block passes what the check does not cover.
    const share = (evidence: BlockEvidence[]): number =>
      believeBlocks(toy, evidence).byBlock.find(({ block }) => block === 'c')!.probability;
    const prior = share([]);
    const passing = (coverage: number): number => 1 - (coverage * 0.97 + (1 - coverage) * 0.03);
    for (const coverage of [0.3, 0.6, 0.9]) {
      const odds = (prior / (1 - prior)) * (passing(coverage) / 0.97);
      expect(share([{ type: 'check', block: 'c', good: true, coverage }])).toBeCloseTo(
        odds / (1 + odds),
        9,
      );
    }
    const laser = ARCHETYPES.find(({ name }) => name === 'optical-disc-reader')!;
    const of = (evidence: BlockEvidence[]): number =>
      believeBlocks(laser, evidence).byBlock.find(({ block }) => block === 'laser')!.probability;
    const [check] = laser.killChecks;
    expect(
      of([{ type: 'check', block: 'laser', good: true, coverage: check!.coverage }]) / of([]),
    ).toBeGreaterThan(0.4);
  });

  it('a kill check that failed is no reading that hardly fits; the job is to be decided', () => {
    const evidence: BlockEvidence[] = [
      trial(['a', 'b', 'c'], 4, 0),
      { type: 'check', block: 'c', good: false, coverage: 0.6 },
    ];
    expect(believeBlocks(toy, evidence).odd).not.toContain(1);
    expect(fatalFindings(toy, [{ title: 'check c', good: false }])).toMatchObject([
      { confirmed: false, check: { finished: 'c', worthSaving: 'a and b' } },
    ]);
    expect(
      fatalFindings(toy, [
        { title: 'check c', good: false },
        { title: 'check c', good: false },
      ]),
    ).toMatchObject([{ confirmed: true }]);
    expect(
      fatalFindings(toy, [
        { title: 'check c', good: false },
        { title: 'check c', good: true },
      ]),
    ).toEqual([]);
  });

  it('the order of the evidence does not matter', () => {
    const evidence = [
      trial(['a', 'b'], 0, 2),
      trial(['c'], 1, 0),
      { type: 'stage', failedAt: 't' } as const,
    ];
    expect(believeBlocks(toy, [...evidence].reverse()).byBlock).toEqual(
      believeBlocks(toy, evidence).byBlock,
    );
  });

  it('says when trials contradict each other and when a fault comes and goes', () => {
    const contradiction = believeBlocks(toy, [trial(['a'], 0, 6), trial(['a', 'b', 'c'], 6, 0)]);
    expect(contradiction.consistency).toBeLessThan(0.1);
    expect(
      believeBlocks(toy, [trial(['a'], 2, 3), trial(['a'], 2, 2), trial(['b', 'c'], 3, 0)]).odd
        .length,
    ).toBe(0);
    expect(
      believeBlocks(toy, [trial(['a', 'b', 'c'], 0, 9), trial(['a', 'b', 'c'], 2, 0)]).odd,
    ).toEqual([1]);
    expect(believeBlocks(toy, [trial(['a'], 6, 5)]).intermittent).toBeGreaterThan(0.8);
  });

  it('the stage reached clears what came before and accuses what it needs', () => {
    const { byBlock } = believeBlocks(toy, [{ type: 'stage', failedAt: 't' }]);
    const of = (name: string): number => byBlock.find(({ block }) => block === name)!.probability;
    expect(of('a')).toBeLessThan(0.06);
    expect(of('b')).toBeGreaterThan(0.4);
  });
});

describe('what to try next', () => {
  it('puts a kill check first where it may save the job', () => {
    const [first] = nextTrials(toy, [{ type: 'stage', failedAt: 't' }]);
    expect(first).toMatchObject({ kills: true, title: 'check c' });
  });
  it('never proposes what has been done, and stops gaining once all is known', () => {
    const done = nextTrials(toy, [{ type: 'check', block: 'c', good: true }]);
    expect(done.some(({ kills }) => kills)).toBe(false);
    const known = nextTrials(toy, [trial(['a'], 0, 5), trial(['b', 'c'], 9, 0)]);
    expect(known[0]!.gainBits).toBeLessThan(0.2);
  });
});

describe('archetypes', () => {
  it.each(ARCHETYPES.map((model) => [model.name, model] as const))(
    '%s names only what it has, and every pattern leads with its first suspects',
    (_, model) => {
      expect(unitModelIssues(model)).toEqual([]);
      for (const { name, suspects } of model.patterns) {
        const before = believeBlocks(model, []).byBlock.find(
          ({ block }) => block === suspects[0],
        )!.probability;
        const after = believeBlocks(model, [{ type: 'pattern', name }]).byBlock;
        expect(after.find(({ block }) => block === suspects[0])!.probability).toBeGreaterThan(
          1.5 * before,
        );
      }
    },
  );
  it('are five', () => expect(ARCHETYPES.length).toBe(5));
});

// Common practice, no published source.
describe('like parts beside each other', () => {
  it('0.03 and 0.04 ohm against 1.03 ohm condemns the third', () => {
    const [a, b, c] = comparePeers([0.03, 0.04, 1.03]);
    expect([a!.decisive, b!.decisive, c!.decisive]).toEqual([false, false, true]);
    expect(c!.verdict).toBe('higher');
  });
  it('small 47 uF at 0.06, 0.06, 0.07 against 10 ohm likewise', () =>
    expect(comparePeers([0.06, 0.06, 0.07, 10]).map(({ decisive }) => decisive)).toEqual([
      false,
      false,
      false,
      true,
    ]));
  it('two that differ do not say which is bad', () =>
    expect(comparePeers([0.05, 2]).some(({ decisive }) => decisive)).toBe(false));
  it('brothers that scatter as parts do are left alone', () =>
    expect(
      comparePeers([0.05, 0.07, 0.06, 0.09, 0.055]).every(
        ({ verdict }) => verdict === 'like the others',
      ),
    ).toBe(true));
  it('a sister board is a reference with its own spread', () => {
    expect(compareSister(3.3, [0.3]).decisive).toBe(true);
    expect(compareSister(0.4, [0.3, 0.35, 0.28]).verdict).toBe('like the others');
  });
});
