import type { ChipRow } from '@hanzai/core/device';

/**
 * Decoders, selectors, arithmetic. Functions: published function tables; the 181 and 182 as in
 * their published logic diagrams. Pins: published data sheets, from memory.
 */

const range = (count: number): number[] => Array.from({ length: count }, (_, i) => i);

/** The product term that is 1 for one code of the lines, lowest first. */
function term(lines: readonly string[], code: number): string {
  return `(${lines.map((line, bit) => `${(code >> bit) & 1 ? '' : '!'}${line}`).join(' & ')})`;
}

/** Picks one of the data lines by the select lines, lowest first. */
function pick(data: readonly string[], lines: readonly string[]): string {
  if (lines.length === 0) return data[0]!;
  const [top, rest] = [lines.at(-1)!, lines.slice(0, -1)];
  const half = data.length / 2;
  return `(${top} ? ${pick(data.slice(half), rest)} : ${pick(data.slice(0, half), rest)})`;
}

/** Statements of an adder of four bits: sums S1 to S4 and the carry out. */
// prettier-ignore
const ADDER = [
  'c1 = (A1 & B1) | ((A1 | B1) & C0)', 'c2 = (A2 & B2) | ((A2 | B2) & c1)', 'c3 = (A3 & B3) | ((A3 | B3) & c2)',
  'S1 = A1 ^ B1 ^ C0', 'S2 = A2 ^ B2 ^ c1', 'S3 = A3 ^ B3 ^ c2', 'S4 = A4 ^ B4 ^ c3', 'C4 = (A4 & B4) | ((A4 | B4) & c3)',
];

const BCD_OUT = 'Y0=1 Y1=2 Y2=3 Y3=4 Y4=5 Y5=6 Y6=7 Y7=9 Y8=10 Y9=11 D=12 C=13 B=14 A=15';
// prettier-ignore
const bcd = (number: string, title: string, more: Partial<ChipRow> = {}): ChipRow => ({
  number, title, pins: 16, supplyMilliampere: 10, ...more,
  groups: [{ units: [BCD_OUT], logic: range(10).map((i) => `Y${i} = !${term(['A', 'B', 'C', 'D'], i)}`) }],
});

const SIXTEEN_OUT =
  'Y0=1 Y1=2 Y2=3 Y3=4 Y4=5 Y5=6 Y6=7 Y7=8 Y8=9 Y9=10 Y10=11 Y11=13 Y12=14 Y13=15 Y14=16 Y15=17 G1=18 G2=19 D=20 C=21 B=22 A=23';
// prettier-ignore
const sixteen = (number: string, title: string, more: Partial<ChipRow> = {}): ChipRow => ({
  number, title, pins: 24, supplyMilliampere: 30, ...more,
  groups: [{ units: [SIXTEEN_OUT], logic: range(16).map((i) => `Y${i} = !(!G1 & !G2 & ${term(['A', 'B', 'C', 'D'], i)})`) }],
});

const eightOf = (number: string, title: string, three: boolean): ChipRow => {
  const data = pick(
    range(8).map((i) => `D${i}`),
    ['A', 'B', 'C'],
  );
  const logic = three
    ? [`Y = ${data} when !G`, `W = !${data} when !G`]
    : [`Y = !G & ${data}`, `W = !(!G & ${data})`];
  return {
    number,
    title,
    pins: 16,
    supplyMilliampere: 7,
    groups: [
      { units: ['D3=1 D2=2 D1=3 D0=4 Y=5 W=6 G=7 C=9 B=10 A=11 D7=12 D6=13 D5=14 D4=15'], logic },
    ],
  };
};

const fourOf = (number: string, title: string, three: boolean): ChipRow => {
  const data = pick(
    range(4).map((i) => `D${i}`),
    ['A', 'B'],
  );
  return {
    number, title, pins: 16, supplyMilliampere: 7,
    groups: [{ units: ['G=1 D3=3 D2=4 D1=5 D0=6 Y=7', 'Y=9 D0=10 D1=11 D2=12 D3=13 G=15'], shared: 'B=2 A=14', logic: [three ? `Y = ${data} when !G` : `Y = !G & ${data}`] }],
  }; // prettier-ignore
};

// prettier-ignore
const quadTwo = (number: string, title: string, logic: string): ChipRow => ({
  number, title, pins: 16, supplyMilliampere: 10,
  groups: [{ units: ['A=2 B=3 Y=4', 'A=5 B=6 Y=7', 'Y=9 B=10 A=11', 'Y=12 B=13 A=14'], shared: 'S=1 G=15', logic: [logic] }],
});

/**
 * Segments that are lit for each code, a to g; codes above nine as the published table shows them.
 */
const SEGMENTS = [
  'abcdef',
  'bc',
  'abdeg',
  'abcdg',
  'bcfg',
  'acdfg',
  'cdefg',
  'abc',
  'abcdefg',
  'abcfg',
  'deg',
  'cdg',
  'bfg',
  'adfg',
  'defg',
  '',
];
const lit = (segment: string): string =>
  range(16)
    .filter((code) => SEGMENTS[code]!.includes(segment))
    .map((code) => term(['A', 'B', 'C', 'D'], code))
    .join(' | ');

/**
 * Lines 1 to n of a priority encoder, highest first, as (line, term that it is the highest active
 * one). Lines act low.
 */
function highest(lines: readonly string[], i: number): string {
  return `(!${lines[i]!}${lines
    .slice(i + 1)
    .map((line) => ` & ${line}`)
    .join('')})`;
}
const NINE = range(9).map((i) => `I${i + 1}`);
const EIGHT = range(8).map((i) => `I${i}`);
const encode = (lines: readonly string[], first: number, bit: number): string =>
  lines
    .map((_, i) => i)
    .filter((i) => ((i + first) >> bit) & 1)
    .map((i) => highest(lines, i))
    .join(' | ');

/** Carry, propagate and generate of the arithmetic unit, bit by bit. */
// prettier-ignore
const ALU = [
  ...range(4).flatMap((i) => [`x${i} = !(A${i} | (B${i} & S0) | (!B${i} & S1))`, `y${i} = !((A${i} & !B${i} & S2) | (A${i} & B${i} & S3))`]),
  'k1 = !(x0 | (y0 & CN))', 'k2 = !(x1 | (y1 & x0) | (y1 & y0 & CN))', 'k3 = !(x2 | (y2 & x1) | (y2 & y1 & x0) | (y2 & y1 & y0 & CN))',
  'F0 = x0 ^ y0 ^ (M | !CN)', 'F1 = x1 ^ y1 ^ (M | k1)', 'F2 = x2 ^ y2 ^ (M | k2)', 'F3 = x3 ^ y3 ^ (M | k3)',
  'P = !(y0 & y1 & y2 & y3)', 'G = !(x3 | (y3 & x2) | (y3 & y2 & x1) | (y3 & y2 & y1 & x0))', 'CN4 = !G | (y0 & y1 & y2 & y3 & CN)', 'AEB = F0 & F1 & F2 & F3',
];

// prettier-ignore
export const COMBINATIONAL: readonly ChipRow[] = [
  bcd('42', 'BCD to decimal decoder'),
  bcd('45', 'BCD to decimal driver, open collector', { openCollector: 'all', families: [''] }),
  bcd('145', 'BCD to decimal driver, open collector', { openCollector: 'all' }),
  {
    number: '47', title: 'BCD to seven-segment driver, open collector', pins: 16, openCollector: ['a', 'b', 'c', 'd', 'e', 'f', 'g'], families: ['', 'LS'], supplyMilliampere: 30,
    groups: [{
      units: ['B=1 C=2 LT=3 BI=4 RBI=5 D=6 A=7 e=9 d=10 c=11 b=12 a=13 g=14 f=15'],
      // Blanking beats the lamp test; the same pin is the ripple blanking output, which pulls low.
      logic: ['zero = LT & !RBI & !A & !B & !C & !D', 'BI = 0 when zero', 'dark = !BI | zero', ...[...'abcdefg'].map((s) => `${s} = dark | (LT & !(${lit(s)}))`)],
    }],
  },
  {
    number: '83', title: '4-bit adder, supply in the middle', pins: 16, supply: 5, ground: 12, families: ['', 'LS'], supplyMilliampere: 22,
    groups: [{ units: ['A4=1 S3=2 A3=3 B3=4 S2=6 B2=7 A2=8 S1=9 A1=10 B1=11 C0=13 C4=14 S4=15 B4=16'], logic: ADDER }],
  },
  {
    number: '283', title: '4-bit adder', pins: 16, supplyMilliampere: 22,
    groups: [{ units: ['S2=1 B2=2 A2=3 S1=4 A1=5 B1=6 C0=7 C4=9 S4=10 B4=11 A4=12 S3=13 A3=14 B3=15'], logic: ADDER }],
  },
  {
    number: '85', title: '4-bit comparator', pins: 16, supplyMilliampere: 11,
    groups: [{
      units: ['B3=1 LI=2 EI=3 GI=4 GO=5 EO=6 LO=7 B0=9 A0=10 B1=11 A1=12 A2=13 B2=14 A3=15'],
      logic: [
        'e3 = !(A3 ^ B3)', 'e2 = !(A2 ^ B2)', 'e1 = !(A1 ^ B1)', 'e0 = !(A0 ^ B0)', 'same = e3 & e2 & e1 & e0',
        'more = (A3 & !B3) | (e3 & A2 & !B2) | (e3 & e2 & A1 & !B1) | (e3 & e2 & e1 & A0 & !B0)',
        'less = (!A3 & B3) | (e3 & !A2 & B2) | (e3 & e2 & !A1 & B1) | (e3 & e2 & e1 & !A0 & B0)',
        'GO = more | (same & !EI & !LI)', 'LO = less | (same & !EI & !GI)', 'EO = same & EI',
      ],
    }],
  },
  {
    number: '138', title: '3 to 8 decoder', pins: 16, supplyMilliampere: 7,
    groups: [{ units: ['A=1 B=2 C=3 G2A=4 G2B=5 G1=6 Y7=7 Y6=9 Y5=10 Y4=11 Y3=12 Y2=13 Y1=14 Y0=15'], logic: range(8).map((i) => `Y${i} = !(G1 & !G2A & !G2B & ${term(['A', 'B', 'C'], i)})`) }],
  },
  {
    number: '238', title: '3 to 8 decoder, outputs high', pins: 16, families: ['HC', 'HCT'], supplyMilliampere: 1,
    groups: [{ units: ['A=1 B=2 C=3 G2A=4 G2B=5 G1=6 Y7=7 Y6=9 Y5=10 Y4=11 Y3=12 Y2=13 Y1=14 Y0=15'], logic: range(8).map((i) => `Y${i} = G1 & !G2A & !G2B & ${term(['A', 'B', 'C'], i)}`) }],
  },
  {
    number: '139', title: 'dual 2 to 4 decoder', pins: 16, supplyMilliampere: 7,
    groups: [{ units: ['G=1 A=2 B=3 Y0=4 Y1=5 Y2=6 Y3=7', 'Y3=9 Y2=10 Y1=11 Y0=12 B=13 A=14 G=15'], logic: range(4).map((i) => `Y${i} = !(!G & ${term(['A', 'B'], i)})`) }],
  },
  {
    number: '147', title: '10 line priority encoder', pins: 16, supplyMilliampere: 12,
    groups: [{
      units: ['I4=1 I5=2 I6=3 I7=4 I8=5 C=6 B=7 A=9 I9=10 I1=11 I2=12 I3=13 D=14'],
      logic: ['A', 'B', 'C', 'D'].map((out, bit) => `${out} = !(${encode(NINE, 1, bit)})`),
    }],
  },
  {
    number: '148', title: '8 line priority encoder', pins: 16, supplyMilliampere: 12,
    groups: [{
      units: ['I4=1 I5=2 I6=3 I7=4 EI=5 A2=6 A1=7 A0=9 I0=10 I1=11 I2=12 I3=13 GS=14 EO=15'],
      logic: [
        ...['A0', 'A1', 'A2'].map((out, bit) => `${out} = !(!EI & (${encode(EIGHT, 0, bit)}))`),
        `none = ${EIGHT.join(' & ')}`, 'EO = !(!EI & none)', 'GS = EI | none',
      ],
    }],
  },
  {
    number: '150', title: '16 to 1 selector, inverting', pins: 24, families: [''], supplyMilliampere: 40,
    groups: [{
      units: ['E7=1 E6=2 E5=3 E4=4 E3=5 E2=6 E1=7 E0=8 G=9 W=10 D=11 C=13 B=14 A=15 E15=16 E14=17 E13=18 E12=19 E11=20 E10=21 E9=22 E8=23'],
      logic: [`W = !(!G & ${pick(range(16).map((i) => `E${i}`), ['A', 'B', 'C', 'D'])})`],
    }],
  },
  eightOf('151', '8 to 1 selector', false),
  eightOf('251', '8 to 1 selector, three-state', true),
  fourOf('153', 'dual 4 to 1 selector', false),
  fourOf('253', 'dual 4 to 1 selector, three-state', true),
  sixteen('154', '4 to 16 decoder'),
  sixteen('159', '4 to 16 decoder, open collector', { openCollector: 'all', families: [''] }),
  {
    number: '155', title: 'dual 2 to 4 decoder, common address', pins: 16, supplyMilliampere: 7,
    groups: [{
      units: ['C1=1 G1=2 B=3 P3=4 P2=5 P1=6 P0=7 Q0=9 Q1=10 Q2=11 Q3=12 A=13 G2=14 C2=15'],
      logic: [...range(4).map((i) => `P${i} = !(!G1 & C1 & ${term(['A', 'B'], i)})`), ...range(4).map((i) => `Q${i} = !(!G2 & !C2 & ${term(['A', 'B'], i)})`)],
    }],
  },
  {
    number: '156', title: 'dual 2 to 4 decoder, common address, open collector', pins: 16, openCollector: 'all', supplyMilliampere: 7,
    groups: [{
      units: ['C1=1 G1=2 B=3 P3=4 P2=5 P1=6 P0=7 Q0=9 Q1=10 Q2=11 Q3=12 A=13 G2=14 C2=15'],
      logic: [...range(4).map((i) => `P${i} = !(!G1 & C1 & ${term(['A', 'B'], i)})`), ...range(4).map((i) => `Q${i} = !(!G2 & !C2 & ${term(['A', 'B'], i)})`)],
    }],
  },
  quadTwo('157', 'quad 2 to 1 selector', 'Y = !G & (S ? B : A)'),
  quadTwo('158', 'quad 2 to 1 selector, inverting', 'Y = !(!G & (S ? B : A))'),
  quadTwo('257', 'quad 2 to 1 selector, three-state', 'Y = (S ? B : A) when !G'),
  quadTwo('258', 'quad 2 to 1 selector, three-state, inverting', 'Y = !(S ? B : A) when !G'),
  {
    number: '180', title: '8-bit parity', pins: 14, families: [''], supplyMilliampere: 34,
    groups: [{
      units: ['G=1 H=2 EI=3 OI=4 EO=5 OO=6 A=8 B=9 C=10 D=11 E=12 F=13'],
      logic: ['odd = A ^ B ^ C ^ D ^ E ^ F ^ G ^ H', 'EO = !((odd & EI) | (!odd & OI))', 'OO = !((odd & OI) | (!odd & EI))'],
    }],
  },
  {
    number: '280', title: '9-bit parity', pins: 14, supplyMilliampere: 16,
    groups: [{ units: ['G=1 H=2 I=4 EV=5 OD=6 A=8 B=9 C=10 D=11 E=12 F=13'], logic: ['OD = A ^ B ^ C ^ D ^ E ^ F ^ G ^ H ^ I', 'EV = !OD'] }],
  },
  {
    number: '181', title: '4-bit arithmetic unit', pins: 24, openCollector: ['AEB'], supplyMilliampere: 21,
    groups: [{ units: ['B0=1 A0=2 S3=3 S2=4 S1=5 S0=6 CN=7 M=8 F0=9 F1=10 F2=11 F3=13 AEB=14 P=15 CN4=16 G=17 B3=18 A3=19 B2=20 A2=21 B1=22 A1=23'], logic: ALU }],
  },
  {
    number: '182', title: 'carry look-ahead', pins: 16, families: ['', 'S', 'F', 'AS'], supplyMilliampere: 36,
    groups: [{
      units: ['G1=1 P1=2 G0=3 P0=4 G3=5 P3=6 P=7 CZ=9 G=10 CY=11 CX=12 CN=13 G2=14 P2=15'],
      logic: [
        'CX = !G0 | (!P0 & CN)', 'CY = !G1 | (!P1 & !G0) | (!P1 & !P0 & CN)', 'CZ = !G2 | (!P2 & !G1) | (!P2 & !P1 & !G0) | (!P2 & !P1 & !P0 & CN)',
        'P = P0 | P1 | P2 | P3', 'G = !(!G3 | (!P3 & !G2) | (!P3 & !P2 & !G1) | (!P3 & !P2 & !P1 & !G0))',
      ],
    }],
  },
  {
    number: '688', title: '8-bit equality comparator', pins: 20, supplyMilliampere: 20,
    groups: [{
      units: ['G=1 P0=2 Q0=3 P1=4 Q1=5 P2=6 Q2=7 P3=8 Q3=9 P4=11 Q4=12 P5=13 Q5=14 P6=15 Q6=16 P7=17 Q7=18 Y=19'],
      logic: [`Y = G | ${range(8).map((i) => `(P${i} ^ Q${i})`).join(' | ')}`],
    }],
  },
  {
    number: '521', title: '8-bit equality comparator', pins: 20, families: ['F', 'ALS'], supplyMilliampere: 20,
    groups: [{
      units: ['G=1 P0=2 Q0=3 P1=4 Q1=5 P2=6 Q2=7 P3=8 Q3=9 P4=11 Q4=12 P5=13 Q5=14 P6=15 Q6=16 P7=17 Q7=18 Y=19'],
      logic: [`Y = G | ${range(8).map((i) => `(P${i} ^ Q${i})`).join(' | ')}`],
    }],
  },
];
