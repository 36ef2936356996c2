// Outside checks: the examples H.1 and H.2 of the Guide to the Expression of Uncertainty in
// Measurement (JCGM 100:2008); a straight line worked by hand; Ohm's law for burden and currents.
import { LIBRARY, RATES } from '@hanzai/data';
import { describe, expect, it } from 'vitest';
import { readDeck, indexBoard, type BoardIndex } from '../src/board';
import { Diagnoser } from '../src/diagnosis';
import { planNext } from '../src/plan';
import {
  answerKey,
  BenchState,
  checkMeter,
  measurementKey,
  MeterProfile,
  readout,
  resolveMeasurement,
  STANDARD_METER,
  type Measurement,
  type Readout,
} from '../src/instrument';
import { combinedUncertainty, rectangular } from '../src/quantity';

function board(lines: string): BoardIndex {
  const read = readDeck(`test\n${lines}\n.end\n`, LIBRARY);
  if (!read.ok) throw new Error(JSON.stringify(read.issues));
  return indexBoard(read.value);
}
const at = (
  index: BoardIndex,
  kind: string,
  from: string,
  to: string,
  meter?: MeterProfile,
): Measurement => {
  const found = resolveMeasurement(index, '', kind, from, to);
  if (!found.ok) throw new Error(found.what);
  return meter ? { ...found.measurement, meter } : found.measurement;
};
const shows = (index: BoardIndex, m: Measurement): Readout => {
  const response = new BenchState(index, { setup: m.setup, faults: [], absent: [] }).respond(m);
  if ('ok' in response) throw new Error(response.why);
  return readout(m.kind, response);
};
const like = (more: Partial<MeterProfile>): MeterProfile =>
  MeterProfile.parse({ ...STANDARD_METER, ...more });

describe('combined uncertainty', () => {
  it('is that of the GUM, H.1: an end gauge, 25, 9.7, 2.9 and 16.6 nm make 32 nm', () => {
    expect(combinedUncertainty([25, 9.7, 2.9, 16.6])).toBeCloseTo(32, 0);
  });
  it('is that of the GUM, H.2: resistance, reactance and impedance from correlated inputs', () => {
    const [volt, ampere, phase] = [4.999, 19.661e-3, 1.04446];
    const [uVolt, uAmpere, uPhase] = [0.0032, 0.0095e-3, 0.00075];
    const correlation = [
      [1, -0.36, 0.86],
      [-0.36, 1, -0.65],
      [0.86, -0.65, 1],
    ];
    const of = (f: (v: number, i: number, p: number) => number): [number, number] => {
      // Sensitivities by small steps.
      const h = 1e-6;
      const value = f(volt, ampere, phase);
      const slopes = [
        (f(volt * (1 + h), ampere, phase) - value) / (volt * h),
        (f(volt, ampere * (1 + h), phase) - value) / (ampere * h),
        (f(volt, ampere, phase * (1 + h)) - value) / (phase * h),
      ];
      const own = [uVolt, uAmpere, uPhase];
      return [
        value,
        combinedUncertainty(
          slopes.map((slope, i) => slope * own[i]!),
          correlation,
        ),
      ];
    };
    const [r, ur] = of((v, i, p) => (v / i) * Math.cos(p));
    const [x, ux] = of((v, i, p) => (v / i) * Math.sin(p));
    const [z, uz] = of((v, i) => v / i);
    expect(r).toBeCloseTo(127.732, 2);
    expect(ur).toBeCloseTo(0.071, 2);
    expect(x).toBeCloseTo(219.847, 2);
    expect(ux).toBeCloseTo(0.295, 2);
    expect(z).toBeCloseTo(254.26, 2);
    expect(uz).toBeCloseTo(0.236, 2);
  });
  it('of what lies within a limit is the limit over the root of three (4.3.7)', () => {
    expect(rectangular(1)).toBeCloseTo(0.577, 3);
  });
});

describe('a meter of one’s own', () => {
  const divider = board('V1 A 0 10\nR1 A M 1meg\nR2 M 0 1meg\n*@ R1 tol=0.01%\n*@ R2 tol=0.01%');
  it('loads what it reads: 1 MΩ at the middle of two megohms leaves a third', () => {
    const heavy = like({ voltInputOhm: 1e6 });
    expect(shows(divider, at(divider, 'voltage', 'M', '', heavy)).value).toBeCloseTo(10 / 3, 3);
    expect(shows(divider, at(divider, 'voltage', 'M', '')).value).toBeCloseTo(5 * (10 / 10.5), 2);
  });
  it('has a band as wide as its accuracy, and shows its own ranges', () => {
    const fine = like({ volts: { share: 0.0005, counts: 2 }, counts: 40_000 });
    const coarse = like({ volts: { share: 0.03, counts: 5 } });
    const width = (meter?: MeterProfile): number => {
      const { low, high } = shows(divider, at(divider, 'voltage', 'A', '', meter));
      return (high as number) - (low as number);
    };
    expect(width(fine)).toBeLessThan(width() / 4);
    expect(width(coarse)).toBeGreaterThan(3 * width());
    // 3 % of 10 V and 5 counts of 40 V in 4000, rectangular, twice either way.
    expect(width(coarse)).toBeCloseTo((4 * (0.3 + 0.05)) / Math.sqrt(3), 1);
  });
  it('drives its own current: a diode beside a resistor shows at 1 mA and hides at 1 µA', () => {
    const index = board('R1 A 0 10k\nD1 A 0 DX\n.model DX D');
    const strong = like({ ohmRanges: [[40e3, 1e-3]], ohmVoltLimit: 3 });
    const weak = like({ ohmRanges: [[40e3, 1e-6]] });
    const ohm = (meter: MeterProfile) =>
      shows(index, at(index, 'resistance', 'A', '0', meter)).value as number;
    expect(ohm(weak)).toBeCloseTo(10_000, -1);
    expect(ohm(strong)).toBeLessThan(1000);
  });
  it('beeps and tells levels by its own limits', () => {
    const index = board('V1 V 0 5\nR1 V L 10k\nR2 L 0 5k\nR3 A 0 50');
    expect(shows(index, at(index, 'continuity', 'A', '0')).value).toBe('open');
    expect(shows(index, at(index, 'continuity', 'A', '0', like({ continuityOhm: 75 }))).value).toBe(
      'beep',
    );
    // 1.67 V is between TTL's levels, and a 1 to a probe that says so from 1.5 V on.
    expect(shows(index, at(index, 'logic', 'L', '')).value).toBe('Z');
    expect(shows(index, at(index, 'logic', 'L', '', like({ logicHighVolt: 1.5 }))).value).toBe('1');
  });
  it('reads an ESR as real part or as size, at its own frequency', () => {
    const index = board('C1 A 0 1u\n*@ C1 esr=1');
    const ohm = (more: Partial<MeterProfile>) =>
      shows(index, at(index, 'esr', 'A', '0', like(more))).value as number;
    const reactance = 1 / (2 * Math.PI * 10e3 * 1e-6);
    expect(ohm({ esrHertz: 10e3 })).toBeCloseTo(1, 3);
    expect(ohm({ esrHertz: 10e3, esrMethod: 'magnitude' })).toBeCloseTo(
      Math.hypot(1, reactance),
      2,
    );
  });
  it('has leads that add to ohms and to nothing else', () => {
    const index = board('V1 V 0 5\nR1 A 0 10');
    const leads = like({ leadOhm: 0.4 });
    const ohm = (meter?: MeterProfile) =>
      shows(index, at(index, 'resistance', 'A', '0', meter)).value as number;
    expect(ohm(leads) - ohm()).toBeCloseTo(0.4, 9);
    expect(shows(index, at(index, 'voltage', 'V', '', leads)).value).toBeCloseTo(5, 6);
  });
  it('is another measurement to everything that keeps answers, and the standard one is as before', () => {
    const m = at(divider, 'voltage', 'M', '');
    const own = { ...m, meter: like({ counts: 6000 }) };
    expect(answerKey(m)).not.toBe(answerKey(own));
    // The place is the same: a reading there is taken, whatever took it.
    expect(measurementKey(m)).toBe(measurementKey(own));
    const { meter, ...rest } = { ...m, meter: undefined };
    expect(meter).toBeUndefined();
    expect(answerKey(rest)).toBe(answerKey(m));
  });
  it('weighs in what is believed: the same reading convicts by a fine meter, and hardly by a coarse one', () => {
    const index = board('V1 A 0 10\nR1 A M 10k\nR2 M 0 10k\n*@ R1 tol=1%\n*@ R2 tol=1%');
    const healthy = (meter: MeterProfile): number =>
      new Diagnoser(index, RATES).believe([
        { measurement: at(index, 'voltage', 'M', '', meter), value: 5.6 },
      ]).healthy;
    const fine = healthy(like({ volts: { share: 0.001, counts: 1 } }));
    const coarse = healthy(like({ volts: { share: 0.2, counts: 5 } }));
    expect(fine).toBeLessThan(0.3);
    expect(coarse).toBeGreaterThan(2 * fine);
  });
});

describe('what is measured next', () => {
  it('is proposed with the band of the meter that it will be read with, and taken once by whichever', () => {
    const index = board('V1 A 0 10\nR1 A M 10k\nR2 M 0 10k\nR3 M N 1k\nR4 N 0 10k');
    const diagnoser = new Diagnoser(index, RATES);
    const coarse = like({ volts: { share: 0.2, counts: 5 } });
    const next = (meter?: MeterProfile, value?: number) => {
      const readings =
        value === undefined ? [] : [{ measurement: at(index, 'voltage', 'N', '', coarse), value }];
      return planNext(diagnoser, readings, diagnoser.believe(readings), {
        ...(meter ? { meter: () => meter } : {}),
      });
    };
    const of = (plan: ReturnType<typeof next>) =>
      plan.measurements.find(({ kind, at: place }) => kind === 'voltage' && place === 'N');
    expect(of(next())!.gainBits).toBeGreaterThan(of(next(coarse))!.gainBits);
    expect(of(next(undefined, 4))).toBeUndefined();
  });
});

describe('a check against known resistors', () => {
  const known = (pairs: readonly (readonly [number, number])[]) =>
    pairs.map(([trueOhm, readOhm]) => ({ trueOhm, readOhm, tolerance: 0.001 }));
  it('finds leads and gain of a straight line, as by hand', () => {
    // read = 0.3 + 1.002 · true
    const found = checkMeter(
      STANDARD_METER,
      known([
        [1, 1.302],
        [10, 10.32],
        [100, 100.5],
        [1000, 1002.3],
      ]),
    )!;
    expect(found.leadOhm).toBeCloseTo(0.3, 2);
    expect(found.gainError).toBeCloseTo(0.002, 4);
    expect(found.beyond).toEqual([]);
    expect(found.shareNeeded).toBeLessThan(STANDARD_METER.ohms.share);
  });
  it('names what is beyond the meter’s own data, and what they would have to be', () => {
    const found = checkMeter(
      STANDARD_METER,
      known([
        [10, 10.2],
        [100, 100.2],
        [10_000, 10_500],
      ]),
    )!;
    expect(found.beyond.map(({ trueOhm }) => trueOhm)).toContain(10_000);
    expect(found.shareNeeded).toBeGreaterThan(0.03);
  });
  it('needs two different ones, and does not take nonsense for them', () => {
    expect(checkMeter(STANDARD_METER, [])).toBeUndefined();
    expect(
      checkMeter(
        STANDARD_METER,
        known([
          [10, 10.1],
          [10, 10.2],
        ]),
      ),
    ).toBeUndefined();
    expect(
      checkMeter(
        STANDARD_METER,
        known([
          [10, Infinity],
          [100, -1],
          [0, 1],
        ]),
      ),
    ).toBeUndefined();
    // Leads never take away.
    expect(
      checkMeter(
        STANDARD_METER,
        known([
          [1, 0.9],
          [100, 100],
        ]),
      )!.leadOhm,
    ).toBe(0);
  });
});
