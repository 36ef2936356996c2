import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { formatCompact, formatOnRange, formatQuantity, parseQuantity } from '.';

describe('quantities as the trade writes them', () => {
  // IEC 60062:2016, clause 5: the letter stands for the decimal point (R47, 4R7, 4k7, 47k, 4M7;
  // 4n7, 47u).
  it.each([
    ['4k7', 4700, ''],
    ['4.7k', 4700, ''],
    ['.03', 0.03, ''],
    ['183R', 183, 'ohm'],
    ['3V3', 3.3, 'V'],
    ['22u', 22e-6, ''],
    ['R47', 0.47, 'ohm'],
    ['4R7', 4.7, 'ohm'],
    ['4M7', 4.7e6, ''],
    ['2n2', 2.2e-9, ''],
    ['120mV', 0.12, 'V'],
    ['20ma', 0.02, 'A'],
    ['4,7k', 4700, ''],
    ['1meg', 1e6, ''],
    ['10 kΩ', 1e4, 'ohm'],
    ['-5.2', -5.2, ''],
    ['4.7e3', 4700, ''],
    ['470uF', 470e-6, 'F'],
    ['0V35', 0.35, 'V'],
    ['1k5ohm', 1500, 'ohm'],
  ])('%s is %d %s', (text, value, unit) =>
    expect(parseQuantity(text)).toEqual({ ok: true, value, unit }),
  );

  it.each(['', 'abc', '4k7k', '1.2.3', 'k', '--3', '4.7k7', '5 x'])(
    '"%s" is refused with what was expected',
    (text) => expect(parseQuantity(text)).toMatchObject({ ok: false }),
  );
  it('reads OL in its spellings', () =>
    expect(['OL', 'ol', '0L', 'O.L'].map((t) => parseQuantity(t))).toEqual(
      Array(4).fill({ ok: true, value: 'OL', unit: '' }),
    ));

  it('shows four figures as a 4000-count meter does', () => {
    expect([
      formatOnRange(4700, 'ohm', 40e3),
      formatOnRange(3300, 'ohm', 4e3),
      formatOnRange(11.98, 'V', 40),
      formatOnRange(0.0599, 'V', 0.4),
    ]).toEqual(['4.70 kΩ', '3.300 kΩ', '11.98 V', '59.9 mV']);
    expect([
      formatQuantity(0.0123456, 'A'),
      formatQuantity(4.99996, 'V'),
      formatQuantity(0, 'V'),
    ]).toEqual(['12.35 mA', '5 V', '0 V']);
  });

  it('reads back what it prints', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9999 }),
        fc.integer({ min: -11, max: 7 }),
        fc.constantFrom('ohm', 'F' as const),
        (digits, power, unit) => {
          const value = Number(`${digits}e${power}`);
          const parsed = parseQuantity(formatCompact(value, unit));
          expect(
            parsed.ok && parsed.value !== 'OL' && Math.abs(parsed.value / value - 1) < 1e-9,
          ).toBe(true);
        },
      ),
      { seed: 20264 },
    );
  });
});
