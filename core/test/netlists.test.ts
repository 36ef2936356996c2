import { LIBRARY } from '@hanzai/data';
import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import {
  checkBoard,
  describeIssue,
  mendingsOf,
  readBoardFile,
  readSheetLines,
  withPartLine,
  writeBoardJson,
  writeSheet,
  type Board,
  type ReadResult,
} from '../src/board';

const file = (name: string): string =>
  readFileSync(new URL(`netlists/${name}`, import.meta.url), 'utf8');
const read = (name: string, text = file(name)): ReadResult<Board> =>
  readBoardFile(name, text, LIBRARY);
function boardOf(name: string, text?: string): Board {
  const result = read(name, text);
  if (!result.ok) throw new Error(result.issues.map(describeIssue).join('\n'));
  return result.value;
}
const issues = (name: string, text: string): string => {
  const result = read(name, text);
  return result.ok ? 'no issue' : result.issues.map(describeIssue).join('\n');
};
/** What lies on each net, whatever the net is called and however pins of a part are ordered. */
function joints(board: Board): Record<string, string[]> {
  const nets: Record<string, string[]> = {};
  for (const { ref, pins } of board.parts)
    for (const net of pins) if (!net.startsWith('nc_')) (nets[net] ??= []).push(ref);
  for (const refs of Object.values(nets)) refs.sort();
  return nets;
}

const DRAWN = {
  '0': ['C1', 'J1', 'Q1', 'U1'],
  LAMPA: ['D2', 'R3'],
  LAMPK: ['D2', 'Q1'],
  N_RES: ['R2', 'U1'],
  QB: ['Q1', 'R2'],
  RSTRC: ['C1', 'D1', 'R1', 'U1'],
  'SUP-9': ['J1'],
  VCC: ['D1', 'R1', 'R3', 'U1'],
};

describe('a netlist of another program', () => {
  // See core/test/netlists/README.md for the programs that wrote them.
  it.each(['reset-corner.tdx', 'reset-corner.net', 'reset-corner-d.net', 'reset-corner-e.net'])(
    '%s joins what the schematic joins',
    (name) => {
      const board = boardOf(name);
      expect(joints(board)).toEqual(DRAWN);
      expect(board.parts.find(({ ref }) => ref === 'R1')).toMatchObject({
        kind: 'resistor',
        resistanceOhm: 4700,
      });
      expect(board.parts.find(({ ref }) => ref === 'C1')).toMatchObject({ capacitanceFarad: 1e-7 });
      expect(board.parts.find(({ ref }) => ref === 'U1')).toMatchObject({
        kind: 'chip',
        model: { name: '74LS14' },
      });
      expect(checkBoard(JSON.parse(writeBoardJson(board))).ok).toBe(true);
    },
  );

  it('takes pins by name where they have one, and otherwise does not guess', () => {
    for (const version of ['d', 'e']) {
      const board = boardOf(`reset-corner-${version}.net`);
      expect(board.title).toBe('Reset corner');
      expect(board.parts.find(({ ref }) => ref === 'D1')).toMatchObject({
        kind: 'diode',
        pins: ['VCC', 'RSTRC'],
      });
      expect(board.parts.find(({ ref }) => ref === 'Q1')).toMatchObject({
        kind: 'transistor',
        pins: ['LAMPK', 'QB', '0'],
      });
    }
    const result = read('reset-corner.tdx');
    expect(
      result.ok &&
        result.report
          ?.filter(({ became }) => became === 'box')
          .map(({ ref, why }) => `${ref}: ${why}`),
    ).toEqual([
      'D1: which of its pins is which is not said (pin 2); expected a=NET k=NET',
      'D2: which of its pins is which is not said (pin 1); expected a=NET k=NET',
      expect.stringContaining('J1: what it is is not known'),
      'Q1: which of its pins is which is not said (pin 3); expected c=NET b=NET e=NET',
    ]);
  });

  it('reads a pin list, with and without values', () => {
    const board = boardOf(
      'x.csv',
      'net,ref,pin,value\nVCC,R1,1,4k7\nOUT,R1,2,\nOUT,U1,3,74LS00\nGND,U1,7,\n"=VCC",U1,14,\nVCC,C9,1,10uF/16V\nGND,C9,2,\n',
    );
    expect(joints(board)).toMatchObject({
      VCC: ['C9', 'R1'],
      OUT: ['R1', 'U1'],
      '0': ['C9', 'U1'],
    });
    expect(board.parts.find(({ ref }) => ref === 'C9')).toMatchObject({
      capacitanceFarad: 1e-5,
      ratedVolt: 16,
    });
    expect(boardOf('x.csv', 'net,ref,pin\nA,R1,1\nB,R1,2\n').parts[0]).toMatchObject({
      kind: 'resistor',
      unknown: true,
    });
  });

  it('reads the bracketed form with three lines a part, as many programs write it', () => {
    const board = boardOf(
      'x.net',
      'PLAIN\n[\nR1\nAXIAL0.4\n4K7\n\n\n\n]\n[\nU2\nDIP16\nSHIFTER\nXYZ9000\n]\n(\nGND\nR1-1\nU2-8\n)\n(\nP-5\nR1-2\nU2-16\n)\n',
    );
    expect(board.parts).toMatchObject([
      { ref: 'R1', kind: 'resistor', resistanceOhm: 4700, package: 'AXIAL0.4', pins: ['0', 'P-5'] },
      { ref: 'U2', kind: 'unspecified', rating: 'XYZ9000 SHIFTER' },
    ]);
    expect(board.parts[1]!.pins).toHaveLength(16);
  });

  it('names what it was told twice, and what is on no net', () => {
    const result = read('x.csv', 'net,ref,pin\nA,R1,1\nB,R1,1\nC,R1,2\n,R7,1\nGND,R2,1\nA,R2,2\n');
    expect(result.ok && result.notes.join('\n')).toContain('R1.1 is on A and on B: taken as on A');
    expect(result.ok && result.report?.find(({ ref }) => ref === 'R7')?.became).toBe('skipped');
  });

  it('says what feeds the board and where ground is, when the list does not', () => {
    const result = read('x.csv', 'net,ref,pin\nA,R1,1\nB,R1,2\n');
    expect(result.ok && result.notes.join('\n')).toMatch(
      /no net is called ground[\s\S]*does not say what feeds/,
    );
  });

  it.each([
    ['x.net', 'hello', 'line 1: no form of netlist that is known'],
    ['x.net', '(export (version D)', 'line 1: a ( that is never closed'],
    ['x.net', '(export (version D)))', 'a second list begins|a ) without its ('],
    ['x.net', '(export "open', 'line 1: a text without its closing quote'],
    ['x.net', `(export ${'('.repeat(5000)}`, 'lists more than 200 deep'],
    ['x.net', '[\nR1\n', 'line 1: a [ that is never closed; expected a line with ]'],
    ['x.net', '[\n]\n', 'line 1: a part without a designator'],
    ['x.net', '(\nGND\nR1\n)\n[\nR1\n]\n', 'line 1: "R1" in net GND; expected a pin such as U7-11'],
    ['x.tdx', 'begin netlist v1 x\n', 'the file does not say what it is'],
    [
      'x.tdx',
      'tEDAx v1\nbegin netlist v1 x\n\tconn A R1\nend netlist\n',
      'line 3: "conn A R1" is not complete',
    ],
    ['x.tdx', 'tEDAx v1\nbegin drc v1 x\nend drc\n', 'no netlist in the file'],
    ['x.csv', 'net,ref,pin\nA,,1\n', 'line 2: "A,,1" names no pin'],
    ['x.csv', 'net,ref,pin\n', 'no parts in the netlist'],
  ])('%s with %j is refused with its place', (name, text, words) => {
    expect(
      words.split('|').some((one) => issues(name, text).includes(one)),
      issues(name, text),
    ).toBe(true);
  });

  it('reads blanks, quotes and line ends of every system', () => {
    const text = file('reset-corner-e.net');
    const board = boardOf('x.net', text);
    expect(boardOf('x.net', `\uFEFF${text.replaceAll('\n', '\r\n')}`)).toEqual(board);
    expect(boardOf('x.net', text.replace(/\s+/g, ' '))).toEqual(board);
    const plain = file('reset-corner.net').replaceAll('\r', '');
    expect(boardOf('x.net', plain.replaceAll('\n', '\r\n'))).toEqual(
      boardOf('x.net', file('reset-corner.net')),
    );
  });

  it('offers what a black box may be, and each offer is a line that is read', () => {
    const board = boardOf('reset-corner.tdx');
    const offers = board.parts.flatMap((part) => mendingsOf(part).map((one) => ({ part, ...one })));
    expect(offers.map(({ part: { ref }, words }) => `${ref}: ${words}`)).toEqual([
      'D1: pin 1 is the anode',
      'D1: pin 1 is the cathode',
      'D2: pin 1 is the anode',
      'D2: pin 1 is the cathode',
      'J1: it feeds 9V in',
      ...[
        '1 e, 2 b, 3 c',
        '1 c, 2 b, 3 e',
        '1 e, 2 c, 3 b',
        '1 b, 2 c, 3 e',
        '1 b, 2 e, 3 c',
        '1 c, 2 e, 3 b',
      ].map((order) => `Q1: ${order}`),
    ]);
    const text = writeSheet(board, LIBRARY);
    for (const { part, line, words } of offers) {
      const mended = readSheetLines(withPartLine(text, part.ref, line), LIBRARY);
      expect(mended.issues, words).toEqual([]);
      const [found] = mended.board.parts.filter(({ ref }) => ref === part.ref);
      expect(found!.kind, line).not.toBe('unspecified');
      // The pins stay on their nets, in whatever order the kind counts them.
      expect([...found!.pins].sort()).toEqual([...part.pins].sort());
    }
    expect(withPartLine(text, 'Q99', 'Q99 x')).toBe(text);
  });

  it('never throws, and what it reads fits the schema', () => {
    const forms = [
      'reset-corner.tdx',
      'reset-corner.net',
      'reset-corner-d.net',
      'reset-corner-e.net',
    ];
    const broken = fc.tuple(
      fc.constantFrom(...forms),
      fc.array(
        fc.tuple(
          fc.nat(6000),
          fc.nat(40),
          fc.constantFrom(
            '',
            '(',
            ')',
            '"',
            '\\',
            '[',
            ']',
            '\u0000',
            '=',
            '-',
            '9'.repeat(30),
            '\uD800',
          ),
        ),
        { maxLength: 6 },
      ),
    );
    fc.assert(
      fc.property(broken, ([name, cuts]) => {
        let text = file(name);
        for (const [at, length, put] of cuts)
          text = text.slice(0, at) + put + text.slice(at + length);
        const result = read(name, text);
        if (result.ok) expect(checkBoard(result.value)).toMatchObject({ ok: true });
        else expect(result.issues.length).toBeGreaterThan(0);
      }),
      { seed: 17, numRuns: 500 },
    );
  });
});
