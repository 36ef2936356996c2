import { describe, expect, it } from 'vitest';
import { fit } from '../src/fit';
import { InputError, UsageError } from '../src/arguments';
import { main } from '../src/main';
import { writeFileSync, mkdtempSync } from 'node:fs';
import { join } from 'node:path';
import { tmpdir } from 'node:os';

interface Said {
  verdict: string;
  reasons: { level: string; code: string; text: string }[];
  marking: { was: object | null; offer: { sign: string } | null; words: string };
}
const said = (...words: string[]): Said => fit([...words, '--json']).json as Said;

const folder = mkdtempSync(join(tmpdir(), 'fit-'));
const board = join(folder, 'b.cir');
writeFileSync(
  board,
  `a board of a test
V1 VCC 0 5
V2 VM 0 12
C1 VM 0 470u
*@ C1 kind=electrolytic volt=16 role="motor reservoir"
C2 A B 4.7u
*@ C2 kind=bipolar volt=16 role="servo coupling"
R1 VM 0 100
*@ R1 rating=2W
RN1.1 A 0 33
RN1.2 B 0 33
R2 VCC HV 1k
XU1 A B Y 0 0 nc1 0 nc2 0 0 nc3 0 0 VCC 74LS86
XU2 Y nc4 0 nc5 0 nc6 0 nc7 0 nc8 0 nc9 0 VCC 74LS04
XF1 VM X FUSE
*@ F1 rating="T1AL 250V"
.end
`,
);

describe('hanzai fit', () => {
  it('prints what the interface says', () => {
    const { verdict, reasons, marking } = said(
      '--was',
      '10u 16V electrolytic',
      '--offer',
      '10u 16V tantalum',
      '--volts',
      '12',
    );
    expect(verdict).toBe('no');
    expect(reasons).toContainEqual({
      level: 'stop',
      code: 'tantalum-derating',
      text: expect.stringContaining('75 %') as string,
    });
    expect(marking.words).toBe(
      'its stripe is minus on the old one, its stripe is PLUS on the new one',
    );
    expect(fit(['--was', '7805', '--offer', '7905']).text).toMatch(
      /^no\n {2}! a regulator of the other sign/,
    );
  });

  it('takes volts, role and room from the call', () => {
    const can = [
      '--was',
      '10u 16V electrolytic',
      '--offer',
      '10u 16V electrolytic h=16 d=6.3 pitch=2.5',
    ];
    expect(said(...can).verdict).toBe('conditions');
    expect(
      said(...can, '--room', 'h=11,d=6.3,pitch=2.5')
        .reasons.filter(({ level }) => level === 'stop')
        .map(({ code }) => code),
    ).toEqual(['size']);
    expect(said(...can, '--volts', '3V3').verdict).toBe('conditions');
    expect(said(...can, '--volts', '24').verdict).toBe('no');
    expect(
      said('--was', '100n film', '--offer', '100n ceramic X7R', '--role', 'servo').verdict,
    ).toBe('no');
    expect(
      said('--was', '100n film', '--offer', '100n ceramic X7R', '--role', 'decoupling').verdict,
    ).toBe('conditions');
  });

  it('takes the place from a board', () => {
    const of = (ref: string, offer: string) => said(board, ref, '--offer', offer);
    const stops = (ref: string, offer: string) =>
      of(ref, offer)
        .reasons.filter(({ level }) => level === 'stop')
        .map(({ code }) => code);
    // 12 V stand on C1: it bursts at 10 V, a tantalum of 16 V sees 75 %.
    expect(stops('C1', '470u 10V electrolytic')).toEqual(['volts']);
    expect(stops('c1', '470u 16V tantalum')).toEqual(['tantalum-derating']);
    expect(stops('C1', '2200u 16V electrolytic')).toEqual(['value']);
    expect(stops('C2', '4u7 16V electrolytic')).toEqual(['kind']);
    expect(stops('C2', '4u7 16V ceramic X7R')).toEqual(['varactor']);
    // 144 / 100 = 1.44 W.
    expect(stops('R1', '100R 1W')).toEqual(['watts']);
    expect(of('R1', '100R 2W').reasons.find(({ code }) => code === 'watts')).toMatchObject({
      level: 'warn',
      text: expect.stringContaining('1.44 W') as string,
    });
    expect(stops('RN1', '33R x4 isolated')).toEqual(['elements']);
    expect(stops('F1', 'wire link')).toEqual(['fuse-wire']);
    expect(of('F1', 'T1AL 250V').verdict).toBe('fits');
    // What drives U2 is U1, an LS; HC wants more than it gives. U1 drives one LS input.
    expect(stops('U2', '74HC04')).toEqual(['levels-in']);
    expect(of('U2', '74HC04').reasons.find(({ level }) => level === 'stop')!.text).toContain('U1');
    expect(of('U1', '74HCT86').reasons.find(({ code }) => code === 'fan-out')).toMatchObject({
      level: 'ok',
    });
  });

  it('says what is wrong with the call', async () => {
    const both: [string[], new (words: string) => Error, RegExp][] = [
      [['--was', '10u'], UsageError, /--offer/],
      [['--was', '10u', '--offer', ' '], UsageError, /--offer/],
      [['--offer', '10u'], UsageError, /--was/],
      [[board, '--offer', '10u'], UsageError, /REF/],
      [[board, 'C1', '--was', '10u', '--offer', '10u'], UsageError, /not both/],
      [[board, 'C99', '--offer', '10u'], InputError, /no part C99/],
      [['--was', '10u', '--offer', '10u', '--role', 'rail'], InputError, /decoupling/],
      [['--was', '10u', '--offer', '10u', '--volts', 'many'], InputError, /--volts/],
      [['--was', '10u', '--offer', '10u', '--room', 'large'], InputError, /--room/],
      [['--was', '10u', '--offer', '10u', '--colour', 'red'], UsageError, /colour/],
    ];
    for (const [words, kind, text] of both) {
      expect(() => fit(words), words.join(' ')).toThrow(kind);
      expect(() => fit(words), words.join(' ')).toThrow(text);
    }
    expect(await main(['fit', '--was', '10u'])).toBe(2);
    expect(await main(['fit', '--was', '10u', '--offer', '10u', '--role', 'rail'])).toBe(1);
  });
});
