import type { ChipRow } from '@hanzai/core/device';

/**
 * Flip-flops, latches and shift registers. Functions: published function tables. Pins: published
 * data sheets, from memory. A pulse-triggered flip-flop is taken as triggered by the falling edge.
 */

/** JK with levels that act low; `q` toggles where both are 1. */
const JK = (clock: string, ends: string): string =>
  `q <= (J & !q) | (!K & q) on fall(${clock})${ends}`;
const EIGHT_D = 'D1=3 D2=4 D3=7 D4=8 D5=13 D6=14 D7=17 D8=18';
const EIGHT_Q = 'Q1=2 Q2=5 Q3=6 Q4=9 Q5=12 Q6=15 Q7=16 Q8=19';
const STRAIGHT_D = 'D1=2 D2=3 D3=4 D4=5 D5=6 D6=7 D7=8 D8=9';
const STRAIGHT_Q = 'Q1=19 Q2=18 Q3=17 Q4=16 Q5=15 Q6=14 Q7=13 Q8=12';
const each = (count: number, statement: (i: number) => string): string[] =>
  Array.from({ length: count }, (_, i) => statement(i + 1));

// prettier-ignore
export const REGISTERS: readonly ChipRow[] = [
  {
    number: '73', title: 'dual JK flip-flop with clear', pins: 14, supply: 4, ground: 11, families: ['', 'LS', 'H', 'HC', 'HCT'],
    groups: [{ units: ['CK=1 CLR=2 K=3 J=14 Q=12 QN=13', 'CK=5 CLR=6 K=10 J=7 Q=9 QN=8'], logic: [JK('CK', ', clear !CLR'), 'Q = q', 'QN = !q'] }],
  },
  {
    number: '74', title: 'dual D flip-flop with preset and clear', pins: 14, families: ['', 'LS', 'S', 'ALS', 'AS', 'F', 'HC', 'HCT', 'L', 'H'],
    groups: [{ units: ['CLR=1 D=2 CK=3 PRE=4 Q=5 QN=6', 'CLR=13 D=12 CK=11 PRE=10 Q=9 QN=8'], logic: ['q <= D on rise(CK), clear !CLR, set !PRE', 'Q = q | !PRE', 'QN = !q | !CLR'] }],
  },
  {
    number: '75', title: 'quad latch', pins: 16, supply: 5, ground: 12,
    groups: [
      { units: ['D=2 Q=16 QN=1', 'D=3 Q=15 QN=14'], shared: 'E12=13', logic: ['q <= D while E12', 'Q = q', 'QN = !q'] },
      { units: ['I=6 R=10 RN=11', 'I=7 R=9 RN=8'], shared: 'E34=4', logic: ['s <= I while E34', 'R = s', 'RN = !s'] },
    ],
  },
  {
    number: '76', title: 'dual JK flip-flop with preset and clear', pins: 16, supply: 5, ground: 13, families: ['', 'LS', 'H', 'HC', 'HCT'],
    groups: [{ units: ['CK=1 PRE=2 CLR=3 J=4 K=16 Q=15 QN=14', 'CK=6 PRE=7 CLR=8 J=9 K=12 Q=11 QN=10'], logic: [JK('CK', ', clear !CLR, set !PRE'), 'Q = q | !PRE', 'QN = !q | !CLR'] }],
  },
  {
    number: '95', title: '4-bit shift register, two clocks', pins: 14, families: ['', 'LS'],
    groups: [{
      units: ['SER=1 A=2 B=3 C=4 D=5 MODE=6 CK2=8 CK1=9 QD=10 QC=11 QB=12 QA=13'],
      logic: [
        'a <= MODE ? A : SER on fall(MODE ? CK2 : CK1)', 'b <= MODE ? B : a on fall(MODE ? CK2 : CK1)', 'c <= MODE ? C : b on fall(MODE ? CK2 : CK1)',
        'd <= MODE ? D : c on fall(MODE ? CK2 : CK1)', 'QA = a', 'QB = b', 'QC = c', 'QD = d',
      ],
    }],
  },
  {
    number: '107', title: 'dual JK flip-flop with clear', pins: 14,
    groups: [{ units: ['J=1 QN=2 Q=3 K=4 CK=12 CLR=13', 'Q=5 QN=6 J=8 CK=9 CLR=10 K=11'], logic: [JK('CK', ', clear !CLR'), 'Q = q', 'QN = !q'] }],
  },
  {
    number: '109', title: 'dual JK flip-flop, K inverted, with preset and clear', pins: 16,
    groups: [{ units: ['CLR=1 J=2 KN=3 CK=4 PRE=5 Q=6 QN=7', 'CLR=15 J=14 KN=13 CK=12 PRE=11 Q=10 QN=9'], logic: ['q <= (J & !q) | (KN & q) on rise(CK), clear !CLR, set !PRE', 'Q = q | !PRE', 'QN = !q | !CLR'] }],
  },
  {
    number: '112', title: 'dual JK flip-flop, falling edge, with preset and clear', pins: 16,
    groups: [{ units: ['CK=1 K=2 J=3 PRE=4 Q=5 QN=6 CLR=15', 'QN=7 Q=9 PRE=10 J=11 K=12 CK=13 CLR=14'], logic: [JK('CK', ', clear !CLR, set !PRE'), 'Q = q | !PRE', 'QN = !q | !CLR'] }],
  },
  {
    number: '113', title: 'dual JK flip-flop, falling edge, with preset', pins: 14,
    groups: [{ units: ['CK=1 K=2 J=3 PRE=4 Q=5 QN=6', 'CK=13 K=12 J=11 PRE=10 Q=9 QN=8'], logic: [JK('CK', ', set !PRE'), 'Q = q', 'QN = !q'] }],
  },
  {
    number: '164', title: '8-bit shift register, serial in, parallel out', pins: 14, supplyMilliampere: 16,
    groups: [{
      units: ['A=1 B=2 QA=3 QB=4 QC=5 QD=6 CK=8 CLR=9 QE=10 QF=11 QG=12 QH=13'],
      logic: [
        'a <= A & B on rise(CK), clear !CLR', 'b <= a on rise(CK), clear !CLR', 'c <= b on rise(CK), clear !CLR', 'd <= c on rise(CK), clear !CLR',
        'e <= d on rise(CK), clear !CLR', 'f <= e on rise(CK), clear !CLR', 'g <= f on rise(CK), clear !CLR', 'h <= g on rise(CK), clear !CLR',
        'QA = a', 'QB = b', 'QC = c', 'QD = d', 'QE = e', 'QF = f', 'QG = g', 'QH = h',
      ],
    }],
  },
  {
    number: '165', title: '8-bit shift register, parallel in, serial out', pins: 16, supplyMilliampere: 18,
    groups: [{
      units: ['SHLD=1 CK=2 E=3 F=4 G=5 H=6 QHN=7 QH=9 SER=10 A=11 B=12 C=13 D=14 INH=15'],
      logic: [
        ...['A', 'B', 'C', 'D', 'E', 'F', 'G', 'H'].map((pin, i) => `${pin.toLowerCase()} <= ${i === 0 ? 'SER' : String.fromCharCode(96 + i)} on rise(CK | INH), clear !SHLD & !${pin}, set !SHLD & ${pin}`),
        'QH = h', 'QHN = !h',
      ],
    }],
  },
  {
    number: '166', title: '8-bit shift register, synchronous load', pins: 16, supplyMilliampere: 22,
    groups: [{
      units: ['SER=1 A=2 B=3 C=4 D=5 INH=6 CK=7 CLR=9 E=10 F=11 G=12 QH=13 H=14 SHLD=15'],
      logic: [
        ...['A', 'B', 'C', 'D', 'E', 'F', 'G', 'H'].map((pin, i) => `${pin.toLowerCase()} <= SHLD ? ${i === 0 ? 'SER' : String.fromCharCode(96 + i)} : ${pin} on rise(CK | INH), clear !CLR`),
        'QH = h',
      ],
    }],
  },
  {
    number: '173', title: '4-bit register, three-state', pins: 16, supplyMilliampere: 19,
    groups: [{
      units: ['M=1 N=2 Q1=3 Q2=4 Q3=5 Q4=6 CK=7 G1=9 G2=10 D4=11 D3=12 D2=13 D1=14 CLR=15'],
      logic: [...each(4, (i) => `q${i} <= (G1 | G2) ? q${i} : D${i} on rise(CK), clear CLR`), ...each(4, (i) => `Q${i} = q${i} when !(M | N)`)],
    }],
  },
  {
    number: '174', title: 'hex D register with clear', pins: 16, supplyMilliampere: 16,
    groups: [{ units: ['CLR=1 Q1=2 D1=3 D2=4 Q2=5 D3=6 Q3=7 CK=9 Q4=10 D4=11 Q5=12 D5=13 D6=14 Q6=15'], logic: [...each(6, (i) => `q${i} <= D${i} on rise(CK), clear !CLR`), ...each(6, (i) => `Q${i} = q${i}`)] }],
  },
  {
    number: '175', title: 'quad D register with clear', pins: 16, supplyMilliampere: 11,
    groups: [{
      units: ['CLR=1 Q1=2 QN1=3 D1=4 D2=5 QN2=6 Q2=7 CK=9 Q3=10 QN3=11 D3=12 D4=13 QN4=14 Q4=15'],
      logic: [...each(4, (i) => `q${i} <= D${i} on rise(CK), clear !CLR`), ...each(4, (i) => `Q${i} = q${i}`), ...each(4, (i) => `QN${i} = !q${i}`)],
    }],
  },
  {
    number: '194', title: '4-bit shift register, both ways', pins: 16, supplyMilliampere: 15,
    groups: [{
      units: ['CLR=1 SR=2 A=3 B=4 C=5 D=6 SL=7 S0=9 S1=10 CK=11 QD=12 QC=13 QB=14 QA=15'],
      logic: [
        ...[['a', 'A', 'SR', 'b'], ['b', 'B', 'a', 'c'], ['c', 'C', 'b', 'd'], ['d', 'D', 'c', 'SL']].map(([q, load, right, left]) => `${q} <= S1 ? (S0 ? ${load} : ${left}) : (S0 ? ${right} : ${q}) on rise(CK), clear !CLR`),
        'QA = a', 'QB = b', 'QC = c', 'QD = d',
      ],
    }],
  },
  {
    number: '195', title: '4-bit shift register, JK serial in', pins: 16, supplyMilliampere: 14,
    groups: [{
      units: ['CLR=1 J=2 KN=3 A=4 B=5 C=6 D=7 SHLD=9 CK=10 QDN=11 QD=12 QC=13 QB=14 QA=15'],
      logic: [
        'a <= SHLD ? ((J & !a) | (KN & a)) : A on rise(CK), clear !CLR', 'b <= SHLD ? a : B on rise(CK), clear !CLR', 'c <= SHLD ? b : C on rise(CK), clear !CLR',
        'd <= SHLD ? c : D on rise(CK), clear !CLR', 'QA = a', 'QB = b', 'QC = c', 'QD = d', 'QDN = !d',
      ],
    }],
  },
  {
    number: '259', title: '8-bit addressable latch', pins: 16, supplyMilliampere: 22,
    groups: [{
      units: ['S0=1 S1=2 S2=3 Q0=4 Q1=5 Q2=6 Q3=7 Q4=9 Q5=10 Q6=11 Q7=12 D=13 G=14 CLR=15'],
      logic: [
        ...Array.from({ length: 8 }, (_, i) => `q${i} <= ${select('S', i)} ? D : 0 while (!G & ${select('S', i)}) | (!CLR & !G), clear !CLR & G`),
        ...Array.from({ length: 8 }, (_, i) => `Q${i} = q${i}`),
      ],
    }],
  },
  {
    number: '273', title: 'octal D register with clear', pins: 20, supplyMilliampere: 17,
    groups: [{ units: [`CLR=1 CK=11 ${EIGHT_D} ${EIGHT_Q}`], logic: [...each(8, (i) => `q${i} <= D${i} on rise(CK), clear !CLR`), ...each(8, (i) => `Q${i} = q${i}`)] }],
  },
  {
    number: '279', title: 'quad set-reset latch', pins: 16, supplyMilliampere: 4,
    groups: [{
      units: ['R1=1 SA1=2 SB1=3 Q1=4 R2=5 S2=6 Q2=7 Q3=9 R3=10 SA3=11 SB3=12 Q4=13 R4=14 S4=15'],
      logic: [
        'q1 <= 0 while !R1, set !(SA1 & SB1)', 'q2 <= 0 while !R2, set !S2', 'q3 <= 0 while !R3, set !(SA3 & SB3)', 'q4 <= 0 while !R4, set !S4',
        'Q1 = q1', 'Q2 = q2', 'Q3 = q3', 'Q4 = q4',
      ],
    }],
  },
  {
    number: '373', drive: 'buffer', title: 'octal latch, three-state', pins: 20, supplyMilliampere: 24,
    groups: [{ units: [`OE=1 E=11 ${EIGHT_D} ${EIGHT_Q}`], logic: [...each(8, (i) => `q${i} <= D${i} while E`), ...each(8, (i) => `Q${i} = q${i} when !OE`)] }],
  },
  {
    number: '374', drive: 'buffer', title: 'octal D register, three-state', pins: 20, supplyMilliampere: 27,
    groups: [{ units: [`OE=1 CK=11 ${EIGHT_D} ${EIGHT_Q}`], logic: [...each(8, (i) => `q${i} <= D${i} on rise(CK)`), ...each(8, (i) => `Q${i} = q${i} when !OE`)] }],
  },
  {
    number: '375', title: 'quad latch, supply at the corners', pins: 16,
    groups: [
      { units: ['D=1 QN=2 Q=3', 'Q=5 QN=6 D=7'], shared: 'E12=4', logic: ['q <= D while E12', 'Q = q', 'QN = !q'] },
      { units: ['I=9 RN=10 R=11', 'R=13 RN=14 I=15'], shared: 'E34=12', logic: ['s <= I while E34', 'R = s', 'RN = !s'] },
    ],
  },
  {
    number: '377', title: 'octal D register with enable', pins: 20, supplyMilliampere: 17,
    groups: [{ units: [`G=1 CK=11 ${EIGHT_D} ${EIGHT_Q}`], logic: [...each(8, (i) => `q${i} <= G ? q${i} : D${i} on rise(CK)`), ...each(8, (i) => `Q${i} = q${i}`)] }],
  },
  {
    number: '378', title: 'hex D register with enable', pins: 16, supplyMilliampere: 13,
    groups: [{ units: ['G=1 Q1=2 D1=3 D2=4 Q2=5 D3=6 Q3=7 CK=9 Q4=10 D4=11 Q5=12 D5=13 D6=14 Q6=15'], logic: [...each(6, (i) => `q${i} <= G ? q${i} : D${i} on rise(CK)`), ...each(6, (i) => `Q${i} = q${i}`)] }],
  },
  {
    number: '533', drive: 'buffer', title: 'octal latch, three-state, inverting', pins: 20, supplyMilliampere: 24,
    groups: [{ units: [`OE=1 E=11 ${EIGHT_D} ${EIGHT_Q}`], logic: [...each(8, (i) => `q${i} <= D${i} while E`), ...each(8, (i) => `Q${i} = !q${i} when !OE`)] }],
  },
  {
    number: '534', drive: 'buffer', title: 'octal D register, three-state, inverting', pins: 20, supplyMilliampere: 27,
    groups: [{ units: [`OE=1 CK=11 ${EIGHT_D} ${EIGHT_Q}`], logic: [...each(8, (i) => `q${i} <= D${i} on rise(CK)`), ...each(8, (i) => `Q${i} = !q${i} when !OE`)] }],
  },
  {
    number: '573', drive: 'buffer', title: 'octal latch, three-state, pins straight through', pins: 20, supplyMilliampere: 24,
    groups: [{ units: [`OE=1 E=11 ${STRAIGHT_D} ${STRAIGHT_Q}`], logic: [...each(8, (i) => `q${i} <= D${i} while E`), ...each(8, (i) => `Q${i} = q${i} when !OE`)] }],
  },
  {
    number: '574', drive: 'buffer', title: 'octal D register, three-state, pins straight through', pins: 20, supplyMilliampere: 27,
    groups: [{ units: [`OE=1 CK=11 ${STRAIGHT_D} ${STRAIGHT_Q}`], logic: [...each(8, (i) => `q${i} <= D${i} on rise(CK)`), ...each(8, (i) => `Q${i} = q${i} when !OE`)] }],
  },
  {
    number: '595', drive: 'buffer', title: '8-bit shift register with output register', pins: 16, supplyMilliampere: 33,
    groups: [{
      units: ['QB=1 QC=2 QD=3 QE=4 QF=5 QG=6 QH=7 QS=9 SCLR=10 SCK=11 RCK=12 OE=13 SER=14 QA=15'],
      logic: [
        ...[...'abcdefgh'].map((bit, i) => `${bit} <= ${i === 0 ? 'SER' : 'abcdefgh'[i - 1]} on rise(SCK), clear !SCLR`),
        ...[...'abcdefgh'].map((bit) => `r${bit} <= ${bit} on rise(RCK)`),
        'QS = h',
        ...[...'abcdefgh'].map((bit) => `Q${bit.toUpperCase()} = r${bit} when !OE`),
      ],
    }],
  },
];

/** The product term that picks one of eight by three select lines. */
function select(line: string, i: number): string {
  return `(${[0, 1, 2].map((bit) => `${(i >> bit) & 1 ? '' : '!'}${line}${bit}`).join(' & ')})`;
}
