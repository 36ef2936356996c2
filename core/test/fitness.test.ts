import { describe, expect, it } from 'vitest';
import {
  judgeFit,
  markingOf,
  readSpec,
  valueKept,
  verdictOf,
  type FitnessRemark,
  type Place,
  type RemarkCode,
} from '@hanzai/core/part';
import {
  ledgerObjectionWithoutSheet,
  remarksWithoutSheet,
  replacementRemarks,
} from '@hanzai/core/bench';
import { LIBRARY } from '@hanzai/data';
import { board } from './boards';

function remarks(was: string, offer: string, place: Partial<Place> = {}): readonly FitnessRemark[] {
  const before = readSpec(was, LIBRARY);
  return judgeFit(before, readSpec(offer, LIBRARY, before.kind), { onMains: false, ...place });
}
const verdict = (was: string, offer: string, place: Partial<Place> = {}): string =>
  verdictOf(remarks(was, offer, place));

type Trap = readonly [
  was: string,
  offer: string,
  verdict: 'fits' | 'conditions' | 'no',
  code: RemarkCode,
  place?: Partial<Place>,
];

/** Every trap names the remark that has to speak; a verdict that is right for another reason fails. */
function holds(traps: readonly Trap[]): void {
  for (const [was, offer, wanted, code, place] of traps)
    it(`${was} by ${offer}: ${wanted} (${code})`, () => {
      const said = remarks(was, offer, place);
      expect([verdictOf(said), said]).toEqual([wanted, expect.anything()]);
      const level = wanted === 'no' ? 'stop' : wanted === 'fits' ? 'ok' : 'warn';
      expect(said.filter((one) => one.level === level).map((one) => one.code)).toContain(code);
    });
}

// Common practice, no published source, where none is named: traps of the trade as repairers know
// them.
describe('capacitors', () => {
  const CAN = '10u 16V electrolytic 105C esr=0.3 h=11 d=6.3 pitch=2.5';
  holds([
    [CAN, CAN, 'fits', 'value'],
    [CAN, '10u 25V electrolytic 105C esr=0.25 h=11 d=5 pitch=2.5', 'fits', 'volts'],
    [CAN, '10u 10V electrolytic 105C esr=0.3 h=11 d=6.3 pitch=2.5', 'no', 'volts'],
    [CAN, '22u 16V electrolytic 105C esr=0.3 h=11 d=6.3 pitch=2.5', 'no', 'value'],
    [CAN, '10u 16V electrolytic 85C esr=0.3 h=11 d=6.3 pitch=2.5', 'no', 'temperature'],
    [CAN, '10u 16V electrolytic 105C esr=2 h=11 d=6.3 pitch=2.5', 'no', 'esr'],
    [CAN, '10u 16V electrolytic 105C esr=0.3 h=16 d=6.3 pitch=2.5', 'no', 'size'],
    [CAN, '10u 16V electrolytic 105C esr=0.3 h=11 d=8 pitch=2.5', 'no', 'size'],
    [CAN, '10u 16V electrolytic 105C esr=0.3 h=11 d=6.3 pitch=5', 'conditions', 'pitch'],
    [CAN, '10u 16V electrolytic 105C esr=0.3 h=11 d=6.3 pitch=7.5', 'no', 'pitch'],
    [CAN, '10u 16V', 'conditions', 'kind'],
    [CAN, '10u', 'conditions', 'volts'],
    // 10 µF 16 V on 5 V is 31 %, on 12 V 75 %.
    [
      '10u 16V electrolytic',
      '10u 16V tantalum',
      'conditions',
      'tantalum-derating',
      { workingVolt: 5 },
    ],
    ['10u 16V electrolytic', '10u 16V tantalum', 'no', 'tantalum-derating', { workingVolt: 12 }],
    ['10u 16V tantalum', '10u 16V tantalum', 'no', 'tantalum-derating', { workingVolt: 12 }],
    ['10u 16V', '10u 16V tantalum', 'no', 'tantalum-derating', { workingVolt: 12 }],
    ['10u 16V electrolytic', '10u 16V tantalum', 'conditions', 'tantalum-derating'],
    // It bursts: no reason overrules that.
    ['10u 35V electrolytic', '10u 16V electrolytic', 'no', 'volts', { workingVolt: 24 }],
    ['10u 16V bipolar', '10u 16V electrolytic', 'no', 'kind'],
    ['10u 16V bipolar', '10u 16V tantalum', 'no', 'kind'],
    ['10u 16V bipolar', '10u 16V ceramic X7R', 'no', 'varactor'],
    ['10u 16V bipolar', '10u 50V film', 'conditions', 'kind'],
    ['10u 16V bipolar', '22u 16V electrolytic back to back', 'conditions', 'size'],
    ['10u 16V bipolar', '10u 16V electrolytic back to back', 'no', 'value'],
    ['1u 50V film', '1u 50V electrolytic', 'no', 'kind'],
    ['100n 50V film', '100n 50V ceramic X7R', 'no', 'varactor', { role: 'timing' }],
    ['100n 50V film', '100n 50V ceramic X7R', 'no', 'varactor', { role: 'servo' }],
    ['100n 50V film', '100n 50V ceramic X7R', 'no', 'varactor', { role: 'coupling' }],
    ['1n 50V film', '1n 50V ceramic C0G', 'conditions', 'kind', { role: 'timing' }],
    ['100p 50V ceramic C0G', '100p 50V ceramic X7R', 'no', 'kind'],
    [
      '10u 16V electrolytic',
      '10u 16V ceramic X7R',
      'conditions',
      'ceramic-bias',
      { workingVolt: 5 },
    ],
    ['10u 16V electrolytic', '10u 16V ceramic X5R', 'no', 'ceramic-bias', { workingVolt: 14 }],
    ['10u 16V tantalum', '10u 16V electrolytic', 'no', 'leakage', { role: 'timing' }],
    ['100u 16V electrolytic', '150u 16V electrolytic', 'conditions', 'esr', { role: 'filter' }],
    ['100u 16V electrolytic', '470u 16V electrolytic', 'no', 'value', { role: 'filter' }],
    ['10u 16V electrolytic', '22u 16V electrolytic', 'conditions', 'esr', { role: 'decoupling' }],
    ['10u 16V electrolytic', '12u 16V electrolytic', 'conditions', 'value', { role: 'servo' }],
    ['10u 16V electrolytic', '15u 16V electrolytic', 'no', 'value', { role: 'timing' }],
    ['470u 16V 2000h 105C electrolytic', '470u 16V 1000h 105C electrolytic', 'conditions', 'life'],
    ['470u 16V electrolytic ripple=0.8', '470u 16V electrolytic ripple=0.4', 'no', 'ripple'],
  ]);

  // Source: IEC 60062, code of two figures and the number of noughts.
  it.each([
    ['104 50V ceramic X7R', 100e-9],
    ['473 film', 47e-9],
    ['222 ceramic', 2.2e-9],
    ['100 ceramic', 10e-12],
    ['4u7 35V', 4.7e-6],
    ['100nF 104', 100e-9],
  ])('%s', (text, farad) =>
    expect(readSpec(text, LIBRARY, 'capacitor')).toMatchObject({ kind: 'capacitor', farad }),
  );
  it('a number alone that is no code is no value', () => {
    for (const text of ['47 16V electrolytic', '1000 25V electrolytic', '018 film'])
      expect(readSpec(text, LIBRARY, 'capacitor')).not.toHaveProperty('farad');
  });

  // Source: IEC 60384-14.
  holds([
    ['100n 275VAC X2', '100n 275VAC X2', 'fits', 'safety-class'],
    ['100n 275VAC X2', '100n 275VAC X1', 'fits', 'safety-class'],
    ['100n 275VAC X2', '100n 630V film', 'no', 'safety-class'],
    ['100n 275VAC X2', '100n 275VAC X3', 'no', 'safety-class'],
    ['2n2 250VAC Y2', '2n2 250VAC X1', 'no', 'safety-class'],
    ['2n2 250VAC Y2', '2n2 250VAC Y1', 'fits', 'safety-class'],
    ['2n2 250VAC Y2', '10n 250VAC Y2', 'no', 'value'],
    ['100n 400V film', '100n 400V film', 'no', 'safety-class', { role: 'safety' }],
    ['100n 400V film', '100n 400V film', 'no', 'safety-class', { onMains: true }],
    ['100n 400V film', '4k7 0.5W', 'no', 'another-kind', { onMains: true }],
    ['100n 275VAC X2', 'wire link', 'no', 'another-kind'],
    ['100n 275VAC X2', 'something from the drawer', 'no', 'safety-class'],
  ]);

  it('whatever is offered on the mains that is no such capacitor is dangerous: no reason overrules it', () => {
    for (const offer of [
      '100n 400V film',
      '4k7 0.5W',
      '10uH',
      'wire',
      '74LS86',
      'from the drawer',
      '',
    ]) {
      const said = remarks('100n 400V film', offer, { onMains: true });
      expect([offer, said.some(({ dangerous }) => dangerous === true)]).toEqual([offer, true]);
    }
  });

  it('a ceramic keeps 85 % at 3.5 V of 16 V, and loses the more the nearer to its rating', () => {
    expect(valueKept(3.5 / 16)).toBeCloseTo(0.85, 2);
    for (let share = 0; share < 1; share += 0.1)
      expect(valueKept(share + 0.1)).toBeLessThan(valueKept(share));
    expect(valueKept(1)).toBeLessThan(0.3);
  });
});

// Source: IEC 60127-1 and -2 for letters and breaking capacity.
describe('fuses', () => {
  holds([
    ['T1A 250V breaking=35A', 'T1A 250V breaking=35A', 'fits', 'fuse-current'],
    ['T1A 250V breaking=35A', 'T1AH 250V', 'fits', 'fuse-breaking'],
    ['T1AH 250V', 'T1AL 250V', 'no', 'fuse-breaking'],
    ['T1A 250V breaking=1500A', 'T1A 250V breaking=35A', 'no', 'fuse-breaking'],
    ['T1A 250V breaking=35A', 'T2A 250V breaking=35A', 'no', 'fuse-current'],
    ['T1A 250V breaking=35A', 'F1A 250V breaking=35A', 'conditions', 'fuse-speed'],
    ['F1A 250V breaking=35A', 'T1A 250V breaking=35A', 'no', 'fuse-speed'],
    ['T1A 250V breaking=35A', 'T1A 125V breaking=35A', 'no', 'fuse-volts'],
    ['T1A breaking=35A', 'T1A 32V breaking=35A', 'no', 'fuse-volts', { workingVolt: 48 }],
    ['T1A 250V breaking=35A', 'T630mA 250V breaking=35A', 'conditions', 'fuse-current'],
    ['T1A 250V L', 'T1A 250V L', 'conditions', 'fuse-load', { workingAmpere: 1.4 }],
    ['T1A 250V L', 'wire link', 'no', 'fuse-wire'],
    ['T1A 250V L', 'solder bridge', 'no', 'fuse-wire'],
    ['T1A 250V L', '10R 0.5W fusible', 'no', 'another-kind'],
    ['T1A 250V L i2t=3.5', 'T1A 250V L i2t=12', 'no', 'fuse-melting'],
    ['T1A', 'T1A', 'conditions', 'fuse-volts'],
  ]);
  it('a low one of 6.3 A breaks ten times its rating', () => {
    expect(verdict('T6.3A 250V breaking=60A', 'T6.3A L 250V')).toBe('fits');
    expect(verdict('T6.3A 250V breaking=70A', 'T6.3A L 250V')).toBe('no');
  });
});

describe('resistors and arrays', () => {
  holds([
    ['4k7 1% 0.25W', '4k7 1% 0.25W', 'fits', 'value'],
    ['4k7 1% 0.25W', '4k7 5% 0.25W', 'no', 'tolerance'],
    ['4k7 1% 0.25W', '4k7 0.25W', 'conditions', 'tolerance'],
    ['4k7 5% 0.25W', '47k 5% 0.25W', 'no', 'value'],
    ['10R 0.5W fusible', '10R 0.5W', 'no', 'fusible'],
    ['10R 0.5W', '10R 0.5W fusible', 'conditions', 'fusible'],
    ['10R 0.5W', '10R 0.25W', 'no', 'watts'],
    ['10R', '10R 0.25W', 'no', 'watts', { workingWatt: 0.4 }],
    ['10R 0.5W', '10R 0.5W', 'conditions', 'watts', { workingWatt: 0.4 }],
    ['10R 0.5W', '10R 0.5W wirewound', 'conditions', 'kind'],
    ['10R 0.5W', 'wire', 'no', 'another-kind'],
    ['33R x4 isolated', '33R x4 isolated', 'fits', 'joined'],
    ['33R x4 isolated', '33R x4 bussed', 'no', 'joined'],
    ['33R x4 isolated', '33R x8 isolated', 'no', 'elements'],
    ['33R x4 isolated', '330R x4 isolated', 'no', 'value'],
    ['33R x4 isolated 8 pins', '33R x4 isolated 10 pins', 'no', 'pins'],
    ['33R x4 isolated', '33R', 'conditions', 'elements'],
  ]);
});

describe('coils and crystals', () => {
  holds([
    ['100u choke 1A dcr=0.2', '100uH choke 1A dcr=0.25', 'fits', 'value'],
    ['100uH 1A dcr=0.2', '100u 1A dcr=0.2', 'fits', 'value'],
    ['100uH 1A dcr=0.2', '47u 1A dcr=0.2', 'no', 'value'],
    ['100uH 1A dcr=0.2', '100u 25V', 'no', 'another-kind'],
    ['100uH 1A dcr=0.2', '100uF', 'no', 'another-kind'],
    ['100uH 1A dcr=0.2', '100uH 0.5A dcr=0.2', 'no', 'current'],
    ['100uH 1A dcr=0.2', '100uH 1A dcr=0.9', 'no', 'copper'],
    ['100uH 1A dcr=0.2', 'wire link', 'no', 'another-kind'],
    ['4MHz crystal load=20p', '4MHz crystal load=20p', 'fits', 'frequency'],
    ['4MHz crystal load=20p', '4.194304MHz crystal load=20p', 'no', 'frequency'],
    ['4MHz crystal load=20p', '4MHz resonator load=20p', 'no', 'kind'],
    ['4MHz resonator load=30p', '4MHz crystal load=30p', 'fits', 'kind'],
    ['27MHz crystal overtone load=20p', '27MHz crystal fundamental load=20p', 'no', 'frequency'],
  ]);
});

describe('semiconductors', () => {
  holds([
    ['NPN 40V 200mA hfe=100 EBC', 'NPN 40V 200mA hfe=100 EBC', 'fits', 'polarity'],
    ['NPN 40V 200mA hfe=100 EBC', 'PNP 40V 200mA hfe=100 EBC', 'no', 'polarity'],
    ['NPN 40V 200mA hfe=100 EBC', 'NPN 40V 200mA hfe=100 BCE', 'conditions', 'pin-order'],
    ['NPN 40V 200mA hfe=100 EBC', 'NPN 20V 200mA hfe=100 EBC', 'no', 'volts'],
    ['NPN 40V 200mA hfe=100 EBC', 'NPN 40V 100mA hfe=100 EBC', 'no', 'current'],
    ['NPN 40V 200mA hfe=100 EBC', 'NPN 40V 200mA hfe=40 EBC', 'no', 'gain'],
    ['NPN 40V 200mA hfe=100 EBC', 'n-channel 40V 200mA DGS', 'no', 'polarity'],
    ['NPN 60V 3A hfe=1000 EBC', 'NPN darlington 60V 3A hfe=1000 EBC', 'no', 'gain'],
    ['diode 100V 200mA fast', 'diode 100V 200mA fast', 'conditions', 'kind'],
    ['diode 100V 200mA fast', '1N4007', 'no', 'speed'],
    ['1N4007', '1N4001', 'no', 'volts'],
    ['1N4001', '1N4007', 'fits', 'volts'],
    ['schottky 40V 1A', '1N4007', 'no', 'drop'],
    ['schottky 40V 1A', '1N5819', 'fits', 'kind'],
    ['1N4001', 'schottky 60V 1A', 'conditions', 'drop'],
    ['1N4148', 'zener 5.1V 0.5W', 'no', 'kind'],
    ['zener 5.1V 0.5W', 'zener 5.1V 1W', 'fits', 'volts'],
    ['zener 5.1V 0.5W', 'zener 5.6V 0.5W', 'no', 'volts'],
    ['zener 5.1V 0.5W', 'zener 5.1V 0.25W', 'no', 'watts'],
    ['LED red 20mA', 'LED blue 20mA', 'no', 'drop'],
    ['opto AKEC', 'opto AKEC', 'conditions', 'measure-first'],
    ['opto AKEC', 'opto KACE', 'no', 'pin-order'],
  ]);
});

describe('regulators, switches, mechanics', () => {
  holds([
    ['7805 1A', '7805 1A', 'fits', 'volts'],
    ['7805', '7812', 'no', 'volts'],
    ['7805', '7905', 'no', 'polarity'],
    ['7805', '78L05', 'no', 'current'],
    ['7805', '317', 'no', 'kind'],
    ['7805', '7805', 'no', 'drop-out', { inputVolt: 6.3 }],
    ['7805', 'regulator 5V 1A LDO IGO positive', 'conditions', 'output-capacitor'],
    ['switch NC', 'switch NO', 'no', 'contact'],
    ['switch NC 1A h=8 d=6 pitch=5', 'switch NC 1A h=8 d=6 pitch=5', 'fits', 'contact'],
    ['switch NC', 'switch CO', 'conditions', 'contact'],
    ['connector 10 ways pitch=2.54 header', 'connector 12 ways pitch=2.54 header', 'no', 'ways'],
    ['connector 10 ways pitch=2.54 header', 'connector 10 ways pitch=2.5 header', 'no', 'pitch'],
    ['belt 50mm 1.2mm square', 'belt 50mm 1.2mm square', 'conditions', 'length'],
    ['belt 50mm 1.2mm square', 'belt 55mm 1.2mm square', 'no', 'length'],
    ['belt 50mm 1.2mm square', 'belt 50mm 1.2mm flat', 'no', 'shape'],
    ['belt 50mm 1.2mm', 'belt 50mm 2mm', 'no', 'section'],
    ['motor 6V 12R 2mm dc cw', 'motor 6V 12R 2mm dc ccw', 'no', 'kind'],
    ['motor 6V 12R 2mm dc', 'motor 12V 40R 2mm dc', 'no', 'volts'],
    ['motor 6V 12R 2mm dc', 'stepper motor 6V 12R 2mm', 'no', 'kind'],
  ]);
});

// Levels: published TTL and CMOS tables, from memory.
describe('logic', () => {
  const HCT = [{ ref: 'U9', family: 'HCT' }];
  holds([
    ['74LS86', '74LS86', 'fits', 'function'],
    ['74LS86', '74HC86', 'no', 'levels-in'],
    ['74LS86', '74HC86', 'conditions', 'fan-out', { drivers: HCT }],
    ['74LS86', '74HCT86', 'conditions', 'fan-out'],
    [
      '74LS86',
      '74HCT86',
      'fits',
      'fan-out',
      {
        drivers: [{ ref: 'U2', family: 'LS' }],
        loads: [{ ref: 'U3', family: 'LS', output: 'Y1' }],
      },
    ],
    ['74LS86', '74LS08', 'no', 'function'],
    ['74LS04', '74LS14', 'conditions', 'hysteresis'],
    ['74LS14', '74LS04', 'no', 'hysteresis'],
    ['7406', '7404', 'no', 'output-stage'],
    ['7404', '7405', 'no', 'output-stage'],
    ['7406', '7405', 'no', 'output-stage', { pullUpVolt: 12 }],
    ['7406', '7406', 'fits', 'output-stage', { pullUpVolt: 24 }],
    ['7400', '7402', 'no', 'pin-out'],
    ['74LS86', '74LS86 in single-wipe socket', 'no', 'socket'],
    ['74LS86', '74LS86 socketed', 'conditions', 'socket'],
    ['74S04', '74LS04', 'conditions', 'fan-out'],
    [
      '74HC04',
      '74LS04',
      'no',
      'levels-out',
      { loads: [{ ref: 'U7', family: 'HC', output: 'Y1' }] },
    ],
    ['358', '358', 'fits', 'pin-out'],
    ['358', '741', 'no', 'pin-out'],
    ['358', '4558', 'no', 'output-stage'],
  ]);

  it('a supply on another pin is dangerous for the chip and what shares the supply', () => {
    const [first] = remarks('7473', '74107');
    expect([first?.code, first?.dangerous]).toEqual(['pin-out', true]);
  });

  it('counts what an output has to sink', () => {
    const loads = (count: number) =>
      Array.from({ length: count }, (_, i) => ({ ref: `U${i}`, family: '', output: 'Y1' }));
    const fanOut = (count: number) =>
      remarks('7404', '74LS04', { drivers: [], loads: loads(count) }).find(
        ({ code }) => code === 'fan-out',
      )!.level;
    // 8 mA sink five standard loads of 1.6 mA.
    expect([fanOut(5), fanOut(6)]).toEqual(['ok', 'stop']);
  });
});

describe('whatever is written', () => {
  const ALL = [
    '10u 16V electrolytic', '100n 275VAC X2', '10u 50V ceramic X7R', '10u 16V bipolar', 'T1A 250V breaking=35A', 'wire link', '4k7 1% 0.25W', '10R 0.5W fusible', '33R x4 isolated', '74HCT86', 'NPN 40V 200mA hfe=100 EBC', 'diode 100V 200mA fast', 'zener 5.1V 0.5W', 'schottky 40V 1A', '7805 1A', 'opto AKEC', 'switch NC', 'belt 50mm 1.2mm', '4MHz crystal', '100uH 1A', 'motor 6V', 'connector 4 ways', '358',
  ]; // prettier-ignore

  it('each kind is read as itself', () =>
    expect(ALL.map((text) => readSpec(text, LIBRARY).kind)).toEqual([
      'capacitor',
      'capacitor',
      'capacitor',
      'capacitor',
      'fuse',
      'wire',
      'resistor',
      'resistor',
      'array',
      'logic',
      'transistor',
      'diode',
      'diode',
      'diode',
      'regulator',
      'opto',
      'switch',
      'belt',
      'crystal',
      'inductor',
      'motor',
      'connector',
      'amplifier',
    ]));

  it('one kind never fits where another was', () => {
    const kinds = ALL.map((text) => readSpec(text, LIBRARY).kind);
    ALL.forEach((was, i) =>
      ALL.forEach((offer, j) => {
        if (kinds[i] !== kinds[j]) expect([was, offer, verdict(was, offer)]).not.toContain('fits');
      }),
    );
  });

  it('words that do not tell what it is never fit, and nothing breaks on them', () => {
    const hostile = [
      '',
      ' ',
      '???',
      'from the donor',
      '-10u -16V',
      '1e999u',
      '0',
      'h=',
      '💡 10u',
      '10u 10u 10u',
      'x'.repeat(400),
      '__proto__',
      '74',
      '1/0 W',
      'V',
      '%',
      'esr=',
      '4k7'.repeat(50),
      'L=5 h=99999999 d=-1',
    ];
    for (const was of ALL)
      for (const offer of hostile) {
        const said = remarks(was, offer);
        expect(said.length, `${was} by ${offer}`).toBeGreaterThan(0);
        if (offer !== '10u 10u 10u') expect(verdictOf(said), `${was} by ${offer}`).not.toBe('fits');
        for (const { text } of said) expect(text).not.toMatch(/undefined|NaN|null|\[object/);
      }
    for (const was of hostile) expect(verdict(was, '10u 16V')).not.toBe('fits');
  });

  it('says what the mark of each is', () => {
    const signs = (text: string) => markingOf(readSpec(text, LIBRARY))?.sign;
    expect(signs('10u 16V electrolytic')).toBe('stripe-minus');
    expect(signs('10u 16V tantalum')).toBe('stripe-plus');
    expect(signs('22u 16V electrolytic back to back')).toBeUndefined();
    expect(signs('10u 16V bipolar')).toBeUndefined();
    expect(signs('1N4007')).toBe('band');
    expect(signs('74LS86')).toBe('notch');
    expect(signs('33R x4 isolated')).toBeUndefined();
    expect(signs('33R x4 bussed')).toBe('notch');
  });
});

describe('what stood on the part that came off', () => {
  const sheet = board(
    'V1 P5 0 5\nC1 P5 0 47u\n*@ C1 kind=electrolytic volt=16\nXF1 P5 A FUSE\nR1 A 0 1k\n',
  );
  const codes = (ref: string, offer: string, cameOff = '') =>
    replacementRemarks(sheet, ref, offer, LIBRARY, cameOff)
      .filter(({ level }) => level === 'stop')
      .map(({ code }) => code);

  it('says what the sheet does not: temperature, size, the rating of a fuse', () => {
    expect(codes('C1', '47u 16V electrolytic 85C h=16 d=6 pitch=2')).toEqual([]);
    expect(
      codes('C1', '47u 16V electrolytic 85C h=16 d=6 pitch=2', '47u 16V 105C h=11 d=6 pitch=2'),
    ).toEqual(['temperature', 'size']);
    expect(codes('F1', 'T2A 250V')).toEqual([]);
    expect(codes('F1', 'T2A 250V', 'T1A 250V')).toEqual(['fuse-current']);
  });
  it('does not overrule the sheet, and is left alone where it is another kind of thing', () => {
    expect(codes('C1', '100u 16V electrolytic', '100u 10V')).toEqual(['value']);
    expect(codes('C1', '47u 16V electrolytic', '1k')).toEqual([]);
  });
  it('without a sheet it is all that there is', () => {
    const stops = (was: string, offer: string) =>
      remarksWithoutSheet(was, offer, LIBRARY)
        .filter(({ level }) => level === 'stop')
        .map(({ code }) => code);
    expect(stops('470u 16V', '470u 10V')).toEqual(['volts']);
    expect(stops('100n X2 275VAC', '100n 400V film')).toEqual(['safety-class']);
    expect(stops('', '470u 10V')).toEqual([]);
    const off = {
      ref: 'C3',
      action: 'removed',
      value: '470u 16V',
      polarityChecked: false,
      note: '',
    } as const;
    const on = {
      ref: 'C3',
      action: 'fitted',
      value: '470u 10V',
      polarityChecked: true,
      note: '',
    } as const;
    expect(ledgerObjectionWithoutSheet([off], on, [])).toMatch(/say why in the note/);
    expect(
      ledgerObjectionWithoutSheet([off], { ...on, note: 'for a test at 5 V' }, []),
    ).toBeUndefined();
    const mains = { ...off, value: '100n X2 275VAC' };
    expect(
      ledgerObjectionWithoutSheet(
        [mains],
        { ...on, value: '100n 400V film', note: 'all there was' },
        [],
      ),
    ).toMatch(/IEC 60384-14/);
  });
});
