import { describe, expect, it } from 'vitest';
import type { OddsSource } from '../../case/engine-request';
import type { NextStep, Proposal, WhyAnswer } from '../../workers/engine-messages';
import { oddsWords } from '../../case/wording';
import {
  oddsTick,
  oddsTicks,
  sideWords,
  sourcesWords,
  waterfall,
  weighsWords,
} from './argument-words';
import { partingOf } from './parting';

describe('odds as people say them', () => {
  it.each([
    [1, 'nearly sure'],
    [0.99, '99 in 100'],
    [0.92, '9 in 10'],
    [0.67, '2 in 3'],
    [0.5, '1 in 2'],
    [0.46, '1 in 2'],
    [0.33, '1 in 3'],
    [0.11, '1 in 9'],
    [0.012, '1 in 80'],
    [0.0009, 'less than 1 in 1000'],
    [0, 'less than 1 in 1000'],
  ])('%f is %s', (share, words) => expect(oddsWords(share)).toBe(words));

  it('never says more than is known: what is said lies near the share', () => {
    for (let share = 0.002; share < 0.995; share += 0.0007) {
      const [, k, n] = /^(\d+) in (\d+)$/.exec(oddsWords(share))!;
      const said = Number(k) / Number(n);
      expect(Math.abs(said - share)).toBeLessThan(0.06);
      expect(said / share).toBeGreaterThan(0.6);
      expect(said / share).toBeLessThan(1.5);
    }
  });
});

const answer = (before: number, ...moves: number[]): WhyAnswer => {
  let at = before;
  const rows = moves.map((moved, i) => ({
    id: String(i),
    moved,
    after: (at += moved),
    without: 0,
    one: undefined,
    other: undefined,
    shown: undefined,
  }));
  return { one: '', other: '', before, after: at, turnsOn: undefined, rows };
};

describe('an argument in words', () => {
  const sides = { one: 'F1', other: 'L1' };
  it('names who leads, by how much, and whether the readings turned it round', () => {
    expect(weighsWords(answer(3, 4), sides)).toBe('Of the two it is F1: 4 in 5.');
    expect(weighsWords(answer(3, -13), sides)).toBe(
      'Of the two it is L1: 9 in 10. Before any reading it was F1.',
    );
    expect(weighsWords(answer(5, -5), sides)).toBe('F1 and L1 are as likely as each other.');
    expect(weighsWords(answer(-40, 80), { one: 'F1', other: '' })).toContain(
      'it was nothing wrong',
    );
  });
  it('has bars that follow each other from what was thought before to all together', () => {
    const bars = waterfall(answer(2, 5, -3), (id) => `reading number ${id} of many`);
    expect(bars.map(({ span }) => span)).toEqual([
      [0, 2],
      [2, 7],
      [7, 4],
      [0, 4],
    ]);
    expect(bars[1]!.name.length).toBeLessThanOrEqual(16);
    expect(oddsTicks(bars)).toEqual([0, 3, 7]);
  });
  it('marks few odds, and each in words', () => {
    const wide = waterfall(answer(-30, 140), () => '');
    expect(oddsTicks(wide).length).toBeLessThanOrEqual(7);
    expect(oddsTicks(wide)).toEqual([...oddsTicks(wide)].sort((a, b) => a - b));
    expect([0, 3, 7, 10, -20, 60].map(oddsTick)).toEqual([
      'even',
      '2:1',
      '5:1',
      '10:1',
      '1:100',
      '10^6:1',
    ]);
  });
  it('a side is a fault, a part, or a sound board', () => {
    expect(sideWords('', '')).toBe('a sound board');
    expect(sideWords('Q2', 'Q2:short-ce')).toBe('Q2 short C to E');
    expect(sideWords('X1', '')).toBe('X1');
  });
});

describe('what would tell a group apart', () => {
  const proposal = (
    at: string,
    minutes: number,
    ...outcomes: [number, Record<string, number>][]
  ): Proposal =>
    ({
      at,
      minutes,
      prospects: outcomes.map(([probability, leading]) => ({
        probability,
        display: '',
        leading: Object.entries(leading).map(([ref, share]) => ({ ref, probability: share })),
      })),
    }) as unknown as Proposal;
  const next = (proposals: Proposal[], touches: unknown[] = []): NextStep =>
    ({ proposals, touches }) as unknown as NextStep;
  const same = proposal('P5', 1, [1, { F1: 0.5, L1: 0.5 }]);
  const parts = proposal('P9', 1, [0.5, { F1: 0.9, L1: 0.1 }], [0.5, { L1: 0.9, F1: 0.1 }]);
  it('is a reading after which one of them stands out, the cheaper first', () => {
    expect(partingOf(['F1', 'L1'], next([same, parts]))!.proposal).toBe(parts);
    const cheap = { ...parts, at: 'P8', minutes: 0.2 };
    expect(partingOf(['F1', 'L1'], next([parts, cheap]))!.proposal).toBe(cheap);
  });
  it('is nothing where no outcome singles one out, or the group is not touched', () => {
    expect(partingOf(['F1', 'L1'], next([same]))).toBeUndefined();
    expect(partingOf(['R1', 'R2'], next([parts]))).toBeUndefined();
    expect(partingOf(['F1', 'L1'], undefined)).toBeUndefined();
  });
  it('may be a touch, told with what to do first', () => {
    const touch = { ...parts, title: 'Lift U7 pin 11' };
    expect(partingOf(['F1', 'L1'], next([same], [touch]))!.title).toBe('Lift U7 pin 11');
  });
});

describe('what moved the odds before any reading', () => {
  const sources: Pick<OddsSource, 'title' | 'factors'>[] = [
    { title: 'closed cases', factors: { F1: 2.86, C5: 9 } },
    { title: 'the age of the unit', factors: { C5: 1.5 } },
    { title: 'guided checks', factors: { L1: 0.051 } },
  ];
  it('is told of the two sides alone, each source by itself', () => {
    expect(sourcesWords(sources, { one: 'F1', other: 'L1' })).toBe(
      'Before any reading, beside the rate table: closed cases: F1 2.9 times as likely, L1 as before; guided checks: F1 as before, L1 0.05 times as likely.',
    );
  });
  it('is said to be nothing where it is nothing, and never moves "nothing wrong"', () => {
    expect(sourcesWords(sources, { one: 'R1', other: '' })).toContain('nothing moved either');
    expect(sourcesWords(sources, { one: '', other: 'C5' })).toContain(
      'nothing wrong as before, C5',
    );
    expect(sourcesWords([], { one: 'F1', other: 'L1' })).toContain('nothing moved either');
  });
});
