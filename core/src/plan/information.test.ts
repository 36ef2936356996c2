import { describe, expect, it } from 'vitest';
import { expectedInformation, setupMinutes, DEFAULT_COSTS, type Outlook } from '.';

const at = (group: number, probability: number, y: number, sigma = 0.01): Outlook => ({ group, probability, predicted: { y, sigma, overload: false } });
const open = (group: number, probability: number): Outlook => ({ group, probability, predicted: { y: Infinity, sigma: 0, overload: true } });
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
    const { gainBits, outcomes } = expectedInformation([at(0, 1 / 3, 0), at(1, 1 / 3, 5), open(2, 1 / 3)], 3);
    expect(Math.abs(gainBits - Math.log2(3))).toBeLessThan(NEAR);
    expect(outcomes.filter(({ probability }) => probability > 0.3).map(({ centre }) => centre)).toEqual([expect.closeTo(0, 1), expect.closeTo(5, 1), Infinity]);
  });
  it('is H(1/4) where one of four parts from the rest', () => {
    const { gainBits } = expectedInformation([at(0, 0.25, 0), at(1, 0.25, 5), at(2, 0.25, 5), at(3, 0.25, 5)], 4);
    expect(Math.abs(gainBits - 0.811)).toBeLessThan(NEAR);
  });
  it('is nothing where all predict the same, or where they are one group', () => {
    expect(expectedInformation([at(0, 0.5, 5), at(1, 0.5, 5)], 2).gainBits).toBeLessThan(1e-9);
    expect(expectedInformation([at(0, 0.5, 0), at(0, 0.5, 5)], 1).gainBits).toBeLessThan(1e-9);
  });
  it('shrinks as the predictions blur into one another', () => {
    const gains = [0.01, 1, 3, 10].map((sigma) => expectedInformation([at(0, 0.5, 0, sigma), at(1, 0.5, 5, sigma)], 2).gainBits);
    for (let i = 1; i < gains.length; i += 1) expect(gains[i]!).toBeLessThan(gains[i - 1]!);
  });
  it('says who leads after each outcome', () => {
    const { outcomes } = expectedInformation([at(0, 0.6, 0), at(1, 0.3, 5), at(2, 0.1, 5)], 3);
    const high = outcomes.find(({ centre }) => centre > 4)!;
    expect(high.groups[1]).toBeCloseTo(0.75, 1);
    expect(outcomes.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 9);
  });
  it('counts a suspect that predicts nothing as one that any reading may come from', () => {
    const { outcomes } = expectedInformation([at(0, 0.5, 0), { group: 1, probability: 0.5, predicted: undefined }], 2);
    expect(outcomes.length).toBeGreaterThan(1);
  });
});

it('changing the setup costs what it takes: power, discharge, plugs', () => {
  expect(setupMinutes('off', 'off', DEFAULT_COSTS)).toBe(0);
  expect(setupMinutes('on', 'off', DEFAULT_COSTS)).toBe(DEFAULT_COSTS.powerDown);
  expect(setupMinutes('off', 'on', DEFAULT_COSTS)).toBe(DEFAULT_COSTS.powerUp);
  expect(setupMinutes('on', 'unloaded', DEFAULT_COSTS)).toBe(DEFAULT_COSTS.loads);
  expect(setupMinutes('off', 'unloaded', DEFAULT_COSTS)).toBe(DEFAULT_COSTS.powerUp + DEFAULT_COSTS.loads);
});
