import { describe, expect, it } from 'vitest';
import { RATES } from '@hanzai/data';
import { diagnose, Diagnoser, type Belief } from '../../src/diagnosis';
import type { Reading } from '../../src/instrument';
import { board, measurement, respond } from '../boards';

// A sheet that is wrong in one place. Worked examples of common practice, no published source.

// prettier-ignore
const LINES = [
  'V1 SUP 0 12', 'XF1 SUP VM FUSE', 'R1 VM REF 10k', 'R2 REF 0 4.7k', 'C1 REF 0 10u', '*@ C1 kind=electrolytic esr=1.2', 'R3 VM B 22k', 'R4 B 0 10k', 'Q1 C B E QN', 'R5 VM C 2.2k', 'R6 E 0 1k',
  'C2 VM 0 100u', '*@ C2 kind=electrolytic esr=0.2', 'R7 VM LED 1k', 'D1 LED 0 DL', '.model QN NPN (IS=10f BF=150)', '.model DL D (IS=1e-18 N=1.8 RS=2)',
];
const sheet = board(LINES.join('\n'));
const real = (change: (line: string) => string, ...more: string[]) =>
  board([...LINES.map(change), ...more].join('\n'));
const asDrawn = (line: string): string => line;
const read = (there: typeof sheet, kind: string, at: string, to = ''): Reading => ({
  measurement: measurement(sheet, kind, at, to),
  value: respond(there, kind, at, to).value,
});
const share = ({ byPart }: Belief, ref: string): number =>
  byPart.find((part) => part.ref === ref)!.probability;

describe('a value typed with a zero too few', () => {
  const there = real((line) => line.replace('R2 REF 0 4.7k', 'R2 REF 0 47k'));
  const belief = diagnose(
    sheet,
    [
      read(there, 'voltage', 'REF'),
      read(there, 'voltage', 'VM'),
      read(there, 'resistance', 'REF'),
      read(there, 'voltage', 'C'),
    ],
    RATES,
  );
  it('is named with the check that settles it, and the readings fit', () => {
    const doubt = belief.sheet.find(({ title }) => title.includes('R2 may be 47'))!;
    expect(doubt.probability).toBeGreaterThan(0.1);
    expect(doubt.check).toMatch(/bands|leg lifted/);
    expect(belief.unmodelled).toBeLessThan(0.02);
    expect(belief.unexplained).toEqual([]);
  });
  it('stays beside a drift of the part, which no reading tells from it; nothing else is convicted', () => {
    for (const { ref, probability } of belief.byPart)
      if (ref !== 'R2') expect(probability, ref).toBeLessThan(0.3);
  });
});

describe('something that is not drawn', () => {
  it('on a net is named, and the sound board keeps its peace', () => {
    const there = real(asDrawn, 'R99 REF 0 3.3k', 'R98 REF 0 82k');
    const belief = diagnose(
      sheet,
      [
        read(there, 'voltage', 'REF'),
        read(there, 'resistance', 'REF'),
        read(there, 'voltage', 'VM'),
        read(there, 'voltage', 'E'),
      ],
      RATES,
    );
    expect(belief.sheet.slice(0, 4).some(({ title }) => title.includes('loads net REF'))).toBe(
      true,
    );
    expect(belief.unmodelled).toBeLessThan(0.05);
  });
  it('does not hide the fault beside it', () => {
    const there = real(
      (line) => line.replace('Q1 C B E QN', 'Q1 C BX E QN\nRX B BX 100meg'),
      'R99 REF 0 3.3k',
    );
    const belief = diagnose(
      sheet,
      [
        read(there, 'voltage', 'REF'),
        read(there, 'resistance', 'REF'),
        read(there, 'voltage', 'C'),
        read(there, 'voltage', 'E'),
        read(there, 'voltage', 'B'),
        read(there, 'voltage', 'VM'),
      ],
      RATES,
    );
    expect(belief.byPart.slice(0, 2).map(({ ref }) => ref)).toContain('Q1');
    expect(belief.unmodelled).toBeLessThan(0.1);
  });
});

describe('two names for one net', () => {
  it('are named with the beep that settles it', () => {
    const drawn = board(
      [...LINES, 'R8 VREF2 0 10k'].map((line) => line.replace(/\bREF\b/g, 'VREF')).join('\n'),
    );
    const there = board(
      [...LINES, 'R8 VREF 0 10k'].map((line) => line.replace(/\bREF\b/g, 'VREF')).join('\n'),
    );
    const volts = (at: string): Reading => ({
      measurement: measurement(drawn, 'voltage', at),
      value: respond(there, 'voltage', 'VREF').value,
    });
    const belief = diagnose(drawn, [volts('VREF'), volts('VREF2')], RATES);
    expect(belief.sheet.find(({ title }) => title === 'VREF2 and VREF may be one net')!.check).toBe(
      'beep from VREF2 to VREF',
    );
  });
});

describe('the sheet is doubted only where the readings ask for it', () => {
  it('not on a sound board, not where a fault explains everything, not without readings', () => {
    const dead = real((line) => line.replace('XF1 SUP VM FUSE', 'R97 SUP VM 100meg'));
    for (const readings of [
      [],
      [read(sheet, 'voltage', 'REF'), read(sheet, 'voltage', 'VM')],
      [read(dead, 'voltage', 'VM'), read(dead, 'resistance', 'VM')],
    ])
      expect(diagnose(sheet, readings, RATES).sheet).toEqual([]);
  });
  it('probabilities sum to 1, and neither order nor what was asked before changes them', () => {
    const there = real(asDrawn, 'R99 REF 0 3.3k');
    const readings = [
      read(there, 'voltage', 'REF'),
      read(there, 'resistance', 'REF'),
      read(there, 'voltage', 'C'),
      read(there, 'resistance', 'C'),
    ];
    const diagnoser = new Diagnoser(sheet, RATES);
    const [forward, backward] = [
      diagnoser.believe(readings),
      diagnoser.believe([...readings].reverse()),
    ];
    const sum =
      forward.suspects.reduce((total, { probability }) => total + probability, 0) +
      forward.healthy +
      forward.unmodelled;
    expect(sum).toBeCloseTo(1, 9);
    for (const { ref, probability } of forward.byPart)
      expect(share(backward, ref)).toBeCloseTo(probability, 9);
    diagnoser.believe(readings.slice(0, 1));
    expect(diagnoser.believe(readings)).toEqual(forward);
    for (const { hypothesis } of forward.suspects)
      expect(hypothesis.refs.length).toBeGreaterThan(0);
  });
  it('what nothing explains is named by reading', () => {
    const odd: Reading = { measurement: measurement(sheet, 'voltage', 'LED'), value: 11.3 };
    const other: Reading = { measurement: measurement(sheet, 'resistance', 'LED'), value: 6400 };
    const belief = diagnose(
      sheet,
      [read(sheet, 'voltage', 'VM'), odd, other, { ...other, value: 31 }],
      RATES,
    );
    expect(belief.unexplained.length).toBeGreaterThan(0);
    expect(belief.unexplained).not.toContain(0);
  });
});

describe('three faults at once', () => {
  it('are found where pairs leave a reading over', () => {
    const there = real((line) =>
      line
        .replace('R2 REF 0 4.7k', 'R2 REF 0 15k')
        .replace('R6 E 0 1k', 'R6 E 0 4.7k')
        .replace('D1 LED 0 DL', 'R96 LED 0 2'),
    );
    const at = (kind: string, net: string) => read(there, kind, net);
    const belief = diagnose(
      sheet,
      [
        at('voltage', 'REF'),
        at('resistance', 'REF'),
        at('voltage', 'E'),
        at('resistance', 'E'),
        at('voltage', 'LED'),
        at('resistance', 'LED'),
        at('voltage', 'VM'),
      ],
      RATES,
    );
    expect(belief.byPart.slice(0, 4).map(({ ref }) => ref)).toEqual(
      expect.arrayContaining(['R2', 'R6', 'D1']),
    );
    expect(belief.unmodelled).toBeLessThan(0.05);
  });
});
