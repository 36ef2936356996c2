import type { ChipRow } from '@hanzai/core/device';

/**
 * Bus and line drivers, transceivers, one-shots. Functions: published function tables. Pins:
 * published data sheets, from memory.
 */

const LEFT = [2, 4, 6, 8];
const LEFT_OUT = [18, 16, 14, 12];
const RIGHT = [11, 13, 15, 17];
const RIGHT_OUT = [9, 7, 5, 3];
const pairs = (
  a: string,
  inputs: readonly number[],
  b: string,
  outputs: readonly number[],
): string[] => inputs.map((pin, i) => `${a}=${pin} ${b}=${outputs[i]}`);

// prettier-ignore
const octalBuffer = (number: string, title: string, inverting: boolean, secondHigh: boolean): ChipRow => ({
  number, title, pins: 20, supplyMilliampere: 25, drive: 'buffer', schmitt: 'all', schmittIn: ['LS', 'S'],
  groups: [
    { units: pairs('A', LEFT, 'Y', LEFT_OUT), shared: 'GA=1', logic: [`Y = ${inverting ? '!' : ''}A when !GA`] },
    { units: pairs('C', RIGHT, 'Z', RIGHT_OUT), shared: 'GB=19', logic: [`Z = ${inverting ? '!' : ''}C when ${secondHigh ? '' : '!'}GB`] },
  ],
});

const eightPairs = Array.from({ length: 8 }, (_, i) => `A=${2 + i} B=${18 - i}`);
// prettier-ignore
const transceiver = (number: string, title: string, inverting: boolean, more: Partial<ChipRow> = {}): ChipRow => ({
  number, title, pins: 20, supplyMilliampere: 60, drive: 'buffer', schmitt: ['A', 'B'], schmittIn: ['LS'], ...more,
  groups: [{ units: eightPairs, shared: 'DIR=1 G=19', logic: [`B = ${inverting ? '!' : ''}A when DIR & !G`, `A = ${inverting ? '!' : ''}B when !DIR & !G`] }],
});

const fourPairs = ['A=3 B=11', 'A=4 B=10', 'A=5 B=9', 'A=6 B=8'];
// prettier-ignore
const fourWay = (number: string, title: string, inverting: boolean): ChipRow => ({
  number, title, pins: 14, supplyMilliampere: 30, drive: 'buffer', schmitt: ['A', 'B'], schmittIn: ['LS'],
  groups: [{ units: fourPairs, shared: 'GAB=1 GBA=13', logic: [`B = ${inverting ? '!' : ''}A when !GAB`, `A = ${inverting ? '!' : ''}B when GBA`] }],
});

// prettier-ignore
const peripheral = (number: string, title: string, logic: string): ChipRow => ({
  number, title, pins: 8, openCollector: 'all', supplyMilliampere: 30, drive: 'peripheral',
  groups: [{ units: ['A=1 B=2 Y=3', 'Y=5 A=6 B=7'], logic: [logic] }],
});

/**
 * A retriggerable one-shot that is triggered again before it has run out stays at 1; one that is
 * not pulses. Which of them it is, its capacitor says.
 */
const RETRIGGERED = ['t = !A & B & CLR', 'Q = t & !t & unknown', 'QN = !(t & !t & unknown)'];

/**
 * A one-shot rests at 0 and pulses while its trigger does: how long is a matter of its capacitor,
 * which is not in a logic level.
 */
const ONE_SHOT = ['t = !A & B & CLR', 'Q = t & !t', 'QN = !(t & !t)'];

// prettier-ignore
export const BUS: readonly ChipRow[] = [
  octalBuffer('240', 'octal inverting buffer, three-state', true, false),
  octalBuffer('241', 'octal buffer, three-state, second enable high', false, true),
  octalBuffer('244', 'octal buffer, three-state', false, false),
  fourWay('242', 'quad bus transceiver, inverting', true),
  fourWay('243', 'quad bus transceiver', false),
  transceiver('245', 'octal bus transceiver', false),
  transceiver('640', 'octal bus transceiver, inverting', true, { families: ['LS', 'ALS', 'AS', 'HC', 'HCT'] }),
  transceiver('641', 'octal bus transceiver, open collector', false, { openCollector: 'all', families: ['LS', 'ALS', 'AS'] }),
  transceiver('642', 'octal bus transceiver, inverting, open collector', true, { openCollector: 'all', families: ['LS', 'ALS', 'AS'] }),
  transceiver('645', 'octal bus transceiver', false, { families: ['LS', 'ALS', 'AS', 'HC', 'HCT'] }),
  {
    number: '540', title: 'octal inverting buffer, three-state, pins straight through', pins: 20, drive: 'buffer', supplyMilliampere: 25,
    groups: [{ units: Array.from({ length: 8 }, (_, i) => `A=${2 + i} Y=${18 - i}`), shared: 'G1=1 G2=19', logic: ['Y = !A when !(G1 | G2)'] }],
  },
  {
    number: '541', title: 'octal buffer, three-state, pins straight through', pins: 20, drive: 'buffer', supplyMilliampere: 25,
    groups: [{ units: Array.from({ length: 8 }, (_, i) => `A=${2 + i} Y=${18 - i}`), shared: 'G1=1 G2=19', logic: ['Y = A when !(G1 | G2)'] }],
  },
  {
    number: '121', title: 'one-shot', pins: 14, families: [''],
    groups: [{ units: ['QN=1 A1=3 A2=4 B=5 Q=6'], logic: ['t = (!A1 | !A2) & B', 'Q = t & !t', 'QN = !(t & !t)'] }],
  },
  { number: '123', title: 'dual one-shot, retriggerable', pins: 16, groups: [{ units: ['A=1 B=2 CLR=3 QN=4 Q=13', 'Q=5 A=9 B=10 CLR=11 QN=12'], logic: RETRIGGERED }] },
  { number: '221', title: 'dual one-shot', pins: 16, groups: [{ units: ['A=1 B=2 CLR=3 QN=4 Q=13', 'Q=5 A=9 B=10 CLR=11 QN=12'], logic: ONE_SHOT }] },
  peripheral('75451', 'dual AND driver', 'Y = A & B'),
  peripheral('75452', 'dual NAND driver', 'Y = !(A & B)'),
  peripheral('75453', 'dual OR driver', 'Y = A | B'),
  peripheral('75454', 'dual NOR driver', 'Y = !(A | B)'),
  {
    number: '26LS31', title: 'quad differential line driver', pins: 16, drive: 'buffer', supplyMilliampere: 30,
    groups: [{ units: ['A=1 Y=2 Z=3', 'Z=5 Y=6 A=7', 'A=9 Y=10 Z=11', 'Z=13 Y=14 A=15'], shared: 'G=4 GN=12', logic: ['Y = A when G | !GN', 'Z = !A when G | !GN'] }],
  },
  {
    number: '26LS32', title: 'quad differential line receiver', pins: 16, lineOhm: 12e3, supplyMilliampere: 50, compares: { P: 'M' },
    groups: [{ units: ['M=1 P=2 Y=3', 'Y=5 P=6 M=7', 'M=9 P=10 Y=11', 'Y=13 P=14 M=15'], shared: 'G=4 GN=12', logic: ['Y = P when G | !GN'] }],
  },
];
