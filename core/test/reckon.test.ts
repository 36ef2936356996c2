// The reckoner: each calculator against figures that others published, or worked by hand.
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DiskGeometry } from '../src/block';
import {
  beginning,
  calculators,
  figureText,
  GROUPS,
  hypergeometric,
  readDateCode,
  readFigure,
  readRings,
  reckon,
  ringsOf,
  sweep,
  type Calculator,
  type FigureUnit,
} from '../src/reckon';
import { preferredValues } from '../src/quantity';
import media from '../../data/library/media.json' with { type: 'json' };

const ALL = calculators(media.map((row) => DiskGeometry.parse(row)));
const named = (name: string): Calculator => ALL.find((one) => one.name === name)!;

/** Reckons with some of the beginning changed; throws with what stands against it. */
function answer(name: string, typed: Record<string, string>) {
  const calculator = named(name);
  const made = reckon(calculator, { ...beginning(calculator), ...typed });
  if (!made.ok) throw new Error(made.why || JSON.stringify(made.fields));
  return {
    value: (of: string): number => made.lines.find((line) => line.name === of)!.value!,
    text: (of: string): string => made.lines.find((line) => line.name === of)!.text,
    interval: (of: string) => made.lines.find((line) => line.name === of)!.interval,
    words: made.words,
  };
}
function refused(name: string, typed: Record<string, string>): string {
  const calculator = named(name);
  const made = reckon(calculator, { ...beginning(calculator), ...typed });
  return made.ok ? '' : made.why || Object.values(made.fields).join('; ');
}

describe('a figure in bench notation', () => {
  it.each<[string, FigureUnit, number, number]>([
    ['4k7', 'ohm', 4700, 0],
    ['4k7 5%', 'ohm', 4700, 235],
    ['4k7 ±100', 'ohm', 4700, 100],
    ['.03', 'ohm', 0.03, 0],
    ['3V3 +/-0.1', 'V', 3.3, 0.1],
    ['12,1V', 'V', 12.1, 0],
    ['200ms', 's', 0.2, 0],
    ['2 min', 's', 120, 0],
    ['3 cm', 'mm', 30, 0],
    ['1 in', 'mm', 25.4, 0],
    ['5%', '%', 5, 0],
    ['12 % ±1', '%', 12, 1],
    ['-20', 'degC', -20, 0],
    ['45°C', 'degC', 45, 0],
    ['300 rpm', 'rpm', 300, 0],
    ['0.25W', 'W', 0.25, 0],
    ['250mW 10 %', 'W', 0.25, 0.025],
  ])('%s of %s', (typed, unit, value, limit) => {
    const read = readFigure(typed, unit);
    if (!read.ok) throw new Error(read.expected);
    expect(read.value.value).toBeCloseTo(value, 9);
    expect(read.value.limit).toBeCloseTo(limit, 9);
  });
  it.each<[string, FigureUnit]>([
    ['', 'ohm'],
    ['OL', 'ohm'],
    ['4k7', 's'],
    ['12V', 'ohm'],
    ['3 feet', 'mm'],
    ['4k7 ±', 'ohm'],
    ['4k7 ±-5', 'ohm'],
    ['1e999', 's'],
    ['twelve', 'V'],
  ])('%s is none of %s', (typed, unit) => {
    const read = readFigure(typed, unit);
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.expected).toContain('such as');
  });
  it.each<[number, FigureUnit, string]>([
    [0.0069, 's', '6.9 ms'],
    [90, 's', '1.5 min'],
    [7200, 's', '2 h'],
    [4700, 'ohm', '4.7 kΩ'],
    [0.25, 'W', '250 mW'],
    [12, 'mm', '12 mm'],
    [2.5, '%', '2.5 %'],
    [Infinity, '', 'without end'],
  ])('%f %s is printed as %s', (value, unit, text) => expect(figureText(value, unit)).toBe(text));
});

describe('codes', () => {
  // IEC 60062:2016, table 1 and its examples; the values are those printed on parts.
  it.each([
    ['yellow violet red gold', 4700, 5],
    ['brown black black red brown', 10_000, 1],
    ['brown black black black brown', 100, 1],
    ['green blue silver gold', 0.56, 5],
    ['red red gold gold', 2.2, 5],
    ['brown green green', 1_500_000, 20],
    ['orange orange brown silver', 330, 10],
    ['blue grey black brown brown red', 6800, 1],
    ['Purple-green-black-gold', 75, 5],
  ])('rings %s', (rings, ohm, tolerance) => {
    const read = readRings(rings);
    expect(read.ohm).toBeCloseTo(ohm, 9);
    expect(read.tolerance).toBe(tolerance);
  });
  it('rings of every value of E24 and E96 are read back', () => {
    for (const decade of [-1, 0, 2, 5])
      for (const [series, tolerance] of [
        [24, 5],
        [96, 1],
      ] as const)
        for (const value of preferredValues(series)) {
          const ohm = Number((value * 10 ** decade).toPrecision(4));
          const rings = ringsOf(ohm, tolerance)!;
          const read = readRings(rings.join(' '));
          expect(read.ohm / ohm).toBeCloseTo(1, 9);
          expect(read.tolerance).toBe(tolerance);
        }
  });
  it.each([
    ['gold violet red yellow', 'other end'],
    ['yellow violet red black', 'other end'],
    ['mauve red red', 'no ring is mauve'],
    ['red red', '2 rings'],
  ])('%s: %s', (rings, why) => expect(refused('rings', { rings })).toContain(why));
  it('more figures than rings have is said', () => {
    expect(refused('to-rings', { ohm: '4.64k', tolerance: '5' })).toContain('more figures');
    expect(answer('to-rings', { ohm: '4.64k', tolerance: '1' }).text('rings')).toBe(
      'yellow, blue, yellow, brown, brown',
    );
  });

  it.each([
    ['104', 'C', 100e-9],
    ['472K', 'C', 4.7e-9],
    ['479', 'C', 4.7e-12],
    ['4n7J', 'C', 4.7e-9],
    ['u47', 'C', 0.47e-6],
    ['220', 'C', 22e-12],
    ['4k7J', 'R', 4700],
    ['R47', 'R', 0.47],
    ['4R7', 'R', 4.7],
    ['1M0', 'R', 1e6],
    ['103', 'R', 10_000],
    ['1002', 'R', 10_000],
    ['4702F', 'R', 47_000],
  ])('%s on %s', (code, of, value) => {
    expect(answer('code', { code, of }).value('value') / value).toBeCloseTo(1, 9);
  });
  it('tolerance, volts and ceramic stand behind it', () => {
    const made = answer('code', { code: '104K 1H X7R', of: 'C' });
    expect(made.value('tolerance')).toBe(10);
    expect(made.value('volt')).toBe(50);
    expect(made.text('kind')).toContain('-55 to 125 °C, value moves ±15 %');
    expect(answer('code', { code: '106M 1C Y5V', of: 'C' }).value('volt')).toBe(16);
    expect(answer('code', { code: '476 0J', of: 'C' }).value('volt')).toBe(6.3);
    expect(answer('code', { code: '104 2A', of: 'C' }).value('volt')).toBe(100);
    expect(refused('code', { code: '104 ZZTOP', of: 'C' })).toContain('no code that is known');
  });

  it('a date code is all that it may mean', () => {
    expect(readDateCode('8632', 2026)).toEqual(['week 32 of 1986']);
    expect(readDateCode('8608', 2026)).toEqual(['week 8 of 1986']);
    // Read either way round.
    expect(readDateCode('0586', 2026)).toEqual(['week 5 of 1986, if the week stands first']);
    expect(readDateCode('732', 1992)).toEqual([
      'week 32 of 1967',
      'week 32 of 1977',
      'week 32 of 1987',
    ]);
    expect(readDateCode('B9', 2026)).toEqual([
      'September 1971',
      'September 1991',
      'September 2011',
    ]);
    for (const none of ['', '8699', '99', 'Z9', 'hello'])
      expect(readDateCode(none, 2026)).toEqual([]);
  });

  it('a pair comes at least as near as any other, by trying them all', () => {
    const made = answer('preferred', { value: '5k', series: '12' });
    // 4k7 and 330 are 0.6 % above, 3k3 with 1k8 2 %; 2k7 and 2k2 4.9 k.
    expect(made.text('added')).toMatch(/^4\.7 k and 0\.27 k|^4\.7 k and 330|^4\.7 k and 270/);
    expect(answer('preferred', { value: '4k7', series: '12' }).text('off')).toBe('exact');
  });
});

describe('networks', () => {
  it('a divider by hand, with and without its load', () => {
    expect(answer('divider', { in: '12', upper: '10k', lower: '10k' }).value('out')).toBeCloseTo(
      6,
      12,
    );
    const loaded = answer('divider', { in: '12', upper: '10k', lower: '10k', load: '10k' });
    expect(loaded.value('out')).toBeCloseTo(4, 12);
    expect(refused('divider', { upper: '0', lower: '0' })).toContain('shorted');
  });
  it('the tolerance of an answer is that of the GUM: by hand', () => {
    // Two equal resistors of 1 %: V = 6 V, each moves it by a quarter of its own share of 12 V.
    const { interval } = answer('divider', { in: '12', upper: '10k 1%', lower: '10k 1%' });
    const off = (1.96 * Math.hypot(0.03, 0.03)) / Math.sqrt(3);
    expect(interval('out')!.high - 6).toBeCloseTo(off, 4);
    expect(6 - interval('out')!.low).toBeCloseTo(off, 4);
    expect(answer('divider', {}).interval('out')).toBeUndefined();
  });
  it.each([
    ['R', '10k 10k', 20e3, 5e3],
    ['R', '3 6', 9, 2],
    ['C', '100n 100n', 50e-9, 200e-9],
    ['L', '1m, 1m', 2e-3, 0.5e-3],
    ['R', '5 0', 5, 0],
  ])('%s of %s', (of, values, row, side) => {
    const made = answer('together', { of, values: values.replaceAll(',', '') });
    expect(made.value('row') / row).toBeCloseTo(1, 12);
    expect(made.value('side')).toBeCloseTo(side, 12);
  });
  it('RC: half after 0.693 of the time constant, never where the level lies outside', () => {
    const made = answer('rc', { ohm: '100k', farad: '10u', from: '0', to: '5', level: '2.5' });
    expect(made.value('seconds')).toBeCloseTo(Math.LN2, 12);
    expect(refused('rc', { level: '6' })).toContain('never reached');
    expect(refused('rc', { level: '5' })).toContain('never reached');
  });
});

describe('parts, supply, logic', () => {
  it('47 µF at 100 kHz has 34 mΩ of reactance', () => {
    expect(answer('reactance', { farad: '47u', hertz: '100k' }).value('x')).toBeCloseTo(0.03386, 5);
  });
  it('a coil of 253 µH rings with 100 pF at a megahertz', () => {
    expect(answer('resonance', { henry: '253.3u', farad: '100p' }).value('hertz')).toBeCloseTo(
      1e6,
      -3,
    );
  });
  it('an electrolytic of 2000 h at 105 °C lives 64 times as long at 45 °C', () => {
    const made = answer('life', { ambient: '45', ripple: '0' });
    expect(made.value('hours')).toBeCloseTo(128_000, 6);
    // The rated ripple warms it by five kelvin: a factor of the square root of two.
    const warm = answer('life', { ambient: '45', ripple: '200m' });
    expect(warm.value('hours')).toBeCloseTo(128_000 / Math.SQRT2, 6);
  });
  it('discharge: V0 exp(-t/RC), half C V squared, and never says that it is safe', () => {
    const made = answer('discharge', { volt: '325', farad: '100u', ohm: '10k', limit: '60' });
    expect(325 * Math.exp(-made.value('seconds') / 1)).toBeCloseTo(60, 9);
    expect(made.value('joule')).toBeCloseTo(5.28125, 9);
    expect(made.words).toContain('measure it');
    expect(answer('discharge', { volt: '358', farad: '220u' }).words).toContain('can injure');
    for (const calculator of ALL)
      if (calculator.group === 'power')
        expect(calculator.title + calculator.formula).not.toMatch(/\bsafe\b/);
  });
  it('inrush: the integral of V²/R² e^(-2t/RC) is C V² / 2R, summed in small steps', () => {
    const [c, v, r] = [4700e-6, 17, 0.5];
    let sum = 0;
    const step = (r * c) / 20_000;
    for (let t = step / 2; t < 20 * r * c; t += step)
      sum += ((v / r) * Math.exp(-t / (r * c))) ** 2 * step;
    expect(answer('fuse', {}).value('inrush') / sum).toBeCloseTo(1, 6);
  });
  it('a lamp diode, a zener, a regulator and a transistor by Ohm', () => {
    expect(answer('led', { volt: '5', forward: '2', ampere: '10mA' }).value('ohm')).toBeCloseTo(
      300,
      9,
    );
    expect(answer('zener', {}).value('ohm')).toBeCloseTo(5.9 / 0.015, 9);
    expect(
      answer('regulator', { in: '8', out: '5', ampere: '0.3', own: '0' }).value('watt'),
    ).toBeCloseTo(0.9, 9);
    expect(answer('regulator', { in: '6' }).words).toContain('does not regulate');
    expect(answer('switch', { in: '0.5' }).value('base')).toBe(0);
    expect(refused('led', { volt: '1.5' })).toContain('stays dark');
  });
  it('fan-out of the data books: LS drives 20 LS, TTL 10 TTL, LS 5 TTL; LS is no sure 1 for HC', () => {
    expect(answer('fan-out', { from: 'LS', to: 'LS' }).value('count')).toBe(20);
    expect(answer('fan-out', { from: 'TTL', to: 'TTL' }).value('count')).toBe(10);
    expect(answer('fan-out', { from: 'LS', to: 'TTL' }).value('count')).toBe(5);
    expect(answer('fan-out', { from: 'LS', to: 'HC' }).words).toContain('no sure 1');
    expect(answer('fan-out', { from: 'HC', to: 'LS' }).text('verdict')).toBe('fit');
  });
  it('a pull-up lies between what is sunk and what leaks', () => {
    const made = answer('pull-up', { ohm: '2k2' });
    expect(made.value('least')).toBeLessThan(2200);
    expect(made.value('most')).toBeGreaterThan(2200);
    expect(made.text('verdict')).toBe('fits');
    expect(answer('pull-up', { ohm: '100' }).text('verdict')).toContain('too small');
    expect(answer('pull-up', { ohm: '100k' }).text('verdict')).toContain('too large');
    expect(refused('pull-up', { inputs: '40', family: 'TTL' })).toContain('too many');
  });
});

describe('copper', () => {
  // ASTM B258: diameters; ohms a kilometre of the tables that go by it, 20 °C.
  it.each([
    ['24', 0.5106, 84.2],
    ['26', 0.4049, 133.9],
    ['28', 0.3211, 212.9],
    ['30', 0.2546, 338.6],
  ])('gauge %s', (gauge, mm, ohmPerKm) => {
    const made = answer('wire', { gauge, length: '1000 m' });
    expect(made.value('mm')).toBeCloseTo(mm, 3);
    expect(made.value('ohm') / ohmPerKm).toBeCloseTo(1, 2);
  });
  it('three centimetres of it are 10 mΩ and some 30 nH', () => {
    const made = answer('wire', { gauge: '30', length: '30mm' });
    expect(made.value('ohm')).toBeCloseTo(0.0102, 3);
    expect(made.value('henry')).toBeGreaterThan(25e-9);
    expect(made.value('henry')).toBeLessThan(36e-9);
  });
  it('a track by IPC-2221, and the width for its current is its own', () => {
    const made = answer('track', { width: '0.254mm', rise: '10', thickness: '35', ampere: '1' });
    // 10 mil of one ounce: I = 0.048 · 10^0.44 · 13.78^0.725.
    expect(made.value('ampere')).toBeCloseTo(0.048 * 10 ** 0.44 * (10 * 1.378) ** 0.725, 2);
    const back = answer('track', {
      width: '0.254mm',
      rise: '10',
      ampere: String(made.value('ampere')),
    });
    expect(back.value('width')).toBeCloseTo(0.254, 6);
  });
});

describe('chance', () => {
  it('Bayes: the example of the screening test', () => {
    // D. M. Eddy, in Kahneman, Slovic, Tversky (eds), Judgment under Uncertainty, 1982: 1 %, 80 %,
    // 9.6 % give 7.8 %.
    const made = answer('bayes', { before: '1%', bad: '80%', good: '9.6%' });
    expect(made.value('after')).toBeCloseTo(7.8, 1);
    expect(made.value('weight')).toBeCloseTo(10 * Math.log10(80 / 9.6), 9);
  });
  it('clean starts of the trade: 30 % in nine, 20 % in fourteen, 10 % in 29, 50 % in five', () => {
    for (const [failed, starts] of [
      [3, 9],
      [2, 14],
      [1, 29],
      [5, 5],
    ] as const)
      expect(answer('proof', { failed: String(failed), tries: '10' }).value('known')).toBe(starts);
    // Rule of three: J. A. Hanley, A. Lippman-Hand, JAMA 249, 1983.
    expect(answer('proof', { clean: '100' }).value('open')).toBeCloseTo(3, 0);
    expect(answer('proof', { clean: '157' }).words).toContain('never that it works');
  });
  it('two conditions: the tea tasting, 34 of 70', () => {
    expect(answer('two-conditions', {}).value('chance')).toBeCloseTo((100 * 34) / 70, 9);
    expect(
      answer('two-conditions', { a: '4', b: '0', c: '0', d: '4' }).value('chance'),
    ).toBeCloseTo(200 / 70, 9);
  });
  it('some of so many: the six of 49 of a lottery', () => {
    expect(1 / hypergeometric(49, 6, 6, 6)).toBeCloseTo(13_983_816, -1);
    expect(hypergeometric(49, 6, 6, 3)).toBeCloseTo(0.01765, 5);
    const made = answer('swaps', { all: '8', bad: '4', drawn: '2' });
    expect(made.value('none')).toBeCloseTo((100 * 6) / 28, 9);
    expect(made.value('needed')).toBe(4);
  });
  it('how often: 2 of 10 by the table of Clopper and Pearson', () => {
    const made = answer('share', { seen: '2', of: '10' });
    expect(made.value('low')).toBeCloseTo(2.52, 2);
    expect(made.value('high')).toBeCloseTo(55.61, 2);
  });
});

describe('belts, speed, disks', () => {
  it('a belt round equal pulleys is two spans and a turn', () => {
    const made = answer('belt', {
      large: '20mm',
      small: '20mm',
      apart: '100mm',
      section: '0',
      stretch: '0',
    });
    expect(made.value('length')).toBeCloseTo(200 + 20 * Math.PI, 9);
    expect(made.value('wrap')).toBeCloseTo(180, 9);
    expect(refused('belt', { apart: '20mm' })).toContain('touch');
  });
  it('a belt round unequal ones is the tangents and arcs, drawn point by point', () => {
    const [r1, r2, a] = [30, 6, 90];
    const phi = Math.asin((r1 - r2) / a);
    const point = (cx: number, r: number) => [cx + r * Math.sin(phi), r * Math.cos(phi)] as const;
    const [p, q] = [point(0, r1), point(a, r2)];
    const span = Math.hypot(q[0] - p[0], q[1] - p[1]);
    const length = 2 * span + r1 * (Math.PI + 2 * phi) + r2 * (Math.PI - 2 * phi);
    const made = answer('belt', {
      large: '60mm',
      small: '12mm',
      apart: '90mm',
      section: '0',
      stretch: '0',
    });
    expect(made.value('length')).toBeCloseTo(length, 6);
  });
  it.each([
    // Marks of strobe discs as they are printed.
    ['33.3333', '50', 180],
    ['33.3333', '60', 216],
    ['45', '60', 160],
    ['78.26', '60', 92],
  ])('%s rev/min under %s Hz: %d marks', (wanted, mains, marks) => {
    expect(answer('speed', { wanted, mains }).value('marks')).toBeCloseTo(marks, 1);
  });
  it('an index of 200 ms is 300 rev/min, of 166.7 ms 360', () => {
    expect(answer('speed', { period: '200ms' }).value('off')).toBeCloseTo(0, 9);
    expect(answer('speed', { period: '166.67ms', wanted: '360' }).value('rpm')).toBeCloseTo(360, 1);
    expect(answer('speed', { period: '210ms' }).words).toContain('outside of');
  });
  it('track pitch of 135 an inch is 0.1875 mm to the standard’s figures, of 96 and 48 as well', () => {
    // ISO 8860, ISO 8378, ISO 7487: 0.1875, 0.2646, 0.5292 mm.
    expect(answer('stepper', { tpi: '135.4667' }).value('pitch')).toBeCloseTo(0.1875, 4);
    expect(answer('stepper', { tpi: '96' }).value('pitch')).toBeCloseTo(0.2646, 4);
    expect(answer('stepper', { tpi: '48' }).value('pitch')).toBeCloseTo(0.5292, 4);
    expect(answer('stepper', { lead: '37.5mm', tpi: '135.4667' }).words).toBe('1 step a track.');
    expect(answer('stepper', { lead: '50mm' }).words).toContain('no whole number');
  });
  it('layouts: the bytes of the standards, and a sixth lost where 15 of 18 sectors are set', () => {
    const high = { medium: '3.5 inch high density' };
    expect(answer('layout', { ...high, set: '3.5 inch high density' }).value('bytes')).toBe(
      1_474_560,
    );
    expect(answer('layout', { ...high, set: '3.5 inch high density' }).value('bits')).toBe(100_000);
    expect(answer('layout', { medium: '3.5 inch double density' }).value('bytes')).toBe(737_280);
    expect(answer('layout', { medium: '5.25 inch high density' }).value('bytes')).toBe(1_228_800);
    expect(answer('layout', { medium: '5.25 inch, 40 tracks' }).value('bytes')).toBe(368_640);
  });
});

describe('at the bench', () => {
  it('an adapter: links, what is left open, and the harm of a straight cable', () => {
    const made = answer('adapter', {});
    expect(made.text('links')).toBe('1 to 4 (GND); 2 to 3 (CLK); 3 to 2 (DATA); 4 to 1 (+5V)');
    expect(made.words).toContain('Never plug them straight');
    expect(made.text('dangers')).toContain('+5V of the host comes onto GND (pin 1)');
    const same = answer('adapter', { unit: '1 GND\n2 +5V\n3 NC', host: '1 0V\n2 +5V\n3 +12V' });
    expect(same.words).toContain('Links: 1 to 1');
    expect(same.text('cuts')).toContain('3 +12V of the host: the unit has none');
    expect(refused('adapter', { unit: '1 GND\n1 CLK' })).toContain('pin 1 stands there twice');
    expect(answer('adapter', { unit: '2 CLK', host: '2 CLK' }).text('first')).toContain(
      'no ground is named',
    );
  });
  it('peroxide is diluted by its strength, and never made stronger', () => {
    const made = answer('peroxide', { strong: '12%', wanted: '6%', litres: '2' });
    expect(made.value('take')).toBeCloseTo(1, 12);
    expect(made.value('days')).toBe(3);
    expect(refused('peroxide', { strong: '3%', wanted: '6%' })).toContain('stronger');
    expect(refused('peroxide', { strong: '50%' })).toContain('or less');
  });
});

describe('every calculator', () => {
  it.each(ALL.map((one) => [one.name, one] as const))('%s begins with an answer', (_, one) => {
    const made = reckon(one, beginning(one));
    if (!made.ok) throw new Error(made.why || JSON.stringify(made.fields));
    expect(made.lines.length).toBeGreaterThan(0);
    const all = [made.words, ...made.lines.flatMap(({ label, text }) => [label, text])].join(' ');
    expect(all).not.toMatch(/undefined|NaN|no number|\[object/);
    expect(made.words).toMatch(/\.$/);
    expect(one.source.length).toBeGreaterThan(5);
    expect(one.formula.length).toBeGreaterThan(5);
    expect(GROUPS[one.group]).toBeTruthy();
  });
  it('has a name of its own, and so has each of its fields and results', () => {
    expect(new Set(ALL.map(({ name }) => name)).size).toBe(ALL.length);
    for (const one of ALL) {
      const made = reckon(one, beginning(one));
      const names = [...one.fields.map(({ name }) => name)];
      expect(new Set(names).size, one.name).toBe(names.length);
      if (made.ok) {
        const results = made.lines.map(({ name }) => name);
        expect(new Set(results).size, one.name).toBe(results.length);
      }
    }
  });
  it('that can hurt somebody says so', () => {
    for (const name of ['discharge', 'fuse', 'adapter', 'peroxide'])
      expect(named(name).caution!.length).toBeGreaterThan(40);
    for (const { caution } of ALL)
      if (caution && /mains/.test(caution)) expect(caution).toMatch(/only if you are qualified/);
  });
  it('sweeps each of its figures without a hole that it does not say', () => {
    for (const one of ALL)
      for (const field of one.fields) {
        const swept = sweep(one, beginning(one), field.name);
        if (!swept) continue;
        expect(swept.label).not.toBe('');
        for (const { at, value } of swept.points) {
          expect(Number.isFinite(at)).toBe(true);
          expect(Number.isFinite(value)).toBe(true);
        }
      }
    const rc = sweep(named('rc'), beginning(named('rc')), 'ohm')!;
    expect(rc.points).toHaveLength(81);
    expect(rc.points.at(-1)!.value / rc.points[0]!.value).toBeCloseTo(100, 6);
    expect(sweep(named('rings'), beginning(named('rings')), 'rings')).toBeUndefined();
  });
  it('answers or says what is expected, whatever is typed', () => {
    const typed = fc.oneof(
      fc.string({ maxLength: 40 }),
      fc.constantFrom(
        '0',
        '-1',
        '1e308',
        '1e-308',
        '4k7',
        '5%',
        'OL',
        '∞',
        '1 GND',
        '100%',
        '0 ±9',
      ),
    );
    fc.assert(
      fc.property(
        fc.constantFrom(...ALL),
        fc.array(typed, { minLength: 8, maxLength: 8 }),
        (one, values) => {
          const made = reckon(
            one,
            Object.fromEntries(
              one.fields.map(({ name, example, kind }, i) => [
                name,
                kind === 'choice' && i % 2 ? example : values[i % 8]!,
              ]),
            ),
          );
          if (made.ok) {
            expect(made.lines.map(({ text }) => text).join(' ')).not.toMatch(/NaN|undefined/);
          } else expect(made.why + Object.values(made.fields).join('')).not.toBe('');
        },
      ),
      { seed: 2003, numRuns: 4000 },
    );
  });
});
