import { describe, expect, it } from 'vitest';
import { demoBoard } from '@hanzai/data/demo';
import { indexBoard, powerOf } from '../src/board';
import { Diagnoser } from '../src/diagnosis';
import { resolveMeasurement, type Reading, type ReadingValue } from '../src/instrument';
import { planNext, shortedRail } from '../src/plan';
import { RATES } from './boards';

// Ohms from the rails to ground before any power: common practice, no published source.

const index = indexBoard(demoBoard('cr40'));
const read = (
  at: string,
  to: string,
  value: ReadingValue,
  setup = 'off',
  kind = 'resistance',
): Reading => {
  const resolved = resolveMeasurement(index, setup, kind, at, to);
  if (!resolved.ok) throw new Error(resolved.what);
  return { measurement: resolved.measurement, value };
};
const sound = (): number => 4700;

describe('a supply that reads as shorted', () => {
  it.each<[string, Reading[]]>([
    ['at the source', [read('P9IN', '', 0.8)]],
    ['behind the fuse', [read('P9F', '', 0.8)]],
    ['from its ground', [read('0', 'P9F', 0.8)]],
    ['across its source as a part', [read('SUP9', '', 0.8)]],
    ['beside a good one', [read('P5', '', 7000), read('VM', '', 3)]],
  ])('is known %s', (_, readings) => {
    expect(shortedRail(index, readings, sound)).toMatchObject({ soundOhm: 4700 });
  });
  it.each<[string, Reading[]]>([
    ['no reading', []],
    ['a rail with enough ohms', [read('P9F', '', 900)]],
    ['an open one', [read('P9F', '', 'OL')]],
    ['ohms that do not go to ground', [read('P9IN', 'P9F', 0.1)]],
    ['volts', [read('P9F', '', 0.4, 'on', 'voltage')]],
    ['ESR', [read('C1.1', 'C1.2', 0.2, 'off', 'esr')]],
  ])('is not %s', (_, readings) => {
    expect(shortedRail(index, readings, sound)).toBeUndefined();
  });
  it('is not a rail that has few ohms on a sound board', () => {
    expect(shortedRail(index, [read('VDRV', '', 11.1)], () => 11.1)).toBeUndefined();
    expect(shortedRail(index, [read('VDRV', '', 0.3)], () => 11.1)).toMatchObject({ net: 'VDRV' });
  });
});

describe('the planner', () => {
  const diagnoser = new Diagnoser(index, RATES);
  const plan = (...readings: Reading[]) =>
    planNext(diagnoser, readings, diagnoser.believe(readings));
  it('proposes nothing with the power on while a rail reads as shorted, and says which', () => {
    const { noPower, measurements, touches } = plan(read('P9F', '', 0.73));
    expect(noPower).toMatchObject({ net: 'P9F', ohm: 0.73 });
    expect(noPower!.soundOhm).toBeGreaterThan(4000);
    expect(measurements.length).toBeGreaterThan(0);
    for (const { setup } of [...measurements, ...touches]) expect(powerOf(setup)).toBe('off');
  });
  it('proposes power again where the rail reads well', () => {
    const { noPower, measurements } = plan(read('P9F', '', 4700));
    expect(noPower).toBeUndefined();
    expect(measurements.some(({ setup }) => powerOf(setup) === 'on')).toBe(true);
  });
});

it('nothing is called well before the first reading, however seldom the sheet is to blame', () => {
  // All of it next to never: belief that nothing here is wrong is nearly sure.
  const calm = { ...RATES, healthy: 0.95 };
  const diagnoser = new Diagnoser(index, calm);
  const belief = diagnoser.believe([]);
  expect(belief.healthy).toBeGreaterThan(0.6);
  expect(planNext(diagnoser, [], belief).state).toBe('measure');
});
