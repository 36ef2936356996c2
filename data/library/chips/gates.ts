import type { ChipRow } from '@hanzai/core/device';

/**
 * Gates, inverters and buffers. Functions: their definition. Pins: published data sheets, from
 * memory; a pin-out that was not sure was left out.
 */

const QUAD = ['A=1 B=2 Y=3', 'A=4 B=5 Y=6', 'A=9 B=10 Y=8', 'A=12 B=13 Y=11'];
const QUAD_NOR = ['Y=1 A=2 B=3', 'Y=4 A=5 B=6', 'Y=10 A=8 B=9', 'Y=13 A=11 B=12'];
const HEX = ['A=1 Y=2', 'A=3 Y=4', 'A=5 Y=6', 'A=9 Y=8', 'A=11 Y=10', 'A=13 Y=12'];
const TRIPLE = ['A=1 B=2 C=13 Y=12', 'A=3 B=4 C=5 Y=6', 'A=9 B=10 C=11 Y=8'];
const DUAL4 = ['A=1 B=2 C=4 D=5 Y=6', 'A=9 B=10 C=12 D=13 Y=8'];
const QUAD_MIRRORED = ['A=1 B=2 Y=3', 'Y=4 A=5 B=6', 'A=8 B=9 Y=10', 'Y=11 A=12 B=13'];

const NAND = 'Y = !(A & B)';
const NOR = 'Y = !(A | B)';
const AND = 'Y = A & B';
const OR = 'Y = A | B';
const XOR = 'Y = A ^ B';
const XNOR = 'Y = !(A ^ B)';
const INVERT = 'Y = !A';
const BUFFER = 'Y = A';
const NAND3 = 'Y = !(A & B & C)';
const AND3 = 'Y = A & B & C';
const NAND4 = 'Y = !(A & B & C & D)';
const AND4 = 'Y = A & B & C & D';

// prettier-ignore
const gate = (number: string, title: string, units: readonly string[], logic: string, more: Partial<ChipRow> = {}): ChipRow => ({
  number, title, pins: 14, groups: [{ units, logic: [logic] }], supplyMilliampere: 4, ...more,
});

const OC = { openCollector: 'all' } as const;
const SCHMITT = { schmitt: 'all' } as const;
/** Families in which a gate keeps the pins of the standard one. */
const NOT_LOW_POWER = ['', 'LS', 'S', 'ALS', 'AS', 'F', 'HC', 'HCT'];

// prettier-ignore
export const GATES: readonly ChipRow[] = [
  gate('00', 'quad 2-input NAND', QUAD, NAND),
  gate('01', 'quad 2-input NAND, open collector', QUAD_NOR, NAND, { ...OC, families: ['', 'LS'] }),
  gate('02', 'quad 2-input NOR', QUAD_NOR, NOR),
  gate('03', 'quad 2-input NAND, open collector', QUAD, NAND, OC),
  gate('04', 'hex inverter', HEX, INVERT),
  gate('05', 'hex inverter, open collector', HEX, INVERT, OC),
  gate('06', 'hex inverter, open collector, high voltage', HEX, INVERT, { ...OC, drive: 'buffer' }),
  gate('07', 'hex buffer, open collector, high voltage', HEX, BUFFER, { ...OC, drive: 'buffer' }),
  gate('08', 'quad 2-input AND', QUAD, AND),
  gate('09', 'quad 2-input AND, open collector', QUAD, AND, OC),
  gate('10', 'triple 3-input NAND', TRIPLE, NAND3),
  gate('11', 'triple 3-input AND', TRIPLE, AND3),
  gate('12', 'triple 3-input NAND, open collector', TRIPLE, NAND3, OC),
  gate('13', 'dual 4-input NAND, Schmitt', DUAL4, NAND4, SCHMITT),
  gate('14', 'hex inverter, Schmitt', HEX, INVERT, SCHMITT),
  gate('15', 'triple 3-input AND, open collector', TRIPLE, AND3, OC),
  gate('16', 'hex inverter, open collector', HEX, INVERT, { ...OC, drive: 'buffer' }),
  gate('17', 'hex buffer, open collector', HEX, BUFFER, { ...OC, drive: 'buffer' }),
  gate('20', 'dual 4-input NAND', DUAL4, NAND4),
  gate('21', 'dual 4-input AND', DUAL4, AND4),
  gate('22', 'dual 4-input NAND, open collector', DUAL4, NAND4, OC),
  gate('25', 'dual 4-input NOR with strobe', ['A=1 B=2 G=3 C=4 D=5 Y=6', 'Y=8 A=9 B=10 G=11 C=12 D=13'], 'Y = !(G & (A | B | C | D))', { families: [''] }),
  gate('26', 'quad 2-input NAND, open collector, high voltage', QUAD, NAND, OC),
  gate('27', 'triple 3-input NOR', TRIPLE, 'Y = !(A | B | C)'),
  gate('28', 'quad 2-input NOR buffer', QUAD_NOR, NOR, { drive: 'buffer' }),
  gate('30', '8-input NAND', ['A=1 B=2 C=3 D=4 E=5 F=6 G=11 H=12 Y=8'], 'Y = !(A & B & C & D & E & F & G & H)'),
  gate('32', 'quad 2-input OR', QUAD, OR),
  gate('33', 'quad 2-input NOR buffer, open collector', QUAD_NOR, NOR, { ...OC, drive: 'buffer' }),
  gate('37', 'quad 2-input NAND buffer', QUAD, NAND, { drive: 'buffer' }),
  gate('38', 'quad 2-input NAND buffer, open collector', QUAD, NAND, { ...OC, drive: 'buffer' }),
  gate('40', 'dual 4-input NAND buffer', DUAL4, NAND4, { drive: 'buffer' }),
  {
    number: '51', title: 'dual 2-wide 2-input AND-OR-INVERT', pins: 14, families: ['', 'S', 'H'], supplyMilliampere: 6,
    groups: [{ units: ['A=1 B=13 C=9 D=10 Y=8', 'A=2 B=3 C=4 D=5 Y=6'], logic: ['Y = !((A & B) | (C & D))'] }],
  },
  {
    number: '51', title: 'AND-OR-INVERT, 3 and 3, 2 and 2 inputs', pins: 14, families: ['LS', 'L', 'HC', 'HCT'], supplyMilliampere: 2,
    groups: [
      { units: ['A1=1 B1=12 C1=13 D1=9 E1=10 F1=11 Y1=8'], logic: ['Y1 = !((A1 & B1 & C1) | (D1 & E1 & F1))'] },
      { units: ['A2=2 B2=3 C2=4 D2=5 Y2=6'], logic: ['Y2 = !((A2 & B2) | (C2 & D2))'] },
    ],
  },
  {
    number: '54', title: '4-wide AND-OR-INVERT, 2 inputs each', pins: 14, families: [''], supplyMilliampere: 6,
    groups: [{ units: ['A=1 B=13 C=2 D=3 E=4 F=5 G=9 H=10 Y=8'], logic: ['Y = !((A & B) | (C & D) | (E & F) | (G & H))'] }],
  },
  {
    number: '54', title: '4-wide AND-OR-INVERT, 2, 3, 3 and 2 inputs', pins: 14, families: ['LS'], supplyMilliampere: 2,
    groups: [{ units: ['A=1 B=2 C=3 D=4 E=5 Y=6 F=9 G=10 H=11 I=12 J=13'], logic: ['Y = !((A & B) | (C & D & E) | (F & G & H) | (I & J))'] }],
  },
  {
    number: '55', title: '2-wide 4-input AND-OR-INVERT', pins: 14, families: ['LS'], supplyMilliampere: 1,
    groups: [{ units: ['A=1 B=2 C=3 D=4 E=10 F=11 G=12 H=13 Y=8'], logic: ['Y = !((A & B & C & D) | (E & F & G & H))'] }],
  },
  gate('86', 'quad 2-input exclusive OR', QUAD, XOR, { families: NOT_LOW_POWER }),
  gate('125', 'quad buffer, three-state, enable low', ['G=1 A=2 Y=3', 'G=4 A=5 Y=6', 'Y=8 A=9 G=10', 'Y=11 A=12 G=13'], 'Y = A when !G', { drive: 'buffer' }),
  gate('126', 'quad buffer, three-state, enable high', ['G=1 A=2 Y=3', 'G=4 A=5 Y=6', 'Y=8 A=9 G=10', 'Y=11 A=12 G=13'], 'Y = A when G', { drive: 'buffer' }),
  gate('128', 'quad 2-input NOR line driver', QUAD_NOR, NOR, { families: [''], drive: 'buffer' }),
  gate('132', 'quad 2-input NAND, Schmitt', QUAD, NAND, SCHMITT),
  {
    number: '133', title: '13-input NAND', pins: 16, supplyMilliampere: 4,
    groups: [{ units: ['A=1 B=2 C=3 D=4 E=5 F=6 G=7 Y=9 H=10 I=11 J=12 K=13 L=14 M=15'], logic: ['Y = !(A & B & C & D & E & F & G & H & I & J & K & L & M)'] }],
  },
  gate('136', 'quad 2-input exclusive OR, open collector', QUAD, XOR, OC),
  gate('140', 'dual 4-input NAND line driver', DUAL4, NAND4, { families: ['S'], drive: 'buffer' }),
  gate('260', 'dual 5-input NOR', ['A=1 B=2 C=3 D=12 E=13 Y=5', 'A=4 B=8 C=9 D=10 E=11 Y=6'], 'Y = !(A | B | C | D | E)', { families: ['LS', 'S', 'F'] }),
  gate('266', 'quad 2-input exclusive NOR, open collector', QUAD_MIRRORED, XNOR, { ...OC, families: ['LS'] }),
  gate('386', 'quad 2-input exclusive OR', QUAD_MIRRORED, XOR, { families: ['LS', 'HC'] }),
  {
    number: '365', drive: 'buffer', title: 'hex buffer, three-state, common enables', pins: 16, supplyMilliampere: 14,
    groups: [{ units: ['A=2 Y=3', 'A=4 Y=5', 'A=6 Y=7', 'A=10 Y=9', 'A=12 Y=11', 'A=14 Y=13'], shared: 'G1=1 G2=15', logic: ['Y = A when !(G1 | G2)'] }],
  },
  {
    number: '366', drive: 'buffer', title: 'hex inverter, three-state, common enables', pins: 16, supplyMilliampere: 14,
    groups: [{ units: ['A=2 Y=3', 'A=4 Y=5', 'A=6 Y=7', 'A=10 Y=9', 'A=12 Y=11', 'A=14 Y=13'], shared: 'G1=1 G2=15', logic: ['Y = !A when !(G1 | G2)'] }],
  },
  {
    number: '367', drive: 'buffer', title: 'hex buffer, three-state, enables for four and two', pins: 16, supplyMilliampere: 14,
    groups: [
      { units: ['A=2 Y=3', 'A=4 Y=5', 'A=6 Y=7', 'A=10 Y=9'], shared: 'GA=1', logic: ['Y = A when !GA'] },
      { units: ['C=12 Z=11', 'C=14 Z=13'], shared: 'GB=15', logic: ['Z = C when !GB'] },
    ],
  },
  {
    number: '368', drive: 'buffer', title: 'hex inverter, three-state, enables for four and two', pins: 16, supplyMilliampere: 14,
    groups: [
      { units: ['A=2 Y=3', 'A=4 Y=5', 'A=6 Y=7', 'A=10 Y=9'], shared: 'GA=1', logic: ['Y = !A when !GA'] },
      { units: ['C=12 Z=11', 'C=14 Z=13'], shared: 'GB=15', logic: ['Z = !C when !GB'] },
    ],
  },
];
