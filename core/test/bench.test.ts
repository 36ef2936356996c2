import { describe, expect, it } from 'vitest';
import {
  absentParts,
  benchMinutes,
  fuseGate,
  fuseLoadSide,
  ledgerObjection,
  reconcile,
  type LedgerLine,
} from '../src/bench';
import { supplyRails } from '../src/device';
import { isProven, powerAllowed, proofSteps } from '../src/prove';
import { Predictor } from '../src/diagnosis';
import type { Reading } from '../src/instrument';
import { judgeFit, orientation, readSpec, specOfParts } from '../src/part';
import { boardFile, measurement } from './boards';

const index = boardFile('../../data/demo/boards/cr40-srv-supply.cir');
const line = (ref: string, action: LedgerLine['action'], note = ''): LedgerLine => ({
  ref,
  action,
  value: 'as before',
  polarityChecked: true,
  note,
});
const reading = (kind: string, at: string, value: Reading['value']): Reading => ({
  measurement: measurement(index, kind, at),
  value,
});
const part = (ref: string) => index.partByKey.get(ref.toLowerCase())!;

describe('the ledger', () => {
  it('adds up what came off and what went on, and names what is missing', () => {
    const lines = [
      line('C1', 'removed'),
      line('C3', 'removed'),
      line('C1', 'fitted'),
      line('C7', 'removed'),
      line('C7', 'leftOut', 'ordered'),
    ];
    expect(
      reconcile(lines)
        .filter((s) => s.missing)
        .map((s) => s.ref),
    ).toEqual(['C3']);
    expect(absentParts(lines)).toEqual(['C3', 'C7']);
  });
  it('objects to what cannot be', () => {
    expect(ledgerObjection(index, [], line('C1', 'fitted'))).toContain('not been taken off');
    expect(ledgerObjection(index, [line('C1', 'removed')], line('c1', 'removed'))).toContain(
      'already off',
    );
    expect(ledgerObjection(index, [line('C1', 'removed')], line('C1', 'leftOut'))).toContain(
      'say why',
    );
    expect(ledgerObjection(index, [], line('C99', 'removed'))).toContain('no part C99');
    expect(ledgerObjection(index, [line('C1', 'removed')], line('C1', 'fitted'))).toBeUndefined();
  });
});

describe('the fuse gate', () => {
  const predictor = new Predictor(index);
  const gate = (ref: string, ...readings: Reading[]) =>
    fuseGate(index, part(ref), readings, predictor);
  it('knows the load side and stays shut until its ohms to ground are read', () => {
    expect(fuseLoadSide(index, part('F1'))).toBe('P9F');
    expect(gate('F1')).toMatchObject({ measure: { at: 'P9F', to: '' }, low: false });
    expect(gate('F1', reading('resistance', 'P9IN', 5))).toMatchObject({ low: false });
    expect(gate('C1')).toBeUndefined();
  });
  it('judges what was read: what would blow the next one keeps it out and says why', () => {
    const belongs = predictor.healthy(measurement(index, 'resistance', 'P9F')).value;
    expect(belongs).toBeGreaterThan(1000);
    expect(gate('F1', reading('resistance', 'P9F', belongs))).toBeUndefined();
    expect(gate('F1', reading('resistance', 'P9F', 'OL'))).toBeUndefined();
    for (const ohm of [0.2, 1.2, 5]) {
      const held = gate('F1', reading('resistance', 'P9F', ohm));
      expect(held).toMatchObject({ low: true });
      expect(held!.words).toMatch(/belongs.*would drive.*T1A stands 1 A.*why it blew/);
    }
    // Low, but nothing that blows a fuse of one ampere at nine volts.
    expect(gate('F1', reading('resistance', 'P9F', 300))).toBeUndefined();
    // The newest reading counts.
    expect(
      gate('F1', reading('resistance', 'P9F', 1.2), reading('resistance', 'P9F', belongs)),
    ).toBeUndefined();
    expect(
      gate('F1', reading('resistance', 'P9F', belongs), reading('resistance', 'P9F', 1.2)),
    ).toMatchObject({ low: true });
  });
});

describe('the proof', () => {
  const predictor = new Predictor(index);
  const symptom = [{ key: 's1', text: 'does not move' }];
  const before = [reading('voltage', 'VM', 0.01)];
  const steps = (after: readonly Reading[], passed?: boolean) =>
    proofSteps(index, predictor, {
      before,
      after,
      symptoms: symptom,
      answers: passed === undefined ? [] : [{ key: 's1', passed }],
    });

  it('asks for ohms, volts without and with load, what was wrong, and the symptom', () => {
    expect(supplyRails(index)).toEqual(['P5', 'P9F', 'VM', 'VSENSE', 'VDRV']);
    expect([...new Set(steps([]).map((s) => s.stage))]).toEqual([
      'shorts',
      'unloaded',
      'loaded',
      'function',
    ]);
    expect(
      steps([]).find((s) => s.type === 'measure' && s.stage === 'loaded' && s.before === 0.01),
    ).toBeDefined();
    expect(powerAllowed(steps([]))).toBe(false);
  });
  it('is proven only when every step has passed', () => {
    const good = steps([]).flatMap((s): Reading[] =>
      s.type === 'measure' ? [{ measurement: s.measurement, value: s.expected.value }] : [],
    );
    expect(isProven(steps(good))).toBe(false);
    expect(isProven(steps(good, true))).toBe(true);
    expect(isProven(steps(good, false))).toBe(false);
    expect(isProven(steps([...good, reading('voltage', 'VM', 2)], true))).toBe(false);
    expect(powerAllowed(steps(good.slice(0, 5)))).toBe(true);
    expect(powerAllowed(steps(good.slice(1, 5)))).toBe(false);
    expect(powerAllowed([])).toBe(false);
  });
});

// Common practice, no published source: equal capacitance within 20 %, rated voltage equal or
// higher, never lower; the stripe of an aluminium capacitor marks minus.
describe('replacements', () => {
  const levels = (ref: string, text: string): string[] =>
    judgeFit(specOfParts([part(ref)]), readSpec(text))
      .filter(({ code }) => code === 'value' || code === 'volts')
      .map((r) => r.level);
  it('takes a higher voltage and refuses a lower one or another value', () => {
    expect(levels('C1', '470u 25V')).toEqual(['ok', 'ok']);
    expect(levels('C1', '470u 10V')).toEqual(['ok', 'stop']);
    expect(levels('C1', '330u 16V')).toEqual(['stop', 'ok']);
    expect(levels('R13', '220R')).toEqual(['ok']);
    expect(levels('R13', '2k2')).toEqual(['stop']);
  });
  it('says which way round', () =>
    expect(orientation(part('C1'))).toBe('plus to VM, stripe (minus) to ground'));
});

it('bench time leaves out the breaks', () => {
  const minute = 60_000;
  expect(benchMinutes([0, 5 * minute, 10 * minute, 200 * minute, 204 * minute])).toBe(
    2 + 10 + 2 + 4,
  );
});
