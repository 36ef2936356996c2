import type { ChipRow } from '@hanzai/core/device';

/**
 * Chips outside the 7400 series, by their whole name: 4000 series, comparators, driver arrays, and
 * black boxes with the activity of a healthy one.
 * Functions: published function tables. Pins: published data sheets, from memory. Activity of black
 * boxes: common practice, no published source.
 */

const list = (prefix: string, first: number, pins: readonly number[]): string =>
  pins.map((pin, i) => `${prefix}${first + i}=${pin}`).join(' ');
const range = (from: number, to: number): number[] =>
  Array.from({ length: Math.abs(to - from) + 1 }, (_, i) => from + (to > from ? i : -i));

const CMOS_QUAD = ['A=1 B=2 Y=3', 'Y=4 A=5 B=6', 'A=8 B=9 Y=10', 'Y=11 A=12 B=13'];
const HEX = ['A=1 Y=2', 'A=3 Y=4', 'A=5 Y=6', 'A=9 Y=8', 'A=11 Y=10', 'A=13 Y=12'];
// prettier-ignore
const cmosGate = (number: string, title: string, units: readonly string[], logic: string, more: Partial<ChipRow> = {}): ChipRow => ({
  number, title, pins: 14, families: ['4000'], supplyMilliampere: 0.01, groups: [{ units, logic: [logic] }], ...more,
});

/**
 * One pin of a black box that moves while it runs. `run` is 1 once reset is over; the clock's
 * movement is the box's own.
 */
const moving = (pins: readonly string[], run: string, clock: string): string[] =>
  pins.map((pin) => `${pin} = ${run} ? ${clock} : 1`);
const names = (prefix: string, first: number, count: number): string[] =>
  Array.from({ length: count }, (_, i) => `${prefix}${first + i}`);

// prettier-ignore
export const OTHERS: readonly (ChipRow & { readonly family: string })[] = [
  { ...cmosGate('4001', 'quad 2-input NOR', CMOS_QUAD, 'Y = !(A | B)'), family: '4000' },
  { ...cmosGate('4011', 'quad 2-input NAND', CMOS_QUAD, 'Y = !(A & B)'), family: '4000' },
  { ...cmosGate('4030', 'quad 2-input exclusive OR', CMOS_QUAD, 'Y = A ^ B'), family: '4000' },
  { ...cmosGate('4069', 'hex inverter', HEX, 'Y = !A'), family: '4000' },
  { ...cmosGate('4070', 'quad 2-input exclusive OR', CMOS_QUAD, 'Y = A ^ B'), family: '4000' },
  { ...cmosGate('4071', 'quad 2-input OR', CMOS_QUAD, 'Y = A | B'), family: '4000' },
  { ...cmosGate('4077', 'quad 2-input exclusive NOR', CMOS_QUAD, 'Y = !(A ^ B)'), family: '4000' },
  { ...cmosGate('4081', 'quad 2-input AND', CMOS_QUAD, 'Y = A & B'), family: '4000' },
  { ...cmosGate('4093', 'quad 2-input NAND, Schmitt', CMOS_QUAD, 'Y = !(A & B)', { schmitt: 'all' }), family: '4000' },
  { ...cmosGate('40106', 'hex inverter, Schmitt', HEX, 'Y = !A', { schmitt: 'all' }), family: '4000' },
  {
    number: '4013', title: 'dual D flip-flop', pins: 14, supplyMilliampere: 0.01, family: '4000',
    groups: [{ units: ['Q=1 QN=2 CK=3 R=4 D=5 S=6', 'S=8 D=9 R=10 CK=11 QN=12 Q=13'], logic: ['q <= D on rise(CK), clear R, set S', 'Q = q | S', 'QN = !q | R'] }],
  },
  {
    number: '4017', title: 'decade counter with ten outputs', pins: 16, supplyMilliampere: 0.01, family: '4000',
    groups: [{
      units: ['Q5=1 Q1=2 Q0=3 Q2=4 Q6=5 Q7=6 Q3=7 Q8=9 Q4=10 Q9=11 CO=12 INH=13 CK=14 R=15'],
      logic: [
        ...range(0, 9).map((i) => `r${i} <= r${(i + 9) % 10} on rise(CK & !INH), ${i === 0 ? 'set' : 'clear'} R`),
        ...range(0, 9).map((i) => `Q${i} = r${i}`), 'CO = r0 | r1 | r2 | r3 | r4',
      ],
    }],
  },
  {
    // Pins 1, 2, 14 and 15 are those of the timing parts.
    number: '4538', title: 'dual one-shot, retriggerable, precise', pins: 16, supplyMilliampere: 0.01, family: '4000',
    groups: [{ units: ['CLR=3 A=4 B=5 Q=6 QN=7', 'QN=9 Q=10 B=11 A=12 CLR=13'], logic: ['t = (A | !B) & CLR', 'Q = t & !t & unknown', 'QN = !(t & !t & unknown)'] }],
  },
  {
    number: '4049', title: 'hex inverting buffer', pins: 16, supply: 1, ground: 8, supplyMilliampere: 0.01, family: '4000 buffer',
    groups: [{ units: ['Y=2 A=3', 'Y=4 A=5', 'Y=6 A=7', 'A=9 Y=10', 'A=11 Y=12', 'A=14 Y=15'], logic: ['Y = !A'] }],
  },
  {
    number: '4050', title: 'hex buffer', pins: 16, supply: 1, ground: 8, supplyMilliampere: 0.01, family: '4000 buffer',
    groups: [{ units: ['Y=2 A=3', 'Y=4 A=5', 'Y=6 A=7', 'A=9 Y=10', 'A=11 Y=12', 'A=14 Y=15'], logic: ['Y = A'] }],
  },
  {
    number: '393', title: 'dual comparator, open collector', pins: 8, supply: 8, ground: 4, openCollector: 'all', compares: { P: 'M' }, supplyMilliampere: 1, family: 'COMPARATOR',
    groups: [{ units: ['Y=1 M=2 P=3', 'P=5 M=6 Y=7'], logic: ['Y = P'] }],
  },
  {
    number: '339', title: 'quad comparator, open collector', pins: 14, supply: 3, ground: 12, openCollector: 'all', compares: { P: 'M' }, supplyMilliampere: 1, family: 'COMPARATOR',
    groups: [{ units: ['Y=1 M=6 P=7', 'Y=2 M=4 P=5', 'Y=14 M=8 P=9', 'Y=13 M=10 P=11'], logic: ['Y = P'] }],
  },
  {
    number: 'DARLINGTON7', title: 'seven Darlington drivers with clamp diodes', pins: 16, clampPin: 9, ground: 8, openCollector: 'all', supplyMilliampere: 0.001, family: 'DARLINGTON',
    groups: [{ units: range(1, 7).map((i) => `A=${i} Y=${17 - i}`), logic: ['Y = !A'] }],
  },
  {
    number: 'HALFBRIDGE4', title: 'four half-bridge drivers, enables in pairs', pins: 16, supply: 16, ground: 4, grounds: [5, 12, 13], supplyMilliampere: 24, railPins: 'VS=8', family: 'BRIDGE',
    rails: { Y: ['VS', 'GND'], Z: ['VS', 'GND'] },
    groups: [
      { units: ['A=2 Y=3', 'Y=6 A=7'], shared: 'EN12=1', logic: ['Y = A when EN12'] },
      { units: ['B=10 Z=11', 'Z=14 B=15'], shared: 'EN34=9', logic: ['Z = B when EN34'] },
    ],
  },
  {
    number: 'HBRIDGE2', title: 'two full bridges with enables and sense pins', pins: 15, supply: 9, ground: 8, supplyMilliampere: 24, railPins: 'SA=1 VS=4 SB=15', family: 'BRIDGE',
    rails: { Y: ['VS', 'SA'], Z: ['VS', 'SB'] },
    groups: [
      { units: ['Y=2 A=5', 'Y=3 A=7'], shared: 'EA=6', logic: ['Y = A when EA'] },
      { units: ['B=10 Z=13', 'B=12 Z=14'], shared: 'EB=11', logic: ['Z = B when EB'] },
    ],
  },
  {
    number: 'STEPPER4', title: 'stepper phase driver: four open collectors, step and direction', pins: 16, openCollector: ['PA', 'PB', 'PC', 'PD'], supplyMilliampere: 20, family: 'DARLINGTON',
    groups: [{
      units: ['STEP=1 DIR=2 RES=3 PA=5 PB=6 PC=7 PD=9'],
      logic: [
        'a <= DIR ? d : b on rise(STEP), set !RES', 'b <= DIR ? a : c on rise(STEP), clear !RES', 'c <= DIR ? b : d on rise(STEP), clear !RES', 'd <= DIR ? c : a on rise(STEP), clear !RES',
        'PA = !a', 'PB = !b', 'PC = !c', 'PD = !d',
      ],
    }],
  },
  {
    number: 'CLOCK4', title: 'clock oscillator module', pins: 4, supply: 4, ground: 2, supplyMilliampere: 20, family: '', blackBox: true,
    groups: [{ units: ['Y=3'], logic: ['Y = pulse'] }],
  },
  {
    number: '6502', title: 'processor, 8 bits', pins: 40, supply: 8, ground: 1, grounds: [21], supplyMilliampere: 100, family: 'NMOS', blackBox: true,
    groups: [{
      units: [`RDY=2 PH1=3 IRQ=4 NMI=6 SYNC=7 ${list('A', 0, range(9, 20))} ${list('A', 12, range(22, 25))} ${list('D', 0, range(33, 26))} RW=34 CLK=37 SO=38 PH2=39 RES=40`],
      logic: [
        'run = RES & RDY', 'PH1 = !CLK', 'PH2 = CLK', 'SYNC = run ? CLK : 0', 'RW = run ? CLK : 1', ...moving(names('A', 0, 16), 'run', 'CLK'),
        ...names('D', 0, 8).map((pin) => `${pin} = CLK when run & CLK & !CLK`), 'unused = IRQ & NMI & SO',
      ],
    }],
  },
  {
    number: '6522', title: 'interface adapter with two ports and timers', pins: 40, supply: 20, ground: 1, supplyMilliampere: 80, family: 'NMOS', blackBox: true,
    groups: [{
      units: [`${list('PA', 0, range(2, 9))} ${list('PB', 0, range(10, 17))} CB1=18 CB2=19 IRQ=21 RW=22 CS2=23 CS1=24 CLK=25 ${list('D', 0, range(33, 26))} RES=34 ${list('RS', 0, range(38, 35))} CA2=39 CA1=40`],
      logic: [
        // After reset every port pin is an input; what the program makes of it nobody here knows.
        'live = RES & CLK & !CLK', 'IRQ = RES ? unknown : 1', ...[...names('PA', 0, 8), ...names('PB', 0, 8)].map((pin) => `${pin} = unknown when RES & unknown`),
        ...names('D', 0, 8).map((pin) => `${pin} = CLK when live & CS1 & !CS2 & RW`), 'unused = CB1 & CB2 & CA1 & CA2 & RS0 & RS1 & RS2 & RS3',
      ],
    }],
    openCollector: ['IRQ'],
  },
  {
    // One-shot or oscillator: the parts round it say which, and the divider inside sets the control
    // pin.
    number: '555', title: 'timer', pins: 8, supply: 8, ground: 1, supplyMilliampere: 5, family: 'TIMER', blackBox: true, openCollector: ['DIS'],
    groups: [{ units: ['TRIG=2 OUT=3 RES=4 CTRL=5 THR=6 DIS=7'], logic: ['OUT = RES ? unknown : 0', 'DIS = RES ? unknown : 0', 'CTRL = unknown', 'unused = TRIG & THR'] }],
  },
  {
    number: '6532', title: 'RAM, two ports and timer', pins: 40, supply: 20, ground: 1, supplyMilliampere: 100, family: 'NMOS', blackBox: true, openCollector: ['IRQ'],
    groups: [{
      units: [`${list('A', 0, range(7, 2))} ${list('PA', 0, range(8, 15))} ${list('PB', 4, range(19, 16))} ${list('PB', 0, range(24, 21))} IRQ=25 ${list('D', 0, range(33, 26))} RES=34 RW=35 RS=36 CS2=37 CS1=38 CLK=39 A6=40`],
      logic: [
        // As with the 6522: after reset every port pin is an input.
        'live = RES & CLK & !CLK', 'IRQ = RES ? unknown : 1', ...[...names('PA', 0, 8), ...names('PB', 0, 8)].map((pin) => `${pin} = unknown when RES & unknown`),
        ...names('D', 0, 8).map((pin) => `${pin} = CLK when live & CS1 & !CS2 & RW`), `unused = ${names('A', 0, 7).join(' & ')} & RS`,
      ],
    }],
  },
  {
    number: '2114', title: 'static RAM, 1024 nibbles', pins: 18, supplyMilliampere: 60, family: 'NMOS', blackBox: true,
    groups: [{
      units: ['A6=1 A5=2 A4=3 A3=4 A0=5 A1=6 A2=7 CS=8 WE=10 D4=11 D3=12 D2=13 D1=14 A9=15 A8=16 A7=17'],
      logic: ['live = (A0 ^ A1) | A2 | A3 | A4 | A5 | A6 | A7 | A8 | A9', ...names('D', 1, 4).map((pin) => `${pin} = live when !CS & WE`)],
    }],
  },
  {
    number: '2716', title: 'ROM, 2048 bytes', pins: 24, supplyMilliampere: 60, family: 'NMOS', blackBox: true,
    groups: [{
      units: [`${list('A', 0, range(8, 1))} D0=9 D1=10 D2=11 ${list('D', 3, range(13, 17))} CE=18 A10=19 OE=20 VPP=21 A9=22 A8=23`],
      logic: [`live = ${names('A', 0, 11).join(' | ')}`, ...names('D', 0, 8).map((pin) => `${pin} = live when !CE & !OE & (VPP | !VPP)`)],
    }],
  },
  {
    number: '311', title: 'comparator, open collector and open emitter', pins: 8, supply: 8, ground: 4, openCollector: 'all', compares: { P: 'M' }, supplyMilliampere: 5, family: 'COMPARATOR',
    railPins: 'EMIT=1', rails: { Y: ['VCC', 'EMIT'] }, groups: [{ units: ['P=2 M=3 Y=7'], logic: ['Y = P'] }],
  },
  {
    number: '6116', title: 'static RAM, 2048 bytes', pins: 24, supplyMilliampere: 35, family: 'NMOS', blackBox: true,
    groups: [{
      units: [`${list('A', 0, range(8, 1))} D0=9 D1=10 D2=11 ${list('D', 3, range(13, 17))} CE=18 A10=19 OE=20 WE=21 A9=22 A8=23`],
      logic: [`live = ${names('A', 0, 11).join(' | ')}`, ...names('D', 0, 8).map((pin) => `${pin} = live when !CE & !OE & WE`)],
    }],
  },
  {
    number: '2764', title: 'ROM, 8192 bytes', pins: 28, supplyMilliampere: 60, family: 'NMOS', blackBox: true,
    groups: [{
      units: [`VPP=1 A12=2 ${list('A', 0, range(10, 3))} D0=11 D1=12 D2=13 ${list('D', 3, range(15, 19))} CE=20 A10=21 OE=22 A11=23 A9=24 A8=25 PGM=27`],
      logic: [`live = ${names('A', 0, 13).join(' | ')}`, ...names('D', 0, 8).map((pin) => `${pin} = live when !CE & !OE & (VPP | !VPP) & (PGM | !PGM)`)],
    }],
  },
  {
    number: '2732', title: 'ROM, 4096 bytes', pins: 24, supplyMilliampere: 80, family: 'NMOS', blackBox: true,
    groups: [{
      units: [`${list('A', 0, range(8, 1))} D0=9 D1=10 D2=11 ${list('D', 3, range(13, 17))} CE=18 A10=19 OE=20 A11=21 A9=22 A8=23`],
      logic: [`live = ${names('A', 0, 12).join(' | ')}`, ...names('D', 0, 8).map((pin) => `${pin} = live when !CE & !OE`)],
    }],
  },
];
