import { describe, expect, it } from 'vitest';
import { diagnoseBoard, next, read, solve } from '../src/verbs';
import { deck, file } from './files';

// Every figure of the outside interface (docs/formats) that a closed form or the interface itself
// gives, asked through the verbs as another program would.

interface Shown {
  value: number | string;
  unit: string;
  low: number | string;
  high: number | string;
  display: string;
  z?: { re: number; im: number };
}

const shown = (board: string, kind: string, at: string, to = '', ...faults: string[]): Shown =>
  read([board, kind, at, ...(to ? [to] : []), ...faults.flatMap((fault) => ['--fault', fault])])
    .json as Shown;
const nets = (board: string, ...words: string[]): Record<string, number | null> =>
  (solve([board, ...words]).json as { nets: Record<string, number | null> }).nets;

describe('the standard meter', () => {
  // Thermal voltage 25.865 mV, IS 1e-14, N 1: the junction law of the interface, at 1 mA.
  const junctionVolt = 0.025865 * Math.log(1e-3 / 1e-14 + 1);

  it.each([
    [100, 400],
    [399, 400],
    [401, 4_000],
    [39_000, 40_000],
    [390_000, 400_000],
    [3_900_000, 4_000_000],
    [39_000_000, 40_000_000],
  ])('shows %d ohm on the %d ohm range: 0.8 %% and two counts of 4,000', (ohm, range) => {
    const { value, unit, low, high } = shown(
      deck(`R1 A 0 ${ohm}`, '*@ R1 tol=0.0001%'),
      'resistance',
      'A',
    );
    // A sound junction leak of a picosiemens is not there: nothing but the resistor.
    expect(value).toBeCloseTo(ohm, Math.max(0, 6 - Math.ceil(Math.log10(ohm))));
    expect(unit).toBe('ohm');
    // Rectangular limit, coverage factor 2.
    const half = (2 * (0.008 * ohm + (2 * range) / 4000)) / Math.sqrt(3);
    expect((high as number) - (low as number)).toBeGreaterThan(1.9 * half);
    expect((high as number) - (low as number)).toBeLessThan(2.1 * half);
  });
  it('shows OL beyond 40 megohms and between nets that nothing joins', () => {
    expect(shown(deck('R1 A 0 41meg'), 'resistance', 'A')).toMatchObject({
      value: 'OL',
      display: 'OL',
    });
    expect(
      shown(deck('R1 A 0 1k', 'R2 B C 1k', 'R3 C 0 1k'), 'resistance', 'A', 'B'),
    ).toMatchObject({ value: expect.closeTo(3000, 3) as number });
    expect(shown(deck('R1 A 0 1k', 'C1 B A 1u'), 'resistance', 'B').value).toBe('OL');
  });
  it('takes sources away when off', () => {
    const board = deck('V1 A 0 9', 'R1 A B 1k', 'R2 B 0 1k');
    expect(shown(board, 'resistance', 'A').value).toBeCloseTo(2000, 3);
    expect(nets(board, '--setup', 'off')).toEqual({ A: 0, B: 0, '0': 0 });
  });
  it('beeps below 30 ohms', () => {
    expect(shown(deck('R1 A 0 29.5'), 'continuity', 'A')).toMatchObject({
      value: 'beep',
      unit: '',
      low: null,
      high: null,
    });
    expect(shown(deck('R1 A 0 30.5'), 'continuity', 'A').value).toBe('open');
  });
  it('drives 1 mA through junctions, and shows OL the wrong way round and from 3 V on', () => {
    const one = deck('D1 A 0 DX', '.model DX D(IS=1e-14 N=1)');
    expect(shown(one, 'diode', 'A').value).toBeCloseTo(junctionVolt, 4);
    expect(shown(one, 'diode', '0', 'A').value).toBe('OL');
    const chain = (count: number): string =>
      deck(
        ...Array.from(
          { length: count },
          (_, i) => `D${i + 1} N${i} ${i + 1 === count ? '0' : `N${i + 1}`} DX`,
        ),
        '.model DX D(IS=1e-14 N=1)',
      );
    expect(shown(chain(4), 'diode', 'N0').value).toBeCloseTo(4 * junctionVolt, 3);
    expect(shown(chain(5), 'diode', 'N0').value).toBe('OL');
  });
  it('loads with 10 megohms, solve does not', () => {
    const board = deck('V1 A 0 9', 'R1 A B 1meg', 'C1 B 0 1u');
    expect(nets(board).B).toBeCloseTo(9, 4);
    expect(shown(board, 'voltage', 'B').value).toBeCloseTo((9 * 10) / 11, 5);
    expect(shown(board, 'voltage', 'B').display).toBe('8.18 V');
  });
  it('shows amperes through a part from its first pin to its second', () => {
    const board = deck(
      'V1 A 0 10',
      'R1 A B 1k',
      'R2 B 0 1k',
      'D1 B 0 DX',
      '.model DX D(IS=1e-14 N=1)',
    );
    const volt = nets(board).B!;
    expect(shown(board, 'current', 'R1')).toMatchObject({
      value: expect.closeTo((10 - volt) / 1000, 8) as number,
      unit: 'A',
    });
    expect(shown(board, 'current', 'D1').value).toBeCloseTo((10 - volt) / 1000 - volt / 1000, 8);
  });
  it.each([
    [0.79, '0'],
    [0.81, 'Z'],
    [1.99, 'Z'],
    [2.01, '1'],
  ])('probes %d V as %s', (volt, level) => {
    expect(shown(deck(`V1 A 0 ${volt}`, 'R1 A B 1', 'R2 B 0 1meg'), 'logic', 'A').value).toBe(
      level,
    );
  });
  it('shows ESR as the real part at 100 kHz, in counts of 0.01 ohm, with all that lies in parallel', () => {
    const alone = shown(deck('C1 A 0 1u', '*@ C1 esr=1'), 'esr', 'C1.1', 'C1.2');
    expect(alone.z!.re).toBeCloseTo(1, 6);
    expect(alone.z!.im).toBeCloseTo(-1 / (2 * Math.PI * 1e5 * 1e-6), 4);
    expect(alone.display).toBe('1.00 Ω');
    // Twice the same: half of each part.
    const both = shown(
      deck('C1 A 0 1u', '*@ C1 esr=1', 'C2 A 0 1u', '*@ C2 esr=1'),
      'esr',
      'C1.1',
      'C1.2',
    );
    expect(both.z!.re).toBeCloseTo(0.5, 6);
    expect(both.z!.im).toBeCloseTo(alone.z!.im / 2, 4);
  });
});

describe('faults by name, at the severity that stands for each', () => {
  const parts = deck(
    'R1 A 0 1k',
    'L1 A B 10u',
    '*@ L1 dcr=2',
    'R2 B 0 1k',
    'C1 A 0 10u',
    '*@ C1 esr=0.1 kind=electrolytic',
    'V1 S 0 5',
    'XF1 S T FUSE',
    'R3 T 0 1k',
  );
  const both = (one: number, other: number): number => 1 / (1 / one + 1 / other);

  it.each([
    ['R1:open', both(1e8 + 1000, 1002)],
    ['R1:short', both(both(0.3, 1000), 1002)],
    ['R1:drift-high', both(1000 * 3.5, 1002)],
    ['R1:drift-low', both(1000 * 0.35, 1002)],
    ['C1:leaky', both(both(1000, 1002), 300)],
    ['C1:short', both(both(1000, 1002), 0.3)],
    ['L1:open', both(1000, 1e8)],
    ['R1.2:dry', both(1e8 + 1000, 1002)],
    ['A~B:bridge', both(1000, 1000 + both(0.3, 2))],
    ['b~a:bridge', both(1000, 1000 + both(0.3, 2))],
  ])('%s', (fault, ohm) => {
    expect((shown(parts, 'resistance', 'A', '', fault).value as number) / ohm).toBeCloseTo(1, 4);
  });
  it('high-esr and low-capacitance show at 100 kHz', () => {
    const esr = (fault: string): { re: number; im: number } =>
      shown(deck('C1 A 0 10u', '*@ C1 esr=0.1 kind=electrolytic'), 'esr', 'A', '', fault).z!;
    expect(esr('C1:high-esr').re).toBeCloseTo(0.1 * 70, 4);
    expect(esr('C1:low-capacitance').im).toBeCloseTo(-1 / (2 * Math.PI * 1e5 * 1e-5 * 0.12), 3);
  });
  it('a fuse is 0.05 ohm, open 100 megohms', () => {
    expect(nets(parts).T).toBeCloseTo((5 * 1000) / 1000.05, 6);
    expect(nets(parts, '--fault', 'F1:open').T).toBeCloseTo((5 * 1000) / (1e8 + 1000), 6);
  });
  it('elements of an array are replaced together', () => {
    const board = deck('V1 A 0 5', 'RRN2.1 A B 1k', 'RRN2.2 A C 1k', 'R1 B 0 1k', 'R2 C 0 1k');
    const array = deck('V1 A 0 5', 'RN2.1 A B 1k', 'RN2.2 A C 1k', 'R1 B 0 1k', 'R2 C 0 1k');
    expect(nets(board).B).toBeCloseTo(2.5, 6);
    expect(shown(array, 'voltage', 'RN2.1.2', '', 'RN2.1:open').value).toBeLessThan(0.01);
    const readings = file('csv', 'setup,kind,at,to,value,unit\non,voltage,RN2.1.2,,0.0,V\n');
    const { byPart } = diagnoseBoard([array, '--readings', readings]).json as {
      byPart: { ref: string; probability: number }[];
    };
    expect(byPart.map(({ ref }) => ref).filter((ref) => ref.includes('.'))).toEqual([]);
    expect(byPart[0]!.ref).toBe('RN2');
  });
  it('two at once are both there', () => {
    expect(nets(parts, '--fault', 'R3:open', '--fault', 'F1:open').T).toBeCloseTo(
      (5 * (1e8 + 1000)) / (2e8 + 1000.05),
      3,
    );
  });
  it('says what it expected instead', () => {
    expect(() => nets(parts, '--fault', 'R1:leaky')).toThrow(/expected one of/);
    expect(() => nets(parts, '--fault', 'R9:open')).toThrow(/R9/);
    expect(() => nets(parts, '--fault', 'A~Q:bridge')).toThrow(/Q/);
  });
});

describe('chips', () => {
  // One gate of four; what is not connected has nets used nowhere else.
  const gates = (name: string, one: number, other: number, load = ''): string =>
    deck(
      'V5 VCC 0 5',
      `VA A 0 ${one}`,
      `VB B 0 ${other}`,
      `XU7 A B Y nc_4 nc_5 nc_6 0 nc_8 nc_9 nc_10 nc_11 nc_12 nc_13 VCC ${name}`,
      load,
    );

  it.each([
    ['74LS86', '01', '1'],
    ['74LS86', '11', '0'],
    ['7400', '11', '0'],
    ['74HC08', '11', '1'],
    ['74LS32', '00', '0'],
    ['74HCT132N', '10', '1'],
  ])('%s makes of %s a %s', (name, inputs, output) => {
    const [one, other] = [...inputs].map((level) => (level === '1' ? 5 : 0)) as [number, number];
    expect(shown(gates(name, one, other), 'logic', 'Y').value).toBe(output);
  });
  it('an open TTL input floats at about 1.4 V, probes as neither and counts as 1', () => {
    const board = deck(
      'V5 VCC 0 5',
      'VA A 0 5',
      'XU7 A F Y nc_4 nc_5 nc_6 0 nc_8 nc_9 nc_10 nc_11 nc_12 nc_13 VCC 74LS00',
    );
    expect(nets(board).F).toBeCloseTo(1.4, 1);
    expect(shown(board, 'logic', 'F').value).toBe('Z');
    expect(shown(board, 'logic', 'Y').value).toBe('0');
    expect(nets(gates('74HC00', 0, 0)).nc_4).toBeNull();
  });
  it('an open-collector output pulls low or not at all', () => {
    expect(shown(gates('7403', 5, 5, 'R1 VCC Y 2.2k'), 'logic', 'Y').value).toBe('0');
    expect(nets(gates('7403', 5, 0, 'R1 VCC Y 2.2k')).Y).toBeGreaterThan(4.5);
    expect(nets(gates('7403', 5, 0)).Y).toBeNull();
    // Stuck at 1 it never pulls low.
    expect(nets(gates('7403', 5, 5, 'R1 VCC Y 2.2k'), '--fault', 'U7.3:stuck-1').Y).toBeGreaterThan(
      4.5,
    );
  });
  it('a stuck input leaves its net alone, one shorted inside pulls it', () => {
    const board = deck(
      'V5 VCC 0 5',
      'VA S 0 5',
      'R1 S A 1k',
      'VB B 0 5',
      'XU7 A B Y nc_4 nc_5 nc_6 0 nc_8 nc_9 nc_10 nc_11 nc_12 nc_13 VCC 74LS00',
    );
    expect(shown(board, 'logic', 'Y').value).toBe('0');
    expect(shown(board, 'logic', 'Y', '', 'U7.1:stuck-0').value).toBe('1');
    expect(nets(board, '--fault', 'U7.1:stuck-0').A).toBeGreaterThan(4);
    expect(nets(board, '--fault', 'U7.1:short-0').A).toBeLessThan(0.1);
    for (const fault of ['U7:dead', 'U7:no-supply'])
      expect(nets(board, '--fault', fault).Y).toBeNull();
  });
  it('names outputs that fight, the low one prevailing', () => {
    const board = deck(
      'V5 VCC 0 5',
      'VA A 0 5',
      'XU1 A Y nc_13 nc_14 nc_15 nc_16 0 nc_18 nc_19 nc_1a nc_1b nc_1c nc_1d VCC 74LS04',
      'XU2 0 Y nc_23 nc_24 nc_25 nc_26 0 nc_28 nc_29 nc_2a nc_2b nc_2c nc_2d VCC 74LS04',
    );
    const { contentions, nets: volts } = solve([board]).json as {
      contentions: { net: string; low: string[]; high: string[] }[];
      nets: Record<string, number>;
    };
    expect(contentions).toEqual([{ net: 'Y', low: ['U1.2'], high: ['U2.2'] }]);
    expect(volts.Y).toBeLessThan(1);
  });
  it('a flip-flop keeps its state from step to step', () => {
    const board = deck(
      'V5 VCC 0 5',
      'VD D 0 0',
      'VC CK 0 0',
      'XU1 VCC D CK VCC Q QN 0 nc_8 nc_9 nc_10 nc_11 nc_12 nc_13 VCC 74LS74',
    );
    const steps = file('csv', 'step,net,volts\n1,D,5\n2,CK,5\n3,CK,0\n3,D,0\n4,CK,5\n');
    const result = solve([board, '--steps', steps]).json as {
      steps: { step: number; nets: Record<string, number> }[];
    };
    expect(result.steps.map(({ step }) => step)).toEqual([1, 2, 3, 4]);
    expect(result.steps.slice(1).map(({ nets: volts }) => (volts.Q! > 2 ? 1 : 0))).toEqual([
      1, 1, 0,
    ]);
    expect(result.steps.slice(1).map(({ nets: volts }) => (volts.QN! > 2 ? 1 : 0))).toEqual([
      0, 0, 1,
    ]);
  });
  it('supplies sit where the package has them', () => {
    // 7473: supply 4, ground 11; J 14, K 3, clock 1, clear 2, outputs 12 and 13.
    const board = deck(
      'V5 VCC 0 5',
      'XU1 0 0 VCC VCC nc_5 nc_6 nc_7 nc_8 nc_9 nc_10 0 Q QN VCC 7473',
    );
    expect(nets(board).Q).toBeLessThan(0.5);
    expect(nets(board).QN).toBeGreaterThan(2.4);
  });
});

describe('what the readings say', () => {
  const board = deck(
    'V1 VIN 0 12',
    'XF1 VIN A FUSE',
    'R1 A B 100',
    'R2 B 0 100',
    'C1 B 0 100u',
    '*@ C1 esr=0.2 kind=electrolytic',
  );
  const rows = (...lines: string[]): string =>
    file('csv', ['setup,kind,at,to,value,unit', ...lines, ''].join('\n'));
  interface Belief {
    suspects: { faults: string[]; probability: number }[];
    byPart: { ref: string; probability: number }[];
    healthy: number;
    unmodelled: number;
  }
  const believe = (...lines: string[]): Belief =>
    diagnoseBoard([board, '--readings', rows(...lines)]).json as Belief;

  it('sums to one, lists every part that can fail and never the sound board among the suspects', () => {
    const { suspects, byPart, healthy, unmodelled } = believe('on,voltage,B,,3.1,V');
    expect(
      suspects.reduce((sum, { probability }) => sum + probability, healthy + unmodelled),
    ).toBeCloseTo(1, 9);
    expect(byPart.map(({ ref }) => ref).sort()).toEqual(['C1', 'F1', 'R1', 'R2']);
    expect(
      suspects.every(
        ({ faults }) => faults.length > 0 && faults.every((fault) => fault.includes(':')),
      ),
    ).toBe(true);
    for (let i = 1; i < suspects.length; i += 1)
      expect(suspects[i]!.probability).toBeLessThanOrEqual(suspects[i - 1]!.probability);
  });
  it('is the sound board where all reads as it should, but for what no such reading shows', () => {
    const { healthy, suspects } = believe(
      'on,voltage,A,,12.0,V',
      'on,voltage,B,,6.0,V',
      'off,esr,C1.1,C1.2,0.2,ohm',
      'off,continuity,F1.1,F1.2,beep',
    );
    // A lost farad or a leak of some hundred kilohms moves none of these, and they are the
    // likeliest things to happen to an electrolytic.
    const unseen = suspects
      .filter(({ faults }) => ['C1:low-capacitance', 'C1:leaky'].includes(faults[0]!))
      .reduce((sum, { probability }) => sum + probability, 0);
    expect(healthy / (1 - unseen)).toBeGreaterThan(0.75);
    expect(healthy).toBeGreaterThan(suspects[0]!.probability);
    expect(
      suspects.filter(
        ({ faults, probability }) => !faults[0]!.startsWith('C1') && probability > 0.001,
      ),
    ).toEqual([]);
  });
  it('finds what an ESR, a resistance and a voltage each show, with or without the last field', () => {
    expect(believe('off,esr,C1.1,C1.2,9.5,ohm').suspects[0]!.faults).toEqual(['C1:high-esr']);
    expect(
      believe('on,voltage,A,,0.0,V', 'off,continuity,F1.1,F1.2,open').suspects[0]!.faults,
    ).toEqual(['F1:open']);
    expect(believe('on,voltage,B,,0.03,V', 'off,resistance,B,,0.3,ohm').byPart[0]!.ref).toBe('C1');
  });
  it('is none of these where a reading comes from another circuit', () => {
    const { unmodelled, byPart } = believe(
      'on,voltage,A,,4.4,V',
      'on,voltage,B,,9.7,V',
      'off,resistance,B,,7300,ohm',
    );
    expect(unmodelled).toBeGreaterThan(Math.max(...byPart.map(({ probability }) => probability)));
  });
  it('proposes readings not taken yet, best first, as many as asked for, and only of the kinds allowed', () => {
    const ask = (
      ...words: string[]
    ): {
      state: string;
      measurements: {
        setup: string;
        kind: string;
        at: string;
        gainBits: number;
        minutes: number;
      }[];
    } => next([board, '--readings', rows('on,voltage,B,,0.0,V'), ...words]).json as never;
    const all = ask('--top', '1000').measurements;
    expect(all.length).toBeGreaterThan(ask('--top', '3').measurements.length);
    expect(ask('--top', '3').measurements).toEqual(all.slice(0, 3));
    expect(all.some(({ kind, at }) => kind === 'voltage' && at === 'B')).toBe(false);
    expect(all.every(({ gainBits, minutes }) => gainBits > 0 && minutes > 0)).toBe(true);
    const volts = ask('--top', '1000', '--allow', 'voltage,continuity').measurements;
    expect(new Set(volts.map(({ kind }) => kind))).toEqual(new Set(['voltage', 'continuity']));
  });
  it('names the line of a reading that it cannot take', () => {
    const wrong = (line: string): string => {
      try {
        believe('on,voltage,B,,6.0,V', line);
        return 'taken';
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(wrong('on,voltage,NOWHERE,,6.0,V')).toMatch(/line 3.*NOWHERE/s);
    expect(wrong('on,weight,B,,6.0,V')).toMatch(/line 3.*weight/s);
    expect(wrong('on,voltage,B,,six,V')).toMatch(/line 3.*six/s);
    expect(wrong('off,continuity,B,,maybe')).toMatch(/line 3.*maybe/s);
  });
});
