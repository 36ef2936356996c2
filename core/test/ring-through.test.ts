import { LIBRARY } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';
import { describe, expect, it } from 'vitest';
import {
  BOARD_FORMATS,
  mergeNets,
  nextTouches,
  pairKey,
  parseRing,
  readBoardFile,
  readSheetLines,
  ringContradictions,
  ringInto,
  sheetRemarks,
  withRing,
  type Board,
  type RingResult,
} from '../src/board';

const ring = (sheet: string, said: string): RingResult =>
  ringInto(sheet, parseRing(said)!, LIBRARY);
const text = (sheet: string, said: string): string => {
  const result = ring(sheet, said);
  expect(result.ok, result.words).toBe(true);
  return result.ok ? result.text : '';
};
const words = (sheet: string, said: string): string => ring(sheet, said).words;

describe('what is typed at the beeper', () => {
  it.each([
    ['u3.2 u5.4 beep', { a: 'U3.2', b: 'U5.4', joined: true }],
    ['U3.2  c1.1 open', { a: 'U3.2', b: 'C1.1', joined: false }],
    ['vm r1.2 b', { a: 'VM', b: 'R1.2', joined: true }],
    ['u3.2 beep', undefined],
    ['u3.2 u5.4', undefined],
    ['u3.2 u5.4 4k7', undefined],
    ['', undefined],
  ])('%j', (typed, expected) => {
    expect(parseRing(typed)).toEqual(expected);
  });
});

describe('a beep put into a sheet', () => {
  const SHEET =
    'V1 P5 0 5V\nU3 74LS14 1=RSTRC 14=P5 7=0\nR9 P5 ? 22k # by the edge\nF1 A B T1A\nR1 A C 4k7\nC1 D 0 1u';
  it('joins an open end with a net that is known', () => {
    expect(text(SHEET, 'r9.2 u3.1 beep')).toContain('R9 P5 RSTRC 22k # by the edge');
    expect(text(SHEET, 'u3.2 c1.1 beep')).toContain('U3 74LS14 1=RSTRC 2=D');
    expect(text(SHEET, 'u3.a2 d beep')).toContain('3=D');
  });
  it('gives two open ends a net of their own', () => {
    expect(text(SHEET, 'u3.2 r9.2 beep')).toContain('R9 P5 N1 22k');
    expect(
      readSheetLines(text(SHEET, 'u3.2 r9.2 beep'), LIBRARY).board.parts.filter(({ pins }) =>
        pins.includes('N1'),
      ),
    ).toHaveLength(2);
  });
  it('brings parts into being that are not there', () => {
    const grown = text(SHEET, 'u7.4 c9.2 beep');
    expect(grown).toContain('U7 box 4=N1');
    expect(grown).toContain('C9 ? N1 ?');
    expect(readSheetLines(grown, LIBRARY).issues).toEqual([]);
  });
  it('names what contradicts it and changes nothing', () => {
    expect(ring(SHEET, 'u3.1 c1.1 beep')).toMatchObject({ ok: false, merge: ['RSTRC', 'D'] });
    expect(mergeNets(SHEET, ['RSTRC', 'D'])).toContain('C1 RSTRC 0 1u');
    expect(ring(SHEET, 'u3.14 r9.1 open')).toMatchObject({
      ok: false,
      words: expect.stringContaining('both on P5'),
    });
    expect(words(SHEET, 'u3.15 c1.1 beep')).toContain('U3.15 is no pin');
    expect(words(SHEET, 'nowhere c1.1 beep')).toContain('NOWHERE is no pin and no net');
    expect(words(SHEET, 'c1.1 c1.1 beep')).toContain('says nothing');
  });
  it('knows a beep through a fuse, and none through 4.7 kΩ', () => {
    expect(words(SHEET, 'a b beep')).toContain('through F1');
    expect(ring(SHEET, 'a c beep')).toMatchObject({ ok: false, merge: ['A', 'C'] });
  });
});

describe('which two to touch next', () => {
  const { board } = readSheetLines(
    'V1 P5 0 5V\nU1 74LS04 1=A pos=10,10\nU2 74LS14 pos=20,10\nR1 P5 ? 1k pos=12,12',
    LIBRARY,
  );
  it('asks for grounds and supplies first, and never what is known to be apart', () => {
    const first = nextTouches(board, new Set(), 4);
    expect(first.map(({ a, b }) => `${a} ${b}`)).toEqual([
      'U1.7 0',
      'U2.7 0',
      'U1.14 P5',
      'U2.14 P5',
    ]);
    const apart = new Set(first.map(({ a, b }) => pairKey(b, a)));
    expect(nextTouches(board, apart, 4).some(({ a, b }) => apart.has(pairKey(a, b)))).toBe(false);
  });

  // A section of a demo board hidden but for its parts, rung through by somebody who answers from
  // the board: what is drawn in the end is the board, and no beep was misread.
  it('draws the supplies of a hidden board in as many touches as it has such pins', () => {
    const whole = demoBoard('pd3If');
    const chips = whole.parts.filter(({ kind }) => kind === 'chip').slice(0, 8);
    const hidden: Board = {
      ...whole,
      parts: [
        ...whole.parts.filter(({ kind }) => kind === 'voltageSource'),
        { kind: 'link', ref: 'W1', pins: ['P5', '0'] },
        ...chips.map((part) => ({
          ...part,
          pins: part.pins.map((_, i) => `nc_${part.ref}_${i + 1}`),
        })),
      ],
    };
    const truth = new Map<string, string>(
      chips.flatMap(({ ref, pins }) => pins.map((net, i) => [`${ref}.${i + 1}`, net] as const)),
    );
    const netOf = (point: string): string => truth.get(point) ?? point;
    const apart = new Set<string>();
    let beeps = 0;
    let board = hidden;
    for (let touch = 0; touch < 60; touch += 1) {
      const [next] = nextTouches(board, apart, 1);
      if (!next) break;
      if (netOf(next.a) !== netOf(next.b)) apart.add(pairKey(next.a, next.b));
      else {
        beeps += 1;
        board = {
          ...board,
          parts: board.parts.map((part) => ({
            ...part,
            pins: part.pins.map((net, i) =>
              `${part.ref}.${i + 1}` === next.a ? netOf(next.a) : net,
            ),
          })),
        };
      }
    }
    const grounds = chips.flatMap((part) =>
      part.kind === 'chip' ? part.model.pins.filter(({ role }) => role === 'ground') : [],
    );
    expect(beeps).toBeGreaterThanOrEqual(grounds.length);
    // Grounds of the data sheet are on ground: every one of those touches beeped.
    for (const part of board.parts)
      if (part.kind === 'chip')
        part.model.pins.forEach(({ role }, i) => {
          if (role === 'ground') expect(part.pins[i], `${part.ref}.${i + 1}`).toBe('0');
        });
  });
});

describe('whose word a beep is', () => {
  const SHEET = 'V1 P5 0 5V\nR1 P5 A 1k\nR2 B 0 1k\nF1 A C T1A\nR3 C 0 1k\n';
  const told = {
    a: 'R1.2',
    b: 'R2.1',
    joined: true,
    at: '2026-11-28T09:30Z',
    by: 'Isbet of the loom hall',
    reading: 'r1.2 r2.1 beep',
  };
  const boardOf = (sheet: string) => {
    const { board, issues } = readSheetLines(sheet, LIBRARY);
    expect(issues).toEqual([]);
    return board;
  };
  it('stands on the sheet, and is read back whole', () => {
    expect(boardOf(withRing(SHEET, told)).rings).toEqual([told]);
    expect(boardOf(withRing(SHEET, { a: 'U3.2', b: '0', joined: false })).rings).toEqual([
      { a: 'U3.2', b: '0', joined: false },
    ]);
  });
  it('a later word on a pair, in either order, takes the place of the earlier', () => {
    const first = withRing(SHEET, told);
    const second = withRing(first, { a: 'R2.1', b: 'R1.2', joined: false });
    expect(boardOf(second).rings).toEqual([{ a: 'R2.1', b: 'R1.2', joined: false }]);
  });
  it('is held against the sheet, with who and when', () => {
    const [one] = ringContradictions(boardOf(withRing(SHEET, told)));
    expect(one!.what).toBe(
      'R1.2 and R2.1 beeped (Isbet of the loom hall, 2026-11-28), and the sheet has them on A and B',
    );
    const apart = withRing(SHEET, { a: 'R1.2', b: 'F1.1', joined: false });
    expect(ringContradictions(boardOf(apart))[0]!.what).toMatch(/did not beep.*both on A/);
    expect(sheetRemarks(boardOf(apart)).some(({ what }) => what.includes('did not beep'))).toBe(
      true,
    );
  });
  it('is none where it beeped through a fuse, or where an end is not on the sheet yet', () => {
    expect(ringContradictions(boardOf(withRing(SHEET, { a: 'A', b: 'C', joined: true })))).toEqual(
      [],
    );
    expect(
      ringContradictions(boardOf(withRing(SHEET, { a: 'U9.1', b: 'C', joined: true }))),
    ).toEqual([]);
  });
  it.each(['.json', '.cir', '.sheet'] as const)('survives being written as %s', (ending) => {
    const board = boardOf(withRing(SHEET, told));
    const text = BOARD_FORMATS[ending]!.write!(board, LIBRARY);
    const again = readBoardFile(`board${ending}`, text, LIBRARY);
    expect(again.ok && again.value.rings).toEqual([told]);
  });
  it.each([
    'ring U3.2 U5.4',
    'ring U3.2 U5.4 maybe',
    'ring U3.2 U5.4 beep at=yesterday',
    'ring U3.2 U5.4 beep colour=red',
  ])('“%s” is no word of the sheet', (line) => {
    expect(readSheetLines(line, LIBRARY).issues[0]?.expected).toContain('ring U3.2 U5.4 beep');
  });
});

describe('what is undrawn about a suspect', () => {
  const board = readSheetLines(
    'V1 P5 0 5V\nU1 74LS00 1=A 14=P5 7=0\nU2 74LS00 1=B 14=P5 7=0\nR1 A ? 1k\nR2 C ? 1k\nR3 C ? 1k',
    LIBRARY,
  ).board;
  const touched = (suspects: string[]) =>
    nextTouches(board, new Set(), 6, new Set(suspects)).flatMap(({ a, b }) => [a, b]);
  it('comes first, then what shares a net with it', () => {
    expect(touched(['r2']).filter((pin) => pin === 'R2.2').length).toBeGreaterThan(3);
    const [first] = nextTouches(board, new Set(), 1, new Set(['r2']));
    expect(first!.because).toContain('about a suspect');
    // R1 shares a net with U1, and is proposed for it.
    expect(touched(['u1']).some((pin) => pin === 'R1.2' || pin.startsWith('U1.'))).toBe(true);
  });
  it('changes nothing where nothing is suspected', () => {
    expect(nextTouches(board, new Set(), 6, new Set())).toEqual(nextTouches(board, new Set(), 6));
  });
});

describe('an open end that beeps where several nets beep alike', () => {
  const SHEET = 'V1 S 0 9V\nF1 S A T1A\nR1 A B 4k7\nR9 ? 0 1k\nU3 74LS14 1=B 7=0';
  it('is asked which one it is on, through which part', () => {
    const asked = ring(SHEET, 'r9.1 a beep');
    expect(asked).toMatchObject({ ok: false, nets: ['A', 'S'] });
    expect(asked.words).toBe('S beeps with A through F1: which one is it on?');
    expect(ring(SHEET, 'a r9.1 beep')).toMatchObject({ ok: false, nets: ['A', 'S'] });
  });
  it('is put on the one that was said', () => {
    const put = ringInto(SHEET, parseRing('r9.1 a beep')!, LIBRARY, 'S');
    expect(put.ok && put.text).toContain('R9 S 0 1k');
    expect(put.words).toBe('R9.1 is on S');
  });
  it('is not asked where only one net beeps, nor of an open', () => {
    expect(ring(SHEET, 'r9.1 b beep').ok).toBe(true);
    expect(ring(SHEET, 'r9.1 a open').ok).toBe(true);
  });
});
