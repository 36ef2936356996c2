import { LIBRARY } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { changePartLines, partLines, readSheetLines, writeSheet } from '../src/board';

const names = Object.keys(DEMO_BOARD_FILES) as Parameters<typeof demoBoard>[0][];
const SHEET = `title Test
== supply ==
J1 9V in: 1=SUP9 2=0
C1 SUP9 0 470u 16V electrolytic esr=0.06 # bulged
C2 VM 0 100n role="under the chip"
==
U3 74LS14 1=A 2=B VCC=SUP9 7=0
Q3 NPN b=A c=B e=0
RN2 33R x4 isolated 1=DA 8=DB
L1 SWITCH OUT 100u
# only for whoever writes
`;
const line = (ref: string, text = SHEET) => partLines(text).find((one) => one.ref === ref)!;
const change = (refs: readonly string[], to: Parameters<typeof changePartLines>[2]) =>
  changePartLines(SHEET, refs, to, LIBRARY);

describe('the lines of a sheet taken apart', () => {
  it.each([
    ['J1', ['1=SUP9', '2=0'], '9V in:', 'supply'],
    ['C1', ['SUP9', '0'], '470u 16V electrolytic', 'supply'],
    ['U3', ['1=A', '2=B', 'VCC=SUP9', '7=0'], '74LS14', undefined],
    ['Q3', ['b=A', 'c=B', 'e=0'], 'NPN', undefined],
    ['RN2', ['1=DA', '8=DB'], '33R x4 isolated', undefined],
    ['L1', ['SWITCH', 'OUT'], '100u', undefined],
  ])('%s', (ref, pins, words, section) => {
    expect(line(ref)).toMatchObject({ pins, words, section });
  });
  it('has attributes and the remark apart', () => {
    expect([...line('C1').attributes]).toEqual([['esr', '0.06']]);
    expect(line('C1').remark).toBe('bulged');
    expect([...line('C2').attributes]).toEqual([['role', 'under the chip']]);
  });
  it.each(names)('has every line of %s, and changes nothing where nothing is said', (name) => {
    const text = writeSheet(demoBoard(name), LIBRARY);
    const refs = partLines(text).map(({ ref }) => ref);
    const { text: after, refused } = changePartLines(text, refs, {}, LIBRARY);
    expect(refused).toEqual([]);
    expect(readSheetLines(after, LIBRARY).board).toEqual(readSheetLines(text, LIBRARY).board);
  });
});

describe('several lines changed at once', () => {
  it('gives all of them the words, and keeps nets, attributes and remarks', () => {
    const { text, refused } = change(['c1', 'C2'], { words: '220u 25V electrolytic' });
    expect(refused).toEqual([]);
    expect(line('C1', text)).toMatchObject({ pins: ['SUP9', '0'], remark: 'bulged' });
    const { board } = readSheetLines(text, LIBRARY);
    expect(board.parts.filter(({ kind }) => kind === 'capacitor')).toMatchObject([
      { capacitanceFarad: 220e-6, ratedVolt: 25, esrOhm: 0.06 },
      { capacitanceFarad: 220e-6, ratedVolt: 25, role: 'under the chip' },
    ]);
  });
  it('sets an attribute, and takes it away by an empty text', () => {
    const set = change(['C1', 'C2'], { attributes: { package: 'radial 8', esr: '' } }).text;
    expect([...line('C1', set).attributes]).toEqual([['package', 'radial 8']]);
    expect([...line('C2', set).attributes]).toEqual([
      ['role', 'under the chip'],
      ['package', 'radial 8'],
    ]);
  });
  it('leaves a line that would not be understood, and says why', () => {
    const { text, refused } = change(['C1', 'U3'], { attributes: { tol: 'much' } });
    expect(refused.map(({ ref }) => ref)).toEqual(['C1', 'U3']);
    expect(refused[0]!.why).toMatch(/tolerance/);
    expect(text).toBe(SHEET);
  });
  it('changes the good ones of a mixed choice', () => {
    const { text, refused } = change(['C1', 'Q3'], { words: '10u' });
    expect(refused.map(({ ref }) => ref)).toEqual(['Q3']);
    expect(line('C1', text).words).toBe('10u');
    expect(line('Q3', text).words).toBe('NPN');
  });
  it('never turns a readable sheet into one that cannot be read, whatever is typed', () => {
    fc.assert(
      fc.property(
        fc.subarray(['J1', 'C1', 'C2', 'U3', 'Q3', 'RN2', 'L1']),
        fc.oneof(fc.string({ maxLength: 30 }), fc.constantFrom('"', '#', '= =', 'json={', '10u\n')),
        fc.constantFrom('words', 'tol', 'role', 'package', 'pos', 'fit'),
        (refs, typed, of) => {
          const what = of === 'words' ? { words: typed } : { attributes: { [of]: typed } };
          const { text } = changePartLines(SHEET, refs, what, LIBRARY);
          expect(readSheetLines(text, LIBRARY).issues).toEqual([]);
        },
      ),
      { numRuns: 300 },
    );
  });
});
