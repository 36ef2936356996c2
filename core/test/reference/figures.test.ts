import { describe, expect, it } from 'vitest';
import { comparePeers } from '@hanzai/core/diagnosis';
import { fuseOhm, typicalEsrOhm } from '@hanzai/core/device';
import { parseFuse } from '@hanzai/core/board';
import { readSpec } from '@hanzai/core/part';
import { DISK_GEOMETRIES, RATES } from '@hanzai/data';
import { forecast } from '@hanzai/core/block';
import { board, respond } from '../boards';

// Every figure of the trade that the engine leans on, held to where it comes from. "Common
// practice" stands for "common practice, no published source".

describe('healthy ESR by size', () => {
  // Source: order of size at 100 kHz of general-purpose electrolytics, data sheets of several
  // makes, from memory.
  it.each([
    ['1u', 1e-6, 5],
    ['4.7u', 4.7e-6, 2.5],
    ['10u', 10e-6, 1.5],
    ['22u', 22e-6, 0.9],
    ['47u', 47e-6, 0.5],
    ['100u', 100e-6, 0.3],
    ['220u', 220e-6, 0.15],
    ['470u', 470e-6, 0.09],
    ['1000u', 1e-3, 0.05],
    ['2200u', 2.2e-3, 0.03],
  ] as const)('%s', (text, capacitanceFarad, ohm) => {
    expect(
      typicalEsrOhm({ capacitanceFarad, dielectric: 'electrolytic', ratedVolt: 25 }),
    ).toBeCloseTo(ohm, 9);
    expect(
      respond(board(`C1 A 0 ${text}\n*@ C1 kind=electrolytic volt=25`), 'esr', 'A').value / ohm,
    ).toBeCloseTo(1, 1);
  });
  it('falls with value and volts, beyond the ends of the table too, and is lower in tantalum', () => {
    let last = Infinity;
    for (let farad = 1e-7; farad < 0.05; farad *= 1.3) {
      const ohm = typicalEsrOhm({ capacitanceFarad: farad, dielectric: 'electrolytic' });
      expect(ohm).toBeLessThan(last);
      expect(ohm).toBeGreaterThan(0);
      last = ohm;
    }
    const of = (dielectric: 'electrolytic' | 'tantalum' | 'bipolar', ratedVolt: number): number =>
      typicalEsrOhm({ capacitanceFarad: 10e-6, dielectric, ratedVolt });
    expect(of('tantalum', 16)).toBeLessThan(of('electrolytic', 16));
    expect(of('bipolar', 16)).toBeGreaterThan(of('electrolytic', 16));
    expect(of('electrolytic', 63)).toBeLessThan(of('electrolytic', 10));
    expect(of('electrolytic', 1000) / of('electrolytic', 25)).toBeGreaterThan(0.5);
  });
  it('is wide where nothing is stated: a good 1 uF is not condemned, and neither is a 1000 uF that reads like the table', () => {
    const band = (text: string, ohm: number): number => {
      const { value, spread } = respond(
        board(`C1 A 0 ${text}\n*@ C1 kind=electrolytic`),
        'esr',
        'A',
      );
      return Math.abs(ohm - value) / spread;
    };
    expect(band('1u', 3)).toBeLessThan(1);
    expect(band('1000u', 0.05)).toBeLessThan(1);
    expect(
      respond(board('C1 A 0 47u\n*@ C1 kind=electrolytic esr=0.5'), 'esr', 'A').spread,
    ).toBeLessThan(0.2);
  });
});

describe('fuses', () => {
  // Source: cold ohms of 5 x 20 mm fuses between 0.1 and 10 ohm, rising as the rating falls; data
  // sheets, from memory. Unmarked: the core's outside interface.
  it('have ohms by their rating', () => {
    expect(fuseOhm(undefined)).toBe(0.05);
    expect(fuseOhm('T1A')).toBe(0.05);
    expect(fuseOhm('T500mA')).toBeCloseTo(0.2, 9);
    expect(fuseOhm('T315mA 250V')).toBeGreaterThan(0.3);
    expect(fuseOhm('T32mA')).toBe(10);
    expect(fuseOhm('nonsense')).toBe(0.05);
    expect(
      respond(board('XF1 A B FUSE\n*@ F1 rating=T100mA'), 'resistance', 'A', 'B').value,
    ).toBeCloseTo(5, 2);
  });
  // Source: IEC 60127-1, markings.
  it.each([
    ['T315mAL 250V', { ampere: 0.315, speed: 'T', volt: 250, breaking: 'L' }],
    ['F1.6A H 250V', { ampere: 1.6, speed: 'F', volt: 250, breaking: 'H' }],
    ['FF500mA', { ampere: 0.5, speed: 'FF', volt: undefined }],
    ['TT2A 125 V', { ampere: 2, speed: 'TT', volt: 125 }],
    ['800 mA slow', { ampere: 0.8, speed: 'T' }],
    ['quick 3,15A/250V', { ampere: 3.15, speed: 'F', volt: 250 }],
    ['5x20', { ampere: undefined, speed: undefined }],
  ] as const)('%s', (text, wanted) => expect(parseFuse(text)).toMatchObject(wanted));
});

describe('what is written for a part', () => {
  it.each([
    [
      '470u 25V electrolytic 105C',
      { farad: 470e-6, volt: 25, dielectric: 'electrolytic', celsius: 105 },
    ],
    ['4k7 0.5W 1%', { ohm: 4700, watt: 0.5, tolerance: 0.01 }],
    ['10R 1/4W fusible', { ohm: 10, watt: 0.25, fusible: true }],
    ['100n X2 275VAC', { farad: 1e-7, volt: 275, safety: ['X2'] }],
    ['22u 16V tant, 0.8R esr', { farad: 22e-6, volt: 16, dielectric: 'tantalum', esrOhm: 0.8 }],
    ['1u 50 V bipolar', { farad: 1e-6, volt: 50, dielectric: 'bipolar' }],
    ['esr 120m 100u', { farad: 1e-4, esrOhm: 0.12 }],
  ] as const)('%s', (text, wanted) => expect(readSpec(text)).toMatchObject(wanted));
  it('words alone say nothing', () =>
    expect(readSpec('from the donor')).toEqual({
      kind: 'unknown',
      text: 'from the donor',
      size: {},
    }));
});

describe('failure weights', () => {
  const sum = (name: string): number =>
    Object.values(RATES.rates[name]!).reduce((a, b) => a + b, 0);
  // Source: common practice: on boards of that age some fifty electrolytics fail for one resistor.
  it('a resistor is to an electrolytic as one to fifty', () => {
    expect(sum('capacitor electrolytic') / sum('resistor')).toBeGreaterThan(35);
    expect(sum('capacitor electrolytic') / sum('resistor')).toBeLessThan(65);
  });
  it('memory and adapters, drivers at the connector, paper, regulators, chokes and their joints weigh more than their kind', () => {
    expect(RATES.rates['chip nmos']!.dead! / RATES.rates.chip!.dead!).toBeGreaterThan(3);
    expect(
      RATES.rates['chip connector-side']!['stuck-0']! / RATES.rates.chip!['stuck-0']!,
    ).toBeGreaterThan(3);
    expect(sum('capacitor paper')).toBeGreaterThan(4 * sum('capacitor film'));
    expect(sum('regulator')).toBeGreaterThan(sum('diode'));
    expect(RATES.rates.connectorPin!.dry!).toBeGreaterThan(3 * RATES.dryJoint);
    expect(RATES.rates.opto!.weak).toBeGreaterThan(0);
  });
});

describe('amplifiers that drive', () => {
  it('have half an ohm to one at their output', () => {
    // A power amplifier as a follower, 0.5 A out of it: it gives way by no more than a volt within
    // its headroom.
    const { value } = respond(
      board('V1 VP 0 9\nV2 IN 0 4\nXU1 OUT OUT IN 0 0 o2 o2 VP POWERAMP2\nR1 OUT 0 8'),
      'voltage',
      'OUT',
    );
    expect(value).toBeCloseTo(4, 1);
  });
});

describe('disks', () => {
  const disk = (name: string) => DISK_GEOMETRIES.find((one) => one.name === name)!;
  // Source: coercivities of ISO 8860, ISO/IEC 9529 (650 and 720 Oe, close to each other) and of
  // 5.25 inch media (300 and 650 Oe, far apart); from memory.
  it('a coating that asks for another field reads and does not write for long', () => {
    const { mismatches, operations } = forecast(
      { ...disk('5.25 inch high density'), sectorsPerTrack: 9, bitsPerSecond: 300_000 },
      { ...disk('5.25 inch, 80 tracks') },
    );
    expect(mismatches.map(({ quantity }) => quantity)).toContain('coating');
    expect(operations.find(({ name }) => name === 'format')!.works).toBe('no');
    expect(operations.find(({ name }) => name === 'read any sector')!.works).toBe('yes');
    expect(
      forecast(disk('3.5 inch double density'), disk('3.5 inch high density')).mismatches.map(
        ({ quantity }) => quantity,
      ),
    ).not.toContain('coating');
  });
  it('where the directory lies is a matter of the format', () => {
    const forty = { ...disk('5.25 inch, 80 tracks'), tracksPerSide: 20 };
    const medium = disk('5.25 inch, 80 tracks');
    const directory = (directoryAt: number | undefined) =>
      forecast(forty, { ...medium, directoryAt }).operations.find(
        ({ name }) => name === 'list the directory',
      )!;
    expect(directory(0)).toMatchObject({
      works: 'yes',
      because: expect.stringContaining('outermost'),
    });
    expect(directory(0.5)).toMatchObject({
      works: 'no',
      because: expect.stringContaining('never stepped to'),
    });
    expect(directory(undefined).because).toMatch(/differs between formats/);
  });
});

describe('brothers', () => {
  // Source: common practice: two like capacitors at 0.03 and 0.04 ohm against 1.03 condemn the
  // third; six small ones of which two are out likewise.
  it('condemn the one that is out of line', () => {
    expect(comparePeers([0.03, 0.04, 1.03]).map(({ decisive }) => decisive)).toEqual([
      false,
      false,
      true,
    ]);
    expect(
      comparePeers([0.06, 0.06, 0.07, 10, 0.09, 10]).map(({ verdict }) => verdict === 'higher'),
    ).toEqual([false, false, false, true, false, true]);
  });
});
