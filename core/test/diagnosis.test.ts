import { describe, expect, it } from 'vitest';
import { Diagnoser, diagnose } from '../src/diagnosis';
import type { RateTable } from '../src/fault';
import type { Reading, ReadingValue } from '../src/instrument';
import { nextMeasurements, planNext } from '../src/plan';
import { bench, board, boardFile, measurement, RATES } from './boards';

const FUSES_ONLY: RateTable = {
  source: 'test',
  healthy: 0.1,
  unmodelled: 1e-6,
  dryJoint: 1e-9,
  rates: {
    fuse: { open: 1 },
    resistor: { open: 1e-9, short: 1e-9, 'drift-high': 1e-9, 'drift-low': 1e-9 },
  },
};
const chain = board('V1 A 0 12\nXF1 A B FUSE\nXF2 B C FUSE\nXF3 C D FUSE\nR1 D 0 1k');
const take = (kind: string, at: string, to: string, value: ReadingValue): Reading => ({
  measurement: measurement(chain, kind, at, to),
  value,
});

describe('three fuses in a chain, worked by hand', () => {
  // Priors: healthy 0.1, each fuse (1 - 0.1)/3 = 0.3. A continuity reading is right but for a
  // blunder (0.004), which says either word with 0.5: P(beep | fuse whole) = 0.996 + 0.002 = 0.998,
  // P(beep | fuse open) = 0.002.
  it('a beep on F1 leaves F1 0.3·0.002 against 0.3·0.998 for each other and 0.1·0.998 for healthy', () => {
    const belief = diagnose(chain, [take('continuity', 'F1.1', 'F1.2', 'beep')], FUSES_ONLY);
    const total = 0.3 * 0.002 + 0.7 * 0.998;
    const of = (ref: string): number => belief.byPart.find((part) => part.ref === ref)!.probability;
    expect(of('F1')).toBeCloseTo((0.3 * 0.002) / total, 5);
    expect(of('F2')).toBeCloseTo((0.3 * 0.998) / total, 5);
    expect(belief.healthy).toBeCloseTo((0.1 * 0.998) / total, 5);
  });

  it('its weight of evidence is the ratio of odds in decibans', () => {
    const belief = diagnose(chain, [take('continuity', 'F1.1', 'F1.2', 'beep')], FUSES_ONLY);
    // Odds of F1 before: 0.3/0.7; after: (0.3·0.002)/(0.7·0.998). Ratio: 0.002/0.998, -26.98 dB.
    expect(belief.byPart.find((part) => part.ref === 'F1')!.weights[0]).toBeCloseTo(
      10 * Math.log10(0.002 / 0.998),
      2,
    );
  });

  it('the first thing to measure halves the chain', () => {
    const plan = nextMeasurements(chain, [], FUSES_ONLY, { allow: ['voltage'] });
    expect(['B', 'C', 'D']).toContain(plan.measurements[0]!.at);
    // The voltage at B splits 0.3 from 0.7: H(0.3) = 0.881 bit, as does any net of the chain but D
    // (0.9 from 0.1: 0.469 bit).
    expect(plan.measurements.find((m) => m.at === 'B')!.gainBits).toBeGreaterThan(0.8);
    expect(plan.measurements.find((m) => m.at === 'D')!.gainBits).toBeCloseTo(0.469, 1);
  });

  it('says replace when one is left and verify when nothing is wrong', () => {
    const open = take('continuity', 'F2.1', 'F2.2', 'open');
    expect(nextMeasurements(chain, [open], FUSES_ONLY)).toMatchObject({
      state: 'replace',
      replace: [{ ref: 'F2' }],
    });
    const sound = [1, 2, 3].map((i) => take('continuity', `F${i}.1`, `F${i}.2`, 'beep'));
    expect(nextMeasurements(chain, sound, FUSES_ONLY).state).toBe('verify');
  });
});

describe('belief', () => {
  const index = boardFile('../../data/demo/boards/cr40-srv-supply.cir');
  const diagnoser = new Diagnoser(index, RATES);
  const reading = (kind: string, at: string, to: string, ...faults: string[]): Reading => {
    const m = measurement(index, kind, at, to);
    const response = bench(index, m.setup, ...faults).respond(m);
    if ('ok' in response) throw new Error(response.why);
    return {
      measurement: m,
      value:
        m.kind === 'continuity'
          ? response.value < 30
            ? 'beep'
            : 'open'
          : Number.isFinite(response.value)
            ? response.value
            : 'OL',
    };
  };
  const session = (...faults: string[]): Reading[] => [
    reading('voltage', 'P5', '', ...faults),
    reading('voltage', 'VM', '', ...faults),
    reading('voltage', 'P9F', '', ...faults),
    reading('voltage', 'VDRV', '', ...faults),
    reading('resistance', 'VM', '', ...faults),
    reading('voltage', 'P9IN', '', ...faults),
    reading('resistance', 'L1.1', 'L1.2', ...faults),
  ];

  it('sums to one, whatever the readings', () => {
    for (const readings of [[], session(), session('C3:short')]) {
      const belief = diagnoser.believe(readings);
      expect(
        belief.suspects.reduce((sum, s) => sum + s.probability, 0) +
          belief.healthy +
          belief.unmodelled,
      ).toBeCloseTo(1, 9);
      // Two faults at once count for both of their parts.
      const twice = belief.suspects.reduce(
        (sum, { hypothesis, probability }) => sum + (hypothesis.refs.length - 1) * probability,
        0,
      );
      expect(
        belief.byPart.reduce((sum, p) => sum + p.probability, 0) +
          belief.healthy +
          belief.unmodelled,
      ).toBeCloseTo(1 + twice, 9);
    }
  });

  it('does not depend on the order, and a retracted reading leaves no trace', () => {
    const readings = session('L1:open');
    const straight = diagnoser.believe(readings);
    const turned = diagnoser.believe([...readings].reverse());
    expect(turned.byPart[0]!.ref).toBe(straight.byPart[0]!.ref);
    expect(turned.byPart[0]!.probability).toBeCloseTo(straight.byPart[0]!.probability, 9);
    const before = diagnoser.believe(readings.slice(0, 3));
    diagnoser.believe(readings);
    expect(diagnoser.believe(readings.slice(0, 3))).toEqual(before);
  });

  // What the readings cannot tell apart counts as one: an open part and the dry joints of it have
  // the same replaceable part.
  it.each([
    'F1:open',
    'L1:open',
    'J1.1:open',
    'C3:short',
    'S1:open',
    'R1:open',
    'D1:short',
    'Q1:short-ce',
    'R13:open',
    'Q2:open-c',
    'U2.RH:open',
    'M1:open',
    'D3:short',
  ])('finds %s from a short session with the planner', (fault) => {
    const readings = session(fault).slice(0, 2);
    for (let i = 0; i < 25; i += 1) {
      const plan = planNext(diagnoser, readings, diagnoser.believe(readings), {
        allow: ['voltage', 'resistance', 'continuity', 'diode'],
      });
      if (plan.state !== 'measure' || !plan.measurements[0]) break;
      const m = plan.measurements[0].measurement;
      const response = bench(index, m.setup, fault).respond(m);
      if ('ok' in response) throw new Error(response.why);
      readings.push({
        measurement: m,
        value:
          m.kind === 'continuity'
            ? response.value < 30
              ? 'beep'
              : 'open'
            : Number.isFinite(response.value)
              ? response.value
              : 'OL',
      });
    }
    // Parts side by side on the same two nets (C1, C2, C3 and D1 on the motor rail) read the same
    // until one is lifted: they count as one.
    const { byPart } = diagnoser.believe(readings);
    const truth = fault.split(/[.:]/)[0]!;
    const parallel = ['C1', 'C2', 'C3', 'D1'];
    const asOne = parallel.includes(truth) ? parallel : [truth];
    expect(
      asOne,
      `${fault} after ${readings.length} readings: ${byPart
        .slice(0, 4)
        .map((p) => `${p.ref} ${p.probability.toFixed(2)}`)
        .join(', ')}`,
    ).toContain(byPart[0]!.ref);
  });

  it('believes a fault whose severity lies between those it solved', () => {
    const rail = board(
      'V1 VIN 0 9\nR9 VIN VM 10\nC1 VM 0 100u\n*@ C1 kind=electrolytic esr=0.2\nR1 VM 0 1k',
    );
    for (const ohm of [55, 130, 410, 1700]) {
      const real = board(`V1 VIN 0 9\nR9 VIN VM 10\nR8 VM 0 ${ohm}\nR1 VM 0 1k`);
      const seen = (kind: string, at: string): Reading => {
        const response = bench(real, kind === 'voltage' ? 'on' : 'off').respond(
          measurement(real, kind, at),
        );
        return {
          measurement: measurement(rail, kind, at),
          value: (response as { value: number }).value,
        };
      };
      const belief = diagnose(rail, [seen('voltage', 'VM'), seen('resistance', 'VM')], RATES);
      expect(
        belief.suspects
          .slice(0, 3)
          .map((s) => s.hypothesis.name)
          .filter((name) => /^C1:(leaky|short)$/.test(name)),
        `${ohm} Ω`,
      ).toHaveLength(1);
      expect(belief.unmodelled).toBeLessThan(0.2);
    }
  });

  it('says none of these when the readings come from a circuit that the file does not describe', () => {
    const odd: Reading[] = [
      ['voltage', 'P5', 7.3],
      ['voltage', 'VM', 5.1],
      ['voltage', 'P9F', 2.2],
      ['resistance', 'VM', 83],
    ].map(([kind, at, value]) => ({
      measurement: measurement(index, String(kind), String(at)),
      value: Number(value),
    }));
    expect(diagnoser.believe(odd).unmodelled).toBeGreaterThan(0.9);
  });
});
