import { chipModel, LIBRARY } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  describeIssue,
  readBoardFile,
  readSheet,
  readSheetLines,
  renameInSheet,
  sheetRemarks,
  sheetSummary,
  usesInSheet,
  writeSheet,
  type Board,
  type Part,
} from '../src/board';

const partsOf = (text: string): readonly Part[] => readSheetLines(text, LIBRARY).board.parts;
const partOf = (line: string): Part => {
  const { board, issues } = readSheetLines(line, LIBRARY);
  expect(issues.map(describeIssue)).toEqual([]);
  expect(board.parts).toHaveLength(1);
  return board.parts[0]!;
};
const issuesOf = (text: string): string[] =>
  readSheetLines(text, LIBRARY).issues.map(describeIssue);

describe('one line one part', () => {
  it.each<[string, object]>([
    ['F1 P9IN P9F T1A', { kind: 'fuse', pins: ['P9IN', 'P9F'], rating: 'T1A' }],
    [
      'C1 VM 0 470u 16V',
      { kind: 'capacitor', pins: ['VM', '0'], capacitanceFarad: 470e-6, ratedVolt: 16 },
    ],
    ['C2 A B 4u7 bipolar esr=0.8 tol=10%', { dielectric: 'bipolar', esrOhm: 0.8, tolerance: 0.1 }],
    ['C2 A B 100 n', { capacitanceFarad: 100 }],
    ['R9 VREF ? ?', { kind: 'resistor', pins: ['VREF', 'nc_R9_2'], unknown: true }],
    ['R9 VREF 0 4k7 1% # reads 4.6k', { resistanceOhm: 4700, tolerance: 0.01, note: 'reads 4.6k' }],
    ['R1 A B 0', { kind: 'link' }],
    ['Q3 NPN b=DRV c=SOL e=0', { kind: 'transistor', pins: ['SOL', 'DRV', '0'] }],
    [
      'Q3 2N3906 1=C 2=B 3=E',
      { pins: ['C', 'B', 'E'], model: { name: '2N3906', polarity: 'pnp' } },
    ],
    ['D1 X Y 1N4148', { kind: 'diode', pins: ['X', 'Y'] }],
    ['D2 zener 5V6 a=0 k=VREF', { pins: ['0', 'VREF'], model: { breakdownVolt: 5.6 } }],
    ['J1 9V in: 1=SUP9 2=0', { kind: 'voltageSource', pins: ['SUP9', '0'], volt: 9 }],
    ['J2 1=A 3=B', { kind: 'unspecified', pins: ['A', 'nc_J2_2', 'B'] }],
    ['J3 A B', { kind: 'connectorPin', pins: ['A', 'B'] }],
    ['L1 SWITCH OUT 100u', { kind: 'inductor', pins: ['SWITCH', 'OUT'] }],
    ['S1 A B open', { kind: 'switch', rest: 'open' }],
    ['M1 A B 4m dcr=18', { kind: 'winding', inductanceHenry: 4e-3, dcResistanceOhm: 18 }],
    [
      'K1 relay coil1=A coil2=0 common=B work=C 320ohm',
      { kind: 'relay', pins: ['A', '0', 'B', 'nc_K1_4', 'C'], coilOhm: 320 },
    ],
    ['U5 7805 in=V9 ground=0 out=P5', { kind: 'regulator', pins: ['V9', '0', 'P5'] }],
    ['U9 box 1=A 2=B "role=front end"', { kind: 'unspecified', pins: ['A', 'B'] }],
  ])('%s', (line, expected) => {
    expect(partOf(line)).toMatchObject(expected);
  });

  // Pins of dual in-line packages count down the left and up the right: JEDEC MS-001.
  it('draws a resistor array by the pins of its package', () => {
    expect(
      partsOf('RN2 33R x4 isolated 1=DA 8=DB 2=DC 7=DD').map(({ ref, pins }) => [ref, ...pins]),
    ).toEqual([
      ['RN2.1', 'DA', 'DB'],
      ['RN2.2', 'DC', 'DD'],
    ]);
    expect(
      partsOf('RN1 10k x3 common 1=P5 2=A 4=C').map(({ ref, pins }) => [ref, ...pins]),
    ).toEqual([
      ['RN1.1', 'P5', 'A'],
      ['RN1.2', 'P5', 'nc_RN1_3'],
      ['RN1.3', 'P5', 'C'],
    ]);
    expect(partsOf('RN3 1k x2 isolated sil 1=A 2=B')[0]!.pins).toEqual(['A', 'B']);
  });

  it('finds a chip by its number and its pins by number or name', () => {
    const chip = partOf('U3 74LS14 1=RSTRC Y1=RES VCC=P5 7=0');
    const { pins } = chipModel('74LS14')!;
    expect(chip.pins[0]).toBe('RSTRC');
    expect(chip.pins[pins.findIndex(({ name }) => name === 'Y1')]).toBe('RES');
    expect(chip.pins[13]).toBe('P5');
    expect(chip.pins.filter((net) => net.startsWith('nc_'))).toHaveLength(10);
  });

  it.each([
    ['X1 foo', 'line 1: X1: what it is is not known; expected a number of the library'],
    ['R10 A', 'line 1: R10 has 1 net; expected 2 nets'],
    ['C1 A 0 1u\n\nC1 B 0 1u', 'line 3: C1 is there twice; expected another name: line 1 has it'],
    ['U3 74LS14 15=A', 'line 1: U3: there is no pin 15; expected pins 1 to 14'],
    ['Q1 BD999 b=A c=B e=C', 'line 1: Q1: npn or pnp is not said'],
    ['hello world', 'line 1: "hello" is no designator'],
    ['C1 A 0 1u esr=low', 'line 1: C1: esr=low; expected ohms'],
    ['C1 A 0 1u json={', 'line 1: C1: json= cannot be read'],
    ['C1 A 0 1u json={"ratedVolt":-1}', 'line 1: C1: ratedVolt'],
    ['setup Lid: thrown S1', 'line 1: setup: name a name of small letters'],
    ['edge', 'line 1: edge: net'],
    ['outline 100', 'line 1: no outline; expected millimetres'],
    ['part R1', 'line 1: a part that is not told'],
  ])('says what is wrong with %j', (text, words) => {
    expect(issuesOf(text).join('\n')).toContain(words);
  });

  it('reads the rest where one line is wrong, and knows the line of every part', () => {
    const { board, lines } = readSheetLines(
      'R1 A B 1k\nnonsense\n== reset ==\nR2 B 0 1k\n',
      LIBRARY,
    );
    expect(board.parts.map(({ ref, section }) => [ref, section])).toEqual([
      ['R1', undefined],
      ['R2', 'reset'],
    ]);
    expect([...lines]).toEqual([
      ['r1', 1],
      ['r2', 4],
    ]);
    expect(readSheet('R1 A B 1k\nnonsense', LIBRARY).ok).toBe(false);
  });
});

describe('a board as a bench sheet', () => {
  const names = Object.keys(DEMO_BOARD_FILES) as Parameters<typeof demoBoard>[0][];
  it.each(names)('%s is the same board after it was written and read', (name) => {
    const board = demoBoard(name);
    const text = writeSheet(board, LIBRARY);
    expect(readBoardFile('x.sheet', text, LIBRARY)).toEqual({ ok: true, value: board, notes: [] });
    // Bench words have to be enough for nearly all of it, or nobody would write it by hand.
    const bare = text.split('\n').filter((line) => line.includes('json=')).length;
    expect(bare).toBeLessThanOrEqual(board.parts.length / 20);
  });

  const net = fc.constantFrom(
    '0',
    'VCC',
    'a=b',
    'open',
    '?',
    'n"1',
    '#2',
    'json=x',
    'resistor',
    'NC_R1_2',
    '+',
    '4k7',
  );
  const word = fc.constantFrom(
    'bulk',
    'load motor',
    '5%',
    'a"b',
    '# no',
    'line\ntwo',
    '=',
    '==',
    'tab\there',
    '',
  );
  const extras = fc.record(
    {
      role: word,
      note: word,
      package: word,
      rating: word.filter((text) => text !== ''),
      section: word.filter((text) => text.trim() !== '' && text.length <= 60),
      tolerance: fc.constantFrom(0.05, 0.123456789),
      positionMm: fc.tuple(
        fc.double({ noNaN: true, noDefaultInfinity: true, min: -500, max: 500 }).map((x) => x || 0),
        fc.constant(0),
      ),
    },
    { requiredKeys: [] },
  );
  const anyPart = (i: number): fc.Arbitrary<Part> =>
    fc
      .tuple(
        fc.constantFrom<Partial<Part>>(
          { kind: 'resistor', resistanceOhm: 4700 } as Part,
          { kind: 'resistor', resistanceOhm: 0.1234567 } as Part,
          { kind: 'capacitor', capacitanceFarad: 1e-13, esrOhm: 0 } as Part,
          { kind: 'inductor', inductanceHenry: 0 } as Part,
          { kind: 'fuse' } as Part,
          { kind: 'switch', rest: 'open' } as Part,
          { kind: 'link' } as Part,
          { kind: 'connectorPin' } as Part,
          { kind: 'voltageSource', volt: -12.5 } as Part,
          { kind: 'unspecified' } as Part,
        ),
        fc.constantFrom('R', 'C', 'J', 'U', 'Q', 'RN', 'VM', 'edge', 'part', 'x-', '7'),
        fc.tuple(net, net),
        extras,
      )
      .map(
        ([body, letters, pins, more]) =>
          ({ ...body, ref: `${letters}${i}`, pins, ...more }) as Part,
      );
  const boards = fc
    .array(fc.integer({ min: 1, max: 99 }), { minLength: 1, maxLength: 8 })
    .chain((numbers) => fc.tuple(...[...new Set(numbers)].map(anyPart)))
    .filter((parts) => new Set(parts.map(({ ref }) => ref.toLowerCase())).size === parts.length)
    .map((parts): Board => ({
      format: 'hanzai-board',
      version: 1,
      title: ['any', 'two  blanks', 'a\nb', '# "x"'][parts.length % 4]!,
      parts,
    }));

  it('loses nothing, whatever stands in names, notes and sections', () => {
    fc.assert(
      fc.property(boards, (board) => {
        expect(readSheet(writeSheet(board, LIBRARY), LIBRARY)).toMatchObject({
          ok: true,
          value: board,
        });
      }),
      { seed: 15, numRuns: 400 },
    );
  });

  it('never throws on what is typed', () => {
    const piece = fc.oneof(
      fc.constantFrom(
        'C1',
        'U3',
        '74LS14',
        '1=A',
        '=',
        '"',
        'json={',
        '==',
        '#',
        'see',
        'setup',
        'model',
        'D',
        'RN2',
        'x4',
        'x99',
        'in:',
        '..',
        '\n',
        ' ',
      ),
      fc.string({ maxLength: 6 }),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 40 }), (pieces) => {
        const { board, issues } = readSheetLines(pieces.join(' '), LIBRARY);
        expect(issues.every(({ what, expected }) => what !== '' && expected !== '')).toBe(true);
        expect(board.parts.every(({ pins }) => pins.length > 0)).toBe(true);
      }),
      { seed: 16, numRuns: 2000 },
    );
  });
});

describe('a name in a sheet', () => {
  const text =
    'edge VREF to the head\nR1 VCC VREF 1k # VREF sags\nU3 74LS14 1=VREF 2=R1X\nsee x "VREF on": volts VREF to VCC 1..2, amps R1 1..\nQ1 NPN b=vref c=VREF2 e=0\nR2 VREF.1 0 1k';
  it('is found in pins, lines of the sheet and in any case, not in remarks or quotes', () => {
    expect(usesInSheet(text, 'VREF').map(({ line }) => line)).toEqual([1, 2, 3, 4, 5, 6]);
    expect(usesInSheet(text, 'R1').map(({ line }) => line)).toEqual([2, 4]);
    expect(usesInSheet(text, '')).toEqual([]);
  });
  it('is changed everywhere, and the way back is the same text', () => {
    const renamed = renameInSheet(text, 'vref', 'VHEAD');
    expect(renamed).toContain('R1 VCC VHEAD 1k # VREF sags');
    expect(renamed).toContain('c=VREF2');
    expect(renamed).toContain('b=VHEAD');
    expect(renamed).toContain('volts VHEAD to VCC');
    expect(renameInSheet(renamed, 'VHEAD', 'VREF')).toBe(text.replace('b=vref', 'b=VREF'));
  });
});

describe('what a second pair of eyes asks', () => {
  const remarks = (text: string): string[] =>
    sheetRemarks(readSheetLines(text, LIBRARY).board).map(
      ({ what, remedy }) => `${what}: ${remedy}`,
    );

  it('a net that is almost another', () => {
    expect(remarks('V1 VCC 0 5V\nR1 VCC VREF 1k\nR2 VREF 0 1k\nC1 VRFE 0 1u')).toEqual([
      'only C1.1 is on VRFE: is it VREF?',
    ]);
    expect(remarks('V1 VCC 0 5V\nR1 VCC PH0 1k\nR2 PH0 0 1k\nR3 VCC PH1 1k\nedge PH1')).toEqual([]);
  });

  it('a chip that nothing feeds', () => {
    expect(remarks('V1 P5 0 5V\nU1 74LS14 1=P5 7=0')).toEqual([
      'U1 has nothing on its pin 14, VCC: say it: 14=NET; without it the chip is taken as not fed',
    ]);
  });

  it('no ground, nothing that feeds', () => {
    expect(remarks('R1 A B 1k\nR2 A B 1k').map((text) => text.split(':')[0])).toEqual([
      'no net is ground',
      'nothing feeds this sheet',
    ]);
  });

  it('counts parts and nets as a repairer does', () => {
    const { board } = readSheetLines(
      'RN1 1k x2 sil isolated 1=A 2=B 3=A 4=0\nR1 A ? 1k\nedge B',
      LIBRARY,
    );
    expect(sheetSummary(board)).toBe('2 parts, 3 nets; edges at B');
  });
  it.each([
    ['R1 A 0 1k\nR2 A 0 1k', '2 parts'],
    ['R1 A 0 1k\nR9 A 0 1k\nC4 A 0 1u', '3 of about 13 parts'],
    ['R7 A 0 1k\nR2 A 0 1k\nR3 A 0 1k', '3 of about 7 parts'],
    // Numbered by sheet, or one number far beyond the rest: nothing is said.
    ['R101 A 0 1k\nR102 A 0 1k', '2 parts'],
    ['R1 A 0 1k\nR2 A 0 1k\nR901 A 0 1k', '3 parts'],
    ['V9 A 0 5V\nR1 A 0 1k', '1 part'],
  ])('%j has %s by its numbers', (text, words) => {
    const { board } = readSheetLines(text, LIBRARY);
    expect(sheetSummary(board).startsWith(`${words},`), sheetSummary(board)).toBe(true);
  });
});
