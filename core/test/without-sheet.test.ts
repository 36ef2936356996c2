import { describe, expect, it } from 'vitest';
import { ledgerObjectionWithoutSheet, type LedgerLine, type LooseReading } from '../src/bench';
import {
  firstPowerWithoutSheet,
  isProven,
  powerAllowed,
  proofWithoutSheet,
  type CaseWithoutSheet,
} from '../src/prove';
import { indexBoard, scratchBoard } from '../src/board';
import { parseShorthand } from '../src/instrument';

const reading = (
  kind: LooseReading['kind'],
  at: string,
  value: LooseReading['value'],
  current = true,
  to = '',
): LooseReading => ({ key: `${kind} ${at} ${value}`, setup: 'off', kind, at, to, value, current });
const bare = (more: Partial<CaseWithoutSheet>): CaseWithoutSheet => ({
  rails: [{ net: 'P5', volt: 5 }],
  readings: [],
  symptoms: [],
  answers: [],
  starts: { before: [], since: [] },
  ...more,
});
const states = (of: Partial<CaseWithoutSheet>): string[] =>
  proofWithoutSheet(bare(of)).map(({ stage, state }) => `${stage} ${state}`);

describe('a proof without a sheet', () => {
  it('proves nothing where nobody named a rail', () => {
    expect(isProven(proofWithoutSheet(bare({ rails: [] })))).toBe(false);
    expect(firstPowerWithoutSheet(bare({ rails: [] }))).toContain('name one in Prove');
  });

  it('does not judge ohms: who read them does, and only for that reading', () => {
    const ohms = reading('resistance', 'P5', 480);
    expect(states({ readings: [ohms] })).toEqual(['shorts open', 'loaded open']);
    const [step] = proofWithoutSheet(bare({ readings: [ohms] }));
    const answers = [{ key: step!.key, passed: true }];
    expect(states({ readings: [ohms], answers })).toEqual(['shorts pass', 'loaded open']);
    expect(firstPowerWithoutSheet(bare({ readings: [ohms], answers }))).toBeUndefined();
    // A new reading asks anew: what was said of 480 says nothing of 3.
    const later = [ohms, reading('resistance', 'p5', 3)];
    expect(states({ readings: later, answers })).toEqual(['shorts open', 'loaded open']);
    expect(powerAllowed(proofWithoutSheet(bare({ readings: later, answers })))).toBe(false);
    expect(firstPowerWithoutSheet(bare({ readings: later, answers }))).toContain('say in Prove');
  });

  it('keeps power off where somebody said that the ohms are not good', () => {
    const ohms = reading('resistance', 'P5', 2);
    const [step] = proofWithoutSheet(bare({ readings: [ohms] }));
    const answers = [{ key: step!.key, passed: false }];
    expect(firstPowerWithoutSheet(bare({ readings: [ohms], answers }))).toContain('not good');
  });

  it.each<[LooseReading['value'], string]>([
    [5, 'pass'],
    [4.75, 'pass'],
    [5.26, 'fail'],
    [-5, 'fail'],
    [0, 'fail'],
    ['OL', 'fail'],
  ])('5 V said, %s read: %s', (value, state) => {
    expect(states({ readings: [reading('voltage', 'P5', value)] })[1]).toBe(`loaded ${state}`);
  });

  it('takes negative rails by their sign', () => {
    const of = { rails: [{ net: 'N12', volt: -12 }] };
    expect(states({ ...of, readings: [reading('voltage', 'N12', -11.8)] })[1]).toBe('loaded pass');
    expect(states({ ...of, readings: [reading('voltage', 'N12', 11.8)] })[1]).toBe('loaded fail');
  });

  it('counts no reading from before the repair, and none between two points', () => {
    expect(
      states({
        readings: [
          reading('voltage', 'P5', 5, false),
          reading('voltage', 'P5', 5, true, 'VCC'),
          reading('resistance', 'P5', 480, false),
        ],
      }),
    ).toEqual(['shorts open', 'loaded open']);
  });

  it('asks for symptoms and for clean starts as with a sheet', () => {
    const start = (clean: boolean) => ({ clean, conditions: [] });
    const all = states({
      symptoms: [{ key: 's', text: 'no movement' }],
      answers: [{ key: 's', passed: true }],
      starts: { before: [start(false)], since: [start(true)] },
    });
    expect(all.slice(2)).toEqual(['function pass', expect.stringMatching(/^function/)]);
  });
});

describe('the ledger without a sheet', () => {
  const line = (
    ref: string,
    action: LedgerLine['action'],
    value = '',
    more: Partial<LedgerLine> = {},
  ): LedgerLine => ({
    ref,
    action,
    value,
    polarityChecked: false,
    note: '',
    ...more,
  });
  const ohms = [reading('resistance', 'P5', 480)];
  const says = (before: LedgerLine[], next: LedgerLine, readings: LooseReading[] = []): string =>
    ledgerObjectionWithoutSheet(before, next, readings) ?? 'allowed';

  it.each<[string, LedgerLine[], LedgerLine, string]>([
    ['off', [], line('C12', 'removed', '470u 16V'), 'allowed'],
    ['off twice', [line('C12', 'removed')], line('c12', 'removed'), 'already off'],
    ['on without off', [], line('C12', 'fitted', '470u'), 'has not been taken off'],
    ['on without value', [line('R1', 'removed')], line('R1', 'fitted', ' '), 'say what went on'],
    ['a resistor', [line('R1', 'removed')], line('R1', 'fitted', '4k7'), 'allowed'],
    ['which way round', [line('C12', 'removed')], line('C12', 'fitted', '470u'), 'which way round'],
    [
      'looked at',
      [line('C12', 'removed')],
      line('C12', 'fitted', '470u', { polarityChecked: true }),
      'allowed',
    ],
    ['a film capacitor', [line('C12', 'removed')], line('C12', 'fitted', '100n film'), 'allowed'],
    ['left out', [line('R1', 'removed')], line('R1', 'leftOut'), 'say why'],
    [
      'left out, why',
      [line('R1', 'removed')],
      line('R1', 'leftOut', '', { note: 'not needed' }),
      'allowed',
    ],
  ])('%s', (_, before, next, words) => {
    expect(says(before, next, ohms)).toContain(words);
  });

  it.each([
    ['T1A', 'T1A', 'allowed'],
    ['T1A 250V', 'T1A 250V', 'allowed'],
    ['T1A', 'T2A', 'never larger'],
    ['F1A', 'T1A', 'never larger, slower'],
    ['T1A 250V', 'T1A 32V', 'for less volts'],
    ['T1A', 'copper wire', 'is no fuse'],
    ['', 'T1A', 'is not written down'],
  ])('a fuse that was %j, offered %j: %s', (was, offered, words) => {
    expect(says([line('F1', 'removed', was)], line('F1', 'fitted', offered), ohms)).toContain(
      words,
    );
  });

  it('keeps a fuse out until the ohms of what it feeds were read since the last repair', () => {
    const off = [line('F1', 'removed', 'T1A')];
    expect(says(off, line('F1', 'fitted', 'T1A'), [])).toContain('it blew for a reason');
    const old = [reading('resistance', 'P5', 480, false), reading('voltage', 'P5', 5)];
    expect(says(off, line('F1', 'fitted', 'T1A'), old)).toContain('it blew for a reason');
  });
});

describe('a reading where there is no sheet', () => {
  const read = (text: string): string => {
    const parsed = parseShorthand(indexBoard(scratchBoard(text)), text);
    if (!parsed.ok) return `no: ${parsed.expected}`;
    const { measurement: m, value } = parsed.reading;
    const point = (p: typeof m.at): string =>
      p.pin ? `${p.pin.part.ref}.${p.pin.index + 1}` : p.net;
    return `${m.setup} ${m.kind} ${point(m.at)} ${point(m.to)} ${value}`;
  };
  it.each([
    ['vm 8.6', 'on voltage VM 0 8.6'],
    ['p5 5.01', 'on voltage P5 0 5.01'],
    ['n12 -11.9', 'on voltage N12 0 -11.9'],
    ['c7 0.4 esr', 'off esr C7.1 C7.2 0.4'],
    ['r12 4k7', 'off resistance R12.1 R12.2 4700'],
    ['f1 beep', 'off continuity F1.1 F1.2 beep'],
    ['u3.5 lo', 'on logic U3.5 0 0'],
    ['vm vcc 0.3', 'on voltage VM VCC 0.3'],
    ['vm 480 ohm', 'off resistance VM 0 480'],
    ['u7 1', 'no: the pin, for example u7.1'],
    ['vm', 'no: the value, for example 4k7, 4.98, beep, ol or lo'],
    ['', 'no: a point and a value, for example r12 4k7'],
  ])('%j', (text, understood) => {
    expect(read(text)).toBe(understood);
  });
  it('never fails on what is typed', () => {
    for (const text of [
      '= = =',
      '"a b" 3',
      '# 4',
      'x'.repeat(200),
      '0 5',
      'gnd 5',
      '. . .',
      'c1.999 3',
      'c0 c0 c0',
    ])
      expect(typeof read(text)).toBe('string');
  });
});
