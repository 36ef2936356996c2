import { describe, expect, it } from 'vitest';
import type { DiodeModel } from '../board';
import {
  criticalVolt,
  diodeCurrent,
  junctionCurrent,
  JUNCTION_SIEMENS,
  limitDiode,
  limitJunction,
  THERMAL_VOLT,
} from './junction';

const plain: DiodeModel = {
  name: 'D',
  saturationCurrentAmpere: 1e-14,
  emissionCoefficient: 1,
  seriesResistanceOhm: 0,
  breakdownCurrentAmpere: 1e-3,
};
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

// Source of the characteristic: docs/formats/board.md, "Models".
describe('the junction characteristic', () => {
  it('is Shockley forward, with the conductance beside it', () => {
    for (const volt of [0.1, 0.4, 0.65])
      expect(
        current(volt) / (1e-14 * Math.expm1(volt / THERMAL_VOLT) + JUNCTION_SIEMENS * volt),
      ).toBeCloseTo(1, 12);
  });
  it('goes over into the cubic reverse characteristic where both meet, without a visible step', () => {
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
      expect(Math.abs(slope(volt, zener) - difference)).toBeLessThan(
        1e-5 * Math.abs(difference) + 1e-12,
      );
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
  it('takes a junction that conducts to the current that the step foresees, up and down', () => {
    expect(limitJunction(5, 0.7, 1, critical)).toBeCloseTo(
      0.7 + THERMAL_VOLT * Math.log(1 + 4.3 / THERMAL_VOLT),
      6,
    );
    expect(limitJunction(0.8 - 0.9 * THERMAL_VOLT, 0.8, 1, critical)).toBeCloseTo(
      0.8 + THERMAL_VOLT * Math.log(0.1),
      6,
    );
  });
  it('begins a junction that does not conduct at its critical voltage', () => {
    expect(limitJunction(5, -2, 1, critical)).toBe(critical);
  });
  // Closed form with Lambert's W: Corless et al., On the Lambert W function, Adv. Comput. Math. 5,
  // 1996.
  it.each([1, 100, 1e4, 1e6])(
    'finds the voltage of a diode behind %d ohms within a dozen steps, wherever it begins',
    (ohm) => {
      const scale = THERMAL_VOLT;
      const saturation = 1e-14;
      const feed = 5;
      const exact =
        feed +
        saturation * ohm -
        scale *
          lambertW(((saturation * ohm) / scale) * Math.exp((feed + saturation * ohm) / scale));
      for (const start of [-5, 0, 0.4, 0.6, 0.75, 0.95, 1.1]) {
        let volt = start;
        for (let step = 0; step < 12; step += 1) {
          junctionCurrent(volt, saturation, 1, out);
          const proposed = (feed / ohm - out[0]! + out[1]! * volt) / (1 / ohm + out[1]!);
          volt = limitJunction(proposed, volt, 1, critical);
        }
        expect(volt).toBeCloseTo(exact, 6);
      }
    },
  );
  it('does the same in breakdown', () => {
    const limited = limitDiode(-30, -5, zener, critical);
    expect(limited).toBeLessThan(-5);
    expect(limited).toBeGreaterThan(-8);
  });
});

/** Lambert's W of a large positive number, by Newton in its logarithm. */
function lambertW(z: number): number {
  let w = Math.log(z);
  for (let i = 0; i < 50; i += 1) w -= (w + Math.log(w) - Math.log(z)) / (1 + 1 / w);
  return w;
}
