import { LIBRARY, RATES } from '@hanzai/data';
import { describe, expect, it } from 'vitest';
import { indexBoard, readSheetLines } from '../src/board';
import { Diagnoser } from '../src/diagnosis';
import { resolveMeasurement, type Measurement } from '../src/instrument';
import { handMinutes, planNext } from '../src/plan';

// Two like resistors, one at hand and one 200 mm away.
const index = indexBoard(
  readSheetLines(
    `J1 9V in: 1=VIN 2=0
R1 VIN A 1k pos=10,10 pins=8,10;12,10
R2 A 0 1k pos=20,10 pins=18,10;22,10
R3 VIN B 1k pos=210,10 pins=208,10;212,10
R4 B 0 1k pos=220,10 pins=218,10;222,10
R5 VIN C 1k pos=10,14 side=bottom
R6 C 0 1k`,
    LIBRARY,
  ).board,
);
const at = (point: string, to = ''): Measurement => {
  const resolved = resolveMeasurement(index, 'on', 'voltage', point, to);
  if (!resolved.ok) throw new Error(resolved.what);
  return resolved.measurement;
};
const seconds = (from: Measurement | undefined, to: Measurement): number =>
  60 * handMinutes(index, from, to);

describe('hands on a board', () => {
  it('take a second for 50 mm, to the nearest place of a net', () => {
    // A is at 12 and at 18 mm, B at 212 and at 218: 194 mm between the nearest.
    expect(seconds(at('A'), at('B'))).toBeCloseTo(194 / 50, 6);
    expect(seconds(at('A'), at('A'))).toBe(0);
    expect(seconds(at('B'), at('A'))).toBeCloseTo(seconds(at('A'), at('B')), 9);
  });
  it('take ten more to turn the board over', () => {
    expect(seconds(at('R1.1'), at('R5.1'))).toBeGreaterThan(10);
  });
  it('take nothing where no place is known, before the first reading, and to a clip on ground', () => {
    expect(seconds(at('A'), at('R6.1'))).toBe(0);
    expect(seconds(undefined, at('B'))).toBe(0);
  });
  it('move the slower of two probes, whichever way round', () => {
    expect(seconds(at('R1.1', 'R1.2'), at('R1.2', 'R1.1'))).toBe(0);
    expect(seconds(at('R1.1', 'R3.1'), at('R3.1', 'R1.1'))).toBe(0);
    expect(seconds(at('R1.1', 'R1.2'), at('R1.1', 'R3.1'))).toBeCloseTo(196 / 50, 6);
  });
  it('are counted into what is measured next, and change what is near first of two alike', () => {
    const diagnoser = new Diagnoser(index, RATES);
    const minutes = (handAt: Measurement | undefined, point: string): number =>
      planNext(diagnoser, [], diagnoser.believe([]), {
        absent: [],
        most: 200,
        handMinutes: (m) => handMinutes(index, handAt, m),
      }).measurements.find((one) => one.kind === 'voltage' && one.at === point && one.to === '')!
        .minutes;
    expect(60 * (minutes(at('A'), 'B') - minutes(undefined, 'B'))).toBeCloseTo(194 / 50, 6);
    expect(minutes(at('A'), 'A')).toBeCloseTo(minutes(undefined, 'A'), 9);
  });
});
