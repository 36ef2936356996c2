import { describe, expect, it } from 'vitest';
import { expectedInformation, setupMinutes, DEFAULT_COSTS, type Outlook } from '.';
import { seeded } from '../practice';
import { mostInformation } from './information';

const at = (group: number, probability: number, y: number, sigma = 0.01): Outlook => ({
  group,
  probability,
  predicted: { y, sigma, overload: false },
});
const open = (group: number, probability: number): Outlook => ({
  group,
  probability,
  predicted: { y: Infinity, sigma: 0, overload: true },
});
/** Blunders (0.4 %) take a little of every gain. */
const NEAR = 0.06;

// Entropies in closed form: H(1/2) = 1 bit, H(1/4) = 0.811 bit, three alike log2 3 = 1.585 bit.
describe('expected information', () => {
  it('is one bit where two equal suspects part', () => {
    const { gainBits, expectedTop } = expectedInformation([at(0, 0.5, 0), at(1, 0.5, 5)], 2);
    expect(gainBits).toBeGreaterThan(1 - NEAR);
    expect(gainBits).toBeLessThanOrEqual(1);
    expect(expectedTop).toBeGreaterThan(0.99);
  });
  it('is log2 3 where three do, and an overload is an outcome like another', () => {
    const { gainBits, outcomes } = expectedInformation(
      [at(0, 1 / 3, 0), at(1, 1 / 3, 5), open(2, 1 / 3)],
      3,
    );
    expect(Math.abs(gainBits - Math.log2(3))).toBeLessThan(NEAR);
    expect(
      outcomes.filter(({ probability }) => probability > 0.3).map(({ centre }) => centre),
    ).toEqual([expect.closeTo(0, 1), expect.closeTo(5, 1), Infinity]);
  });
  it('is H(1/4) where one of four parts from the rest', () => {
    const { gainBits } = expectedInformation(
      [at(0, 0.25, 0), at(1, 0.25, 5), at(2, 0.25, 5), at(3, 0.25, 5)],
      4,
    );
    expect(Math.abs(gainBits - 0.811)).toBeLessThan(NEAR);
  });
  it('is nothing where all predict the same, or where they are one group', () => {
    expect(expectedInformation([at(0, 0.5, 5), at(1, 0.5, 5)], 2).gainBits).toBeLessThan(1e-9);
    expect(expectedInformation([at(0, 0.5, 0), at(0, 0.5, 5)], 1).gainBits).toBeLessThan(1e-9);
  });
  it('shrinks as the predictions blur into one another', () => {
    const gains = [0.01, 1, 3, 10].map(
      (sigma) => expectedInformation([at(0, 0.5, 0, sigma), at(1, 0.5, 5, sigma)], 2).gainBits,
    );
    for (let i = 1; i < gains.length; i += 1) expect(gains[i]!).toBeLessThan(gains[i - 1]!);
  });
  it('says who leads after each outcome', () => {
    const { outcomes } = expectedInformation([at(0, 0.6, 0), at(1, 0.3, 5), at(2, 0.1, 5)], 3);
    const high = outcomes.find(({ centre }) => centre > 4)!;
    expect(high.groups[1]).toBeCloseTo(0.75, 1);
    expect(outcomes.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 9);
  });
  it('is what the outcomes tell by the definition: how far each moves belief, weighted by its chance', () => {
    const random = seeded(5);
    for (let trial = 0; trial < 40; trial += 1) {
      const weights = Array.from({ length: 12 }, () => random());
      const total = weights.reduce((a, b) => a + b, 0);
      const outlooks = weights.map((weight, i): Outlook => {
        const [group, probability] = [i % 4, weight / total];
        return i === 0
          ? { group, probability, predicted: undefined }
          : i === 1
            ? open(group, probability)
            : at(group, probability, 5 * random(), 0.3 * random());
      });
      const { gainBits, expectedTop, outcomes } = expectedInformation(outlooks, 4);
      const before = [0, 1, 2, 3].map((g) =>
        outlooks.reduce((sum, { group, probability }) => sum + (group === g ? probability : 0), 0),
      );
      const told = outcomes.reduce(
        (sum, { probability, groups }) =>
          sum +
          probability *
            groups.reduce((bits, p, g) => bits + (p > 0 ? p * Math.log2(p / before[g]!) : 0), 0),
        0,
      );
      // Less than a millionth of a prediction is left out of a bin.
      expect(gainBits).toBeCloseTo(told, 5);
      expect(expectedTop).toBeCloseTo(
        outcomes.reduce(
          (sum, { probability, groups }) => sum + probability * Math.max(...groups),
          0,
        ),
        9,
      );
      // By whether what most predict comes true no more can be told than which prediction does.
      expect(gainBits).toBeLessThanOrEqual(mostInformation(1 - outlooks[2]!.probability, 11));
    }
  });
  it('cannot be more than which prediction comes true', () => {
    expect(mostInformation(0.25, 1)).toBeCloseTo(0.811, 3);
    expect(mostInformation(2 / 3, 2)).toBeCloseTo(Math.log2(3), 9);
    expect(mostInformation(0, 0)).toBe(0);
    expect(mostInformation(1, 1)).toBe(0);
  });
  it('counts a suspect that predicts nothing as one that any reading may come from', () => {
    const { outcomes } = expectedInformation(
      [at(0, 0.5, 0), { group: 1, probability: 0.5, predicted: undefined }],
      2,
    );
    expect(outcomes.length).toBeGreaterThan(1);
  });
});

it('changing the setup costs what it takes: power, discharge, plugs', () => {
  expect(setupMinutes('off', 'off', DEFAULT_COSTS)).toBe(0);
  expect(setupMinutes('on', 'off', DEFAULT_COSTS)).toBe(DEFAULT_COSTS.powerDown);
  expect(setupMinutes('off', 'on', DEFAULT_COSTS)).toBe(DEFAULT_COSTS.powerUp);
  expect(setupMinutes('on', 'unloaded', DEFAULT_COSTS)).toBe(DEFAULT_COSTS.loads);
  expect(setupMinutes('off', 'unloaded', DEFAULT_COSTS)).toBe(
    DEFAULT_COSTS.powerUp + DEFAULT_COSTS.loads,
  );
});
