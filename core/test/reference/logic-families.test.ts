import { describe, expect, it } from 'vitest';
import { chipModel, RATES } from '@hanzai/data';
import { FAMILY_LEVELS } from '@hanzai/core/part';
import { Diagnoser } from '../../src/diagnosis';
import { board, measurement, volts } from '../boards';

// Source: the guaranteed levels of the families at their worst case, as every data sheet of the
// series prints them (JEDEC JESD8-7/-9 for the levels themselves); from memory. A typical stage has
// to do better than what is guaranteed.
const FAMILIES = [
  // family, load that sinks (A), most low volts, load that sources (A), least high volts, most
  // volts that still count as 0, least that count as 1
  ['', 16e-3, 0.4, 0.4e-3, 2.4, 0.8, 2],
  ['LS', 8e-3, 0.5, 0.4e-3, 2.7, 0.8, 2],
  ['S', 20e-3, 0.5, 1e-3, 2.7, 0.8, 2],
  ['ALS', 8e-3, 0.5, 0.4e-3, 2.5, 0.8, 2],
  ['AS', 20e-3, 0.5, 2e-3, 2.5, 0.8, 2],
  ['F', 20e-3, 0.5, 1e-3, 2.5, 0.8, 2],
  ['HC', 4e-3, 0.33, 4e-3, 3.84, 1.35, 3.15],
  ['HCT', 4e-3, 0.33, 4e-3, 3.84, 0.8, 2],
] as const;

/** Pin 3 of a quad NAND with both inputs at `volt`, and a current out of or into it. */
function nand(family: string, volt: number, ampere: number): number {
  const from = ampere > 0 ? `I1 P5 Y ${ampere}` : `I1 Y 0 ${-ampere}`;
  return volts(
    board(`V1 P5 0 5\nV2 A 0 ${volt}\nXU1 A A Y 0 0 y2 0 y3 0 0 y4 0 0 P5 74${family}00\n${from}`),
  ).Y!;
}

describe.each(FAMILIES)(
  '74%s keeps what its family guarantees',
  (family, sink, lowMost, source, highLeast, isLow, isHigh) => {
    it('a loaded low', () => expect(nand(family, 4.5, sink)).toBeLessThanOrEqual(lowMost));
    it('a loaded high', () => expect(nand(family, 0.1, -source)).toBeGreaterThanOrEqual(highLeast));
    it('thresholds', () => {
      expect(nand(family, isLow, -source)).toBeGreaterThanOrEqual(highLeast);
      expect(nand(family, isHigh, sink)).toBeLessThanOrEqual(lowMost);
    });
  },
);

it('a replacement is judged by the same guaranteed levels; HC at 5 V has 0.3 and 0.7 of it', () => {
  for (const [family, sinkAmpere, lowOut, , highOut, lowIn, highIn] of FAMILIES)
    expect([family, FAMILY_LEVELS[family]]).toMatchObject([
      family,
      family === 'HC'
        ? { sinkAmpere, lowOut, highOut, lowIn: 1.5, highIn: 3.5 }
        : { sinkAmpere, lowOut, highOut, lowIn, highIn },
    ]);
});

describe('stronger stages', () => {
  const buffer = (name: string, a: string, load: string) =>
    volts(
      board(
        `V1 P5 0 5\nV2 A 0 ${a}\nXU1 0 A w1 A w2 A w3 A w4 0 A w5 A w6 A w7 A Y 0 P5 ${name}\n${load}`,
      ),
    );
  it.each([['74LS244'], ['74LS240'], ['74LS241']])('%s: 0.5 V at 24 mA, 2 V at 15 mA', (name) => {
    const inverting = name.endsWith('0');
    // Pin 18 is the output of pin 2.
    const low = buffer(name, inverting ? '4' : '0', 'I1 P5 Y 24m').Y!;
    const high = buffer(name, inverting ? '0' : '4', 'I1 Y 0 15m').Y!;
    expect(low).toBeLessThanOrEqual(0.5);
    expect(high).toBeGreaterThanOrEqual(2);
  });
  it('26LS31: 2 V across 100 ohms', () => {
    const { Y, Z } = volts(
      board('V1 P5 0 5\nV2 A 0 4\nXU1 A Y Z P5 z3 z4 0 0 0 z5 z6 0 z7 z8 0 P5 26LS31\nR1 Y Z 100'),
    );
    expect(Y! - Z!).toBeGreaterThanOrEqual(2);
  });
  it('75452: 0.5 V at 300 mA, 0.7 at most', () => {
    const { Y } = volts(board('V1 P5 0 5\nV2 A 0 4\nXU1 A A Y 0 z1 0 0 P5 75452\nI1 P5 Y 300m'));
    expect(Y!).toBeGreaterThan(0.2);
    expect(Y!).toBeLessThanOrEqual(0.7);
  });
  it('7438: 0.4 V at 48 mA', () => {
    expect(
      volts(board('V1 P5 0 5\nV2 A 0 4\nXU1 A A Y 0 0 z1 0 z2 0 0 z3 0 0 P5 7438\nI1 P5 Y 48m')).Y!,
    ).toBeLessThanOrEqual(0.45);
  });
});

describe('4000 series', () => {
  // Source: JEDEC JESD13-B for buffered 4000B outputs: 0.51, 1.3, 3.4 mA at 0.4, 0.5, 1.5 V with 5,
  // 10, 15 V of supply, as a least; typical parts give about twice.
  it.each([
    [5, 0.4, 0.51e-3],
    [10, 0.5, 1.3e-3],
    [15, 1.5, 3.4e-3],
  ])('an output at %d V of supply sinks more than %d V allow', (supply, most, ampere) => {
    const y = (i: number): number =>
      volts(board(`V1 PS 0 ${supply}\nXU1 PS PS Y z1 0 0 0 0 0 z2 z3 0 0 PS 4011\nI1 PS Y ${i}`))
        .Y!;
    expect(y(ampere)).toBeLessThanOrEqual(most);
    expect(y(6 * ampere)).toBeGreaterThan(most / 2);
  });
  it('a 4049 sinks two TTL loads and takes inputs above its supply', () => {
    // Source: data sheet of the buffer, from memory: 3.2 mA at 0.4 V with 5 V of supply.
    const { Y, A } = volts(
      board(
        'V1 P5 0 5\nV2 IN 0 12\nR1 IN A 10k\nXU1 P5 Y A z1 0 z2 0 0 0 z3 0 z4 nc1 0 z5 nc2 4049\nI1 P5 Y 3.2m',
      ),
    );
    expect(Y!).toBeLessThanOrEqual(0.4);
    expect(A!).toBeGreaterThan(11.9);
  });
});

describe('facts of single chips', () => {
  it('hysteresis where the family has it', () => {
    const has = (name: string): boolean =>
      chipModel(name)!.pins.some(({ schmitt }) => schmitt === true);
    expect(
      ['74LS240', '74LS241', '74LS244', '74S244', '74LS245', '74LS14', '74HC14', '74132'].map(has),
    ).toEqual(Array(8).fill(true));
    expect(['74HC244', '74ALS244', '74F245', '74HCT245', '74LS04'].map(has)).toEqual(
      Array(5).fill(false),
    );
  });
  it('a driver array works without a supply: its common pin only catches what a coil gives back', () => {
    const array = (com: string) =>
      volts(
        board(
          `V1 P12 0 12\nVA A 0 5\nXU1 A 0 0 0 0 0 0 0 ${com} z7 z6 z5 z4 z3 z2 Y DARLINGTON7\nR1 P12 Y 100\nR2 COM 0 1meg`,
        ),
      );
    expect(array('COM').Y!).toBeLessThan(1.1);
    expect(array('P12').Y!).toBeLessThan(1.1);
    const kick = volts(
      board(
        'V1 P12 0 12\nVA A 0 0\nXU1 A 0 0 0 0 0 0 0 P12 z7 z6 z5 z4 z3 z2 Y DARLINGTON7\nI1 0 Y 0.2\nR1 Y P12 100k',
      ),
    ).Y!;
    expect(kick).toBeGreaterThan(12.5);
    expect(kick).toBeLessThan(14);
  });
  it('grounds of one package are one: pin 21 of the processor, four of the half bridges', () => {
    expect(chipModel('6502')!.pins.filter(({ role }) => role === 'ground')).toHaveLength(2);
    expect(chipModel('6502')!.pins[20]!.role).toBe('ground');
    expect([4, 5, 12, 13].map((pin) => chipModel('HALFBRIDGE4')!.pins[pin - 1]!.role)).toEqual(
      Array(4).fill('ground'),
    );
  });
  it('what an adapter does with its ports only its program says: no level of them is claimed', () => {
    const model = chipModel('6522')!;
    for (const name of ['PA0', 'PA7', 'PB0', 'PB7'])
      expect(model.function.find((text) => text.startsWith(`${name} =`))).toMatch(/unknown when/);
  });
  // Pins read a second time, from 1 on: published data sheets, from memory.
  it.each([
    ['555', 'GND TRIG OUT RES CTRL THR DIS VCC'],
    [
      '6532',
      'GND A5 A4 A3 A2 A1 A0 PA0 PA1 PA2 PA3 PA4 PA5 PA6 PA7 PB7 PB6 PB5 PB4 VCC PB3 PB2 PB1 PB0 IRQ D7 D6 D5 D4 D3 D2 D1 D0 RES RW RS CS2 CS1 CLK A6',
    ],
    ['4538', 'NC1 NC2 CLR1 A1 B1 Q1 QN1 GND QN2 Q2 B2 A2 CLR2 NC14 NC15 VCC'],
    ['HBRIDGE2', 'SA Y1 Y2 VS A1 EA A2 GND VCC B1 EB B2 Z1 Z2 SB'],
  ])('%s has its pins in order', (name, pins) =>
    expect(
      chipModel(name)!
        .pins.map((pin) => pin.name)
        .join(' '),
    ).toBe(pins),
  );
  it('a timer held in reset is low and discharges; one that runs is not told from its levels', () => {
    const timer = (reset: number): Record<string, number | null> =>
      volts(
        board(
          `V1 P9 0 9\nVR R 0 ${reset}\nXU1 0 T OUT R CT T DIS P9 NE555N\nR1 OUT 0 1k\nR2 P9 DIS 10k\nR3 DIS T 10k\nC1 T 0 1u\nC2 CT 0 10n`,
        ),
      );
    expect(timer(0).OUT!).toBeLessThan(0.3);
    expect(timer(0).DIS!).toBeLessThan(0.3);
    const index = board(
      'V1 P9 0 9\nXU1 0 T OUT P9 CT T DIS P9 555\nR1 OUT 0 1k\nR2 P9 DIS 10k\nR3 DIS T 10k\nC1 T 0 1u\nC2 CT 0 10n',
    );
    // Both levels of a good one leave it uncondemned.
    for (const [at, value] of [
      ['OUT', 0.1],
      ['OUT', 7.4],
      ['CT', 6],
      ['DIS', 0.1],
    ] as const) {
      const belief = new Diagnoser(index, RATES).believe([
        { measurement: measurement(index, 'voltage', at), value },
      ]);
      const before = new Diagnoser(index, RATES).believe([]);
      const share = (of: typeof belief): number =>
        of.byPart.find(({ ref }) => ref === 'U1')!.probability;
      expect(share(belief), `${at} ${value}`).toBeLessThan(share(before) + 0.25);
      expect(belief.healthy, `${at} ${value}`).toBeGreaterThan(0.5 * before.healthy);
    }
  });
  it('a precise one-shot rests, and is not told where its trigger moves', () => {
    const shot = (trigger: string): ReturnType<typeof volts> =>
      volts(
        board(
          `V1 P5 0 5\n${trigger}\nXU1 0 x1 P5 A P5 Q QN 0 z1 z2 0 0 0 z3 0 P5 4538\nR1 Q 0 100k\nR2 QN 0 100k`,
        ),
      );
    const rest = shot('R9 A 0 1');
    expect(rest.Q!).toBeLessThan(0.2);
    expect(rest.QN!).toBeGreaterThan(4.8);
  });
  it('a port that rests low does not condemn a good adapter', () => {
    const pins = Array.from(
      { length: 40 },
      (_, i) => ({ 0: '0', 1: 'PA0', 19: 'P5', 24: 'CK', 33: 'P5' })[i] ?? `n${i + 1}`,
    );
    const index = board(`V1 P5 0 5\nV2 CK 0 0\nXU1 ${pins.join(' ')} 6522\nR1 PA0 0 100k`);
    const share = (value?: number): number => {
      const readings =
        value === undefined ? [] : [{ measurement: measurement(index, 'voltage', 'PA0'), value }];
      return new Diagnoser(index, RATES).believe(readings).byPart.find(({ ref }) => ref === 'U1')!
        .probability;
    };
    for (const value of [0.05, 0.2, 0.4, 3.4])
      expect(share(value), `${value} V`).toBeLessThan(share() + 0.05);
  });
  it('a line receiver sees a difference of volts that both lie below ground', () => {
    const out = (a: number, b: number): number =>
      volts(
        board(
          `V1 P5 0 5\nV2 A 0 ${a}\nV3 B 0 ${b}\nXU1 B A Y P5 z1 0 0 0 0 0 z2 0 z3 0 0 P5 26LS32\nR1 Y 0 10k`,
        ),
      ).Y!;
    expect(out(-3, -4)).toBeGreaterThan(2.4);
    expect(out(-4, -3)).toBeLessThan(0.5);
  });
  it('metal cans have their pins elsewhere', () => {
    const at = (name: string, pins: string): number =>
      volts(board(`V1 IN 0 12\nXU1 ${pins} ${name}\nR1 OUT 0 100`)).OUT!;
    expect(at('7805', 'IN 0 OUT')).toBeCloseTo(5, 1);
    expect(at('7805K', 'IN OUT 0')).toBeCloseTo(5, 1);
    expect(at('LM7805CK', 'IN OUT 0')).toBeCloseTo(5, 1);
    expect(at('78M05CT', 'IN 0 OUT')).toBeCloseTo(5, 1);
    expect(at('78L05', 'OUT 0 IN')).toBeCloseTo(5, 1);
    const low = volts(board('V1 IN 0 -12\nXU1 0 IN OUT 79L05\nR1 OUT 0 1k')).OUT!;
    expect(low).toBeCloseTo(-5, 1);
  });
});
