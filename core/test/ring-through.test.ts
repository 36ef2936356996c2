import { LIBRARY } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';
import { describe, expect, it } from 'vitest';
import {
  mergeNets,
  nextTouches,
  pairKey,
  parseRing,
  readSheetLines,
  ringInto,
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
