import { describe, expect, it } from 'vitest';
import type { DiodeModel } from '../board';
import { criticalVolt, diodeCurrent, junctionCurrent, JUNCTION_SIEMENS, limitDiode, limitJunction, THERMAL_VOLT } from './junction';

const plain: DiodeModel = { name: 'D', saturationCurrentAmpere: 1e-14, emissionCoefficient: 1, seriesResistanceOhm: 0, breakdownCurrentAmpere: 1e-3 };
const zener: DiodeModel = { ...plain, breakdownVolt: 5.1, breakdownCurrentAmpere: 5e-3 };
const out = new Float64Array(2);
const current = (volt: number, model = plain): number => {
  diodeCurrent(volt, model, out);
  return out[0]!;
};
const slope = (volt: number, model = plain): number => {
  diodeCurrent(volt, model, out);
  return out[1]!;
};

// Source of the law: docs/formats/board.md, "Models".
describe('the junction law', () => {
  it('is Shockley forward, with the conductance beside it', () => {
    for (const volt of [0.1, 0.4, 0.65]) expect(current(volt) / (1e-14 * Math.expm1(volt / THERMAL_VOLT) + JUNCTION_SIEMENS * volt)).toBeCloseTo(1, 12);
  });
  it('goes over into the cubic reverse law where both meet, without a visible step', () => {
    const edge = -3 * THERMAL_VOLT;
    junctionCurrent(edge, 1e-14, 1, out);
    const above = out[0]!;
    junctionCurrent(edge - 1e-9, 1e-14, 1, out);
    expect(Math.abs(above - out[0]!)).toBeLessThan(1e-18);
  });
  it('carries -IBV at -BV', () => expect(current(-5.1, zener)).toBeCloseTo(-5e-3, 9));
  it('has the slope that finite differences give', () => {
    for (const volt of [-6, -5.15, -5, -1, -0.05, 0, 0.3, 0.6]) {
      const step = 1e-7;
      const difference = (current(volt + step, zener) - current(volt - step, zener)) / (2 * step);
      expect(Math.abs(slope(volt, zener) - difference)).toBeLessThan(1e-5 * Math.abs(difference) + 1e-12);
    }
  });
  it('never falls with the voltage, from deep breakdown to far forward', () => {
    let last = -Infinity;
    for (let volt = -7; volt < 1.2; volt += 0.01) {
      const now = current(volt, zener);
      expect(now).toBeGreaterThanOrEqual(last);
      last = now;
    }
  });
  it('stays finite where nothing could survive', () => {
    expect(Number.isFinite(current(50))).toBe(true);
    expect(Number.isFinite(current(-50, zener))).toBe(true);
  });
});

describe('limiting', () => {
  const critical = criticalVolt(1e-14, 1);
  it('lets small steps and low voltages through', () => {
    expect(limitJunction(0.3, 0.1, 1, critical)).toBe(0.3);
    expect(limitJunction(0.7, 0.69, 1, critical)).toBe(0.7);
  });
  it('holds back what would overshoot the exponential', () => {
    expect(limitJunction(5, 0.6, 1, critical)).toBeLessThan(0.8);
    expect(limitJunction(5, -2, 1, critical)).toBeLessThan(0.5);
  });
  it('does the same in breakdown', () => {
    const limited = limitDiode(-30, -5, zener, critical);
    expect(limited).toBeLessThan(-5);
    expect(limited).toBeGreaterThan(-8);
  });
});
