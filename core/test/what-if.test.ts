import { LIBRARY } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import { describe, expect, it } from 'vitest';
import { indexBoard, readSheetLines } from '../src/board';
import { parseFaults } from '../src/fault';
import { whatIf } from '../src/diagnosis';
import { resolveMeasurement, type Measurement, type ReadingValue } from '../src/instrument';

// A divider and a lamp, worked out by hand: 9 V over 1k and 2k is 6 V at A.
const index = indexBoard(
  readSheetLines('J1 9V in: 1=VIN 2=0\nF1 VIN V9 T1A\nR1 V9 A 1k\nR2 A 0 2k\nC1 A 0 100u', LIBRARY)
    .board,
);
const measure = (kind: string, at: string, to = '', setup = ''): Measurement => {
  const resolved = resolveMeasurement(index, setup, kind, at, to);
  if (!resolved.ok) throw new Error(resolved.what);
  return resolved.measurement;
};
const faults = (names: string) => {
  const read = parseFaults(index, names);
  if (!read.ok) throw new Error(read.what);
  return read.faults;
};
const volts = (names: string, net: string, absent: readonly string[] = []): number =>
  whatIf(index, names === '' ? [] : faults(names), [], absent).volts.get(net)!.value as number;

describe('a board with faults put on it', () => {
  it.each<[string, string, number]>([
    ['', 'A', 6],
    ['F1:open', 'A', 0],
    ['R1:open', 'A', 0],
    ['R2:open', 'A', 9],
    // What an open leaks (100 MΩ) before the meter's 10 MΩ: a floating net reads some of its supply.
    ['R2:open + F1:open', 'A', (9 * 10) / (100 + 10 + 10)],
    ['C1:short', 'A', 0],
  ])('“%s”: %s at %f V', (names, net, expected) => {
    // 10 MΩ of the meter and a short of some tenths of an ohm move it by millivolts.
    expect(Math.abs(volts(names, net) - expected)).toBeLessThan(0.01);
  });
  it('has the parts off that are off', () => {
    expect(Math.abs(volts('', 'A', ['R2']) - 9)).toBeLessThan(0.01);
  });
  const reading = (measurement: Measurement, value: ReadingValue, absent: string[] = []) => ({
    measurement,
    value,
    absent,
  });
  it('answers each reading in its own setup, with the parts that were off then', () => {
    const { readings } = whatIf(
      index,
      faults('R2:open'),
      [
        reading(measure('resistance', 'A', '0', 'off'), 'OL'),
        reading(measure('voltage', 'A'), 0, ['R1']),
        reading(measure('voltage', 'A'), 6),
      ],
      [],
    );
    expect(readings.map((one) => one!.fits)).toEqual([true, true, false]);
    expect(readings[2]!.shown.value as number).toBeCloseTo(9, 1);
  });
  it('takes a fault as bad as the readings have it', () => {
    // 1k over 3 kΩ in place of 2k: R2 has gone up by half.
    const { readings, faults: found } = whatIf(
      index,
      faults('R2:drift-high'),
      [reading(measure('voltage', 'A'), 6.75)],
      [],
    );
    expect(found[0]!.severity).toBeGreaterThan(1.15);
    expect(found[0]!.severity).toBeLessThan(2.5);
    expect(readings[0]!.shown.value as number).toBeGreaterThan(6);
  });
  it('says of several faults which is not one', () => {
    expect(parseFaults(index, 'R1:open + R9:open')).toMatchObject({ ok: false });
    expect(parseFaults(index, 'R1:sings')).toMatchObject({ ok: false });
  });
  it.each(Object.keys(DEMO_BOARD_FILES) as Parameters<typeof demoBoard>[0][])(
    'gives volts of a sound %s for nets of the board alone, none of them ground',
    (name) => {
      const board = indexBoard(demoBoard(name));
      const shown = whatIf(board, [], [], []).volts;
      expect(shown.size).toBeGreaterThan(board.nets.length / 3);
      for (const [net, { display }] of shown) {
        expect(board.nets).toContain(net);
        expect(net).not.toBe('0');
        expect(display).toMatch(/V$/);
      }
    },
  );
});
