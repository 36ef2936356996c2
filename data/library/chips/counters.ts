import type { ChipRow } from '@hanzai/core/device';

/** Counters. Functions: published function tables. Pins: published data sheets, from memory. */

const BITS = ['a', 'b', 'c', 'd'];
const SHOWN = ['QA = a', 'QB = b', 'QC = c', 'QD = d'];

/** When each bit of an up-down counter changes, counting either way. */
function toggles(decade: boolean): {
  readonly up: readonly string[];
  readonly down: readonly string[];
} {
  return {
    up: decade
      ? ['1', 'a & !d', 'a & b', '(a & b & c) | (a & d)']
      : ['1', 'a', 'a & b', 'a & b & c'],
    down: decade
      ? ['1', '!a & (b | c | d)', '!a & !b & (c | d)', '!a & !b & !c']
      : ['1', '!a', '!a & !b', '!a & !b & !c'],
  };
}

/**
 * Synchronous 4-bit counter with look-ahead: pins as the 160 to 163. decade: counts to nine. clear:
 * how CLR acts.
 */
function counter160(
  number: string,
  title: string,
  decade: boolean,
  asynchronous: boolean,
): ChipRow {
  const enable = '(ENP & ENT)';
  const nine = '(a & !b & !c & d)';
  const count = decade
    ? ['a ^ en', `b ^ (en & a & !d)`, `c ^ (en & a & b)`, `d ^ (en & ((a & b & c) | (a & d)))`]
    : ['a ^ en', 'b ^ (en & a)', 'c ^ (en & a & b)', 'd ^ (en & a & b & c)'];
  const written = (text: string): string => text.replace(/\ben\b/g, enable);
  const registers = BITS.map((bit, i) => {
    const next = `LOAD ? (${written(count[i]!)}) : ${bit.toUpperCase()}`;
    return asynchronous
      ? `${bit} <= ${next} on rise(CK), clear !CLR`
      : `${bit} <= CLR ? (${next}) : 0 on rise(CK)`;
  });
  const full = decade ? nine : '(a & b & c & d)';
  return {
    number,
    title,
    pins: 16,
    supplyMilliampere: 19,
    groups: [
      {
        units: ['CLR=1 CK=2 A=3 B=4 C=5 D=6 ENP=7 LOAD=9 ENT=10 QD=11 QC=12 QB=13 QA=14 RCO=15'],
        logic: [...registers, ...SHOWN, `RCO = ENT & ${full}`],
      },
    ],
  };
}

/** Up-down counter with one clock and a direction: pins as the 190 and 191. */
function counter190(number: string, title: string, decade: boolean): ChipRow {
  const { up, down } = toggles(decade);
  const registers = BITS.map((bit, i) => {
    const load = `LOAD ? 0 : ${bit.toUpperCase()}`;
    return `${bit} <= ${bit} ^ (!CTEN & (DU ? (${down[i]}) : (${up[i]}))) on rise(CK), clear !LOAD & !${bit.toUpperCase()}, set ${load}`;
  });
  const full = decade ? 'a & !b & !c & d' : 'a & b & c & d';
  return {
    number,
    title,
    pins: 16,
    supplyMilliampere: 20,
    groups: [
      {
        units: ['B=1 QB=2 QA=3 CTEN=4 DU=5 QC=6 QD=7 D=9 C=10 LOAD=11 MM=12 RCO=13 CK=14 A=15'],
        logic: [
          ...registers,
          ...SHOWN,
          `MM = DU ? (!a & !b & !c & !d) : (${full})`,
          'RCO = !(MM & !CTEN & !CK)',
        ],
      },
    ],
  };
}

/** Up-down counter with a clock for each direction: pins as the 192 and 193. */
function counter192(number: string, title: string, decade: boolean): ChipRow {
  const { up, down } = toggles(decade);
  const registers = BITS.map((bit, i) => {
    const input = bit.toUpperCase();
    return `${bit} <= ${bit} ^ (UP ? (${down[i]}) : (${up[i]})) on rise(UP & DN), clear CLR | (!LOAD & !${input}), set !LOAD & ${input}`;
  });
  const full = decade ? 'a & d' : 'a & b & c & d';
  return {
    number,
    title,
    pins: 16,
    supplyMilliampere: 19,
    groups: [
      {
        units: ['B=1 QB=2 QA=3 DN=4 UP=5 QC=6 QD=7 D=9 C=10 LOAD=11 CO=12 BO=13 CLR=14 A=15'],
        logic: [...registers, ...SHOWN, `CO = !(!UP & ${full})`, 'BO = !(!DN & !a & !b & !c & !d)'],
      },
    ],
  };
}

// prettier-ignore
export const COUNTERS: readonly ChipRow[] = [
  {
    number: '90', title: 'decade counter, 2 and 5', pins: 14, supply: 5, ground: 10,
    groups: [{
      units: ['CKB=1 R01=2 R02=3 R91=6 R92=7 QC=8 QB=9 QD=11 QA=12 CKA=14'],
      logic: [
        'a <= !a on fall(CKA), clear R01 & R02 & !(R91 & R92), set R91 & R92',
        'b <= !b & !d on fall(CKB), clear (R01 & R02) | (R91 & R92)',
        'c <= c ^ b on fall(CKB), clear (R01 & R02) | (R91 & R92)',
        'd <= b & c on fall(CKB), clear R01 & R02 & !(R91 & R92), set R91 & R92',
        'QA = a', 'QB = b', 'QC = c', 'QD = d',
      ],
    }],
  },
  {
    number: '92', title: 'divide by twelve counter, 2 and 6', pins: 14, supply: 5, ground: 10,
    groups: [{
      units: ['CKB=1 R01=6 R02=7 QD=8 QC=9 QB=11 QA=12 CKA=14'],
      logic: [
        'a <= !a on fall(CKA), clear R01 & R02', 'b <= !b & !c on fall(CKB), clear R01 & R02', 'c <= b on fall(CKB), clear R01 & R02',
        'd <= d ^ c on fall(CKB), clear R01 & R02', 'QA = a', 'QB = b', 'QC = c', 'QD = d',
      ],
    }],
  },
  {
    number: '93', title: '4-bit binary counter, 2 and 8', pins: 14, supply: 5, ground: 10,
    groups: [{
      units: ['CKB=1 R01=2 R02=3 QC=8 QB=9 QD=11 QA=12 CKA=14'],
      logic: [
        'a <= !a on fall(CKA), clear R01 & R02', 'b <= !b on fall(CKB), clear R01 & R02', 'c <= c ^ b on fall(CKB), clear R01 & R02',
        'd <= d ^ (b & c) on fall(CKB), clear R01 & R02', 'QA = a', 'QB = b', 'QC = c', 'QD = d',
      ],
    }],
  },
  counter160('160', 'decade counter, synchronous, direct clear', true, true),
  counter160('161', '4-bit counter, synchronous, direct clear', false, true),
  counter160('162', 'decade counter, fully synchronous', true, false),
  counter160('163', '4-bit counter, fully synchronous', false, false),
  {
    number: '169', title: '4-bit up-down counter, synchronous', pins: 16, supplyMilliampere: 20,
    groups: [{
      units: ['UD=1 CK=2 A=3 B=4 C=5 D=6 ENP=7 LOAD=9 ENT=10 QD=11 QC=12 QB=13 QA=14 RCO=15'],
      logic: [
        'a <= LOAD ? (a ^ !(ENP | ENT)) : A on rise(CK)', 'b <= LOAD ? (b ^ (!(ENP | ENT) & (UD ? a : !a))) : B on rise(CK)',
        'c <= LOAD ? (c ^ (!(ENP | ENT) & (UD ? (a & b) : (!a & !b)))) : C on rise(CK)',
        'd <= LOAD ? (d ^ (!(ENP | ENT) & (UD ? (a & b & c) : (!a & !b & !c)))) : D on rise(CK)',
        'QA = a', 'QB = b', 'QC = c', 'QD = d', 'RCO = !(!ENT & (UD ? (a & b & c & d) : (!a & !b & !c & !d)))',
      ],
    }],
  },
  counter190('190', 'decade up-down counter, one clock', true),
  counter190('191', '4-bit up-down counter, one clock', false),
  counter192('192', 'decade up-down counter, two clocks', true),
  counter192('193', '4-bit up-down counter, two clocks', false),
  {
    number: '290', title: 'decade counter, 2 and 5', pins: 14,
    groups: [{
      units: ['R91=1 R92=3 QC=4 QB=5 QD=8 QA=9 CKA=10 CKB=11 R01=12 R02=13'],
      logic: [
        'a <= !a on fall(CKA), clear R01 & R02 & !(R91 & R92), set R91 & R92', 'b <= !b & !d on fall(CKB), clear (R01 & R02) | (R91 & R92)',
        'c <= c ^ b on fall(CKB), clear (R01 & R02) | (R91 & R92)', 'd <= b & c on fall(CKB), clear R01 & R02 & !(R91 & R92), set R91 & R92',
        'QA = a', 'QB = b', 'QC = c', 'QD = d',
      ],
    }],
  },
  {
    number: '293', title: '4-bit binary counter, 2 and 8', pins: 14,
    groups: [{
      units: ['QC=4 QB=5 QD=8 QA=9 CKA=10 CKB=11 R01=12 R02=13'],
      logic: [
        'a <= !a on fall(CKA), clear R01 & R02', 'b <= !b on fall(CKB), clear R01 & R02', 'c <= c ^ b on fall(CKB), clear R01 & R02',
        'd <= d ^ (b & c) on fall(CKB), clear R01 & R02', 'QA = a', 'QB = b', 'QC = c', 'QD = d',
      ],
    }],
  },
  {
    number: '390', title: 'dual decade counter, 2 and 5', pins: 16, supplyMilliampere: 15,
    groups: [{
      units: ['CKA=1 CLR=2 QA=3 CKB=4 QB=5 QC=6 QD=7', 'CKA=15 CLR=14 QA=13 CKB=12 QB=11 QC=10 QD=9'],
      logic: [
        'a <= !a on fall(CKA), clear CLR', 'b <= !b & !d on fall(CKB), clear CLR', 'c <= c ^ b on fall(CKB), clear CLR', 'd <= b & c on fall(CKB), clear CLR',
        'QA = a', 'QB = b', 'QC = c', 'QD = d',
      ],
    }],
  },
  {
    number: '393', title: 'dual 4-bit binary counter', pins: 14, supplyMilliampere: 15,
    groups: [{
      units: ['CK=1 CLR=2 QA=3 QB=4 QC=5 QD=6', 'CK=13 CLR=12 QA=11 QB=10 QC=9 QD=8'],
      logic: [
        'a <= !a on fall(CK), clear CLR', 'b <= b ^ a on fall(CK), clear CLR', 'c <= c ^ (a & b) on fall(CK), clear CLR', 'd <= d ^ (a & b & c) on fall(CK), clear CLR',
        'QA = a', 'QB = b', 'QC = c', 'QD = d',
      ],
    }],
  },
];
