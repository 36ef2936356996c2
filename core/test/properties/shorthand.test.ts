import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  measurementKey,
  parseReadingValue,
  parseShorthand,
  pointText,
  resolveMeasurement,
  unitOf,
  type Measurement,
} from '../../src/instrument';
import { candidateMeasurements } from '../../src/plan';
import { formatCompact } from '../../src/quantity';
import { boardFile } from '../boards';

const index = boardFile('../../data/demo/boards/cr40-srv-supply.cir');
const candidates = candidateMeasurements(index);
const WORDS: Partial<Record<Measurement['kind'], string>> = {
  voltage: 'volts',
  resistance: 'ohm',
  diode: 'diode',
  esr: 'esr',
};

describe('the shorthand over a whole board', () => {
  it('reaches every point that can be measured, in either case', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...candidates),
        fc.double({ min: 0.01, max: 9000, noNaN: true }),
        fc.boolean(),
        (m, size, upper) => {
          const value =
            m.kind === 'continuity'
              ? 'beep'
              : formatCompact(Number(size.toPrecision(3)), unitOf(m.kind) === 'ohm' ? 'ohm' : '');
          const line = `${pointText(m.at)} ${pointText(m.to) || 'gnd'} ${value} ${WORDS[m.kind] ?? ''}`;
          const read = parseShorthand(
            index,
            upper && m.kind !== 'voltage' && m.kind !== 'diode'
              ? line.replace(/^\S+ \S+/, (points) => points.toUpperCase())
              : line,
          );
          expect(read.ok, line).toBe(true);
          if (read.ok) expect(measurementKey(read.reading.measurement)).toBe(measurementKey(m));
        },
      ),
      { seed: 20268, numRuns: 400 },
    );
  });

  it('never throws and never files rubbish as something it is not', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 60 }), (text) => {
        const read = parseShorthand(index, text);
        if (!read.ok) {
          expect(read.expected.length).toBeGreaterThan(0);
          return;
        }
        const first = text.trim().split(/\s+/)[0]!.toLowerCase();
        const known =
          index.partByKey.has(first) ||
          index.netByKey.has(first) ||
          index.partByKey.has(first.slice(0, Math.max(0, first.lastIndexOf('.'))));
        expect(known || first === '0' || first === 'gnd').toBe(true);
      }),
      { seed: 20269, numRuns: 2000 },
    );
  });

  it('a measurement written out and resolved again is the same one', () => {
    for (const m of candidates) {
      const again = resolveMeasurement(index, m.setup, m.kind, pointText(m.at), pointText(m.to));
      expect(again.ok && measurementKey(again.measurement)).toBe(measurementKey(m));
    }
  });
});

describe('values', () => {
  it.each([
    ['voltage', '4.98', '', 4.98],
    ['voltage', '120', 'mV', 0.12],
    ['resistance', '4k7', '', 4700],
    ['resistance', 'OL', 'ohm', 'OL'],
    ['esr', '.06', 'ohm', 0.06],
    ['current', '20m', 'A', 0.02],
    ['logic', 'hi', '', '1'],
    ['continuity', 'BEEP', '', 'beep'],
  ] as const)('%s %s %s', (kind, text, unit, value) =>
    expect(parseReadingValue(kind, text, unit)).toEqual({ ok: true, value }),
  );

  it.each([
    ['voltage', 'OL', 'a number'],
    ['voltage', '4k7ohm', 'a value in V'],
    ['voltage', '99999', 'at most 10000 V'],
    ['resistance', '-5', 'zero or more ohms'],
    ['resistance', 'open', 'a quantity such as'],
    ['continuity', '0.2', 'beep or open'],
    ['logic', '5', '0, 1, P or Z'],
    ['esr', '1e30', 'at most'],
  ] as const)('%s cannot be %s', (kind, text, expected) => {
    const read = parseReadingValue(kind, text);
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.expected).toContain(expected);
  });
});
