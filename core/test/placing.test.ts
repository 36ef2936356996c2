import { LIBRARY } from '@hanzai/data';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  alignPicture,
  applyAffine,
  BOARD_FORMATS,
  boardFrame,
  footprintOf,
  invertAffine,
  pinPlaces,
  readBoardFile,
  readSheetLines,
  usualPackage,
  worstTie,
  type Tie,
  type Turn,
} from '../src/board';

const at = (name: string, pins: number): readonly (readonly [number, number])[] =>
  footprintOf(name, pins)!.pins;

// JEDEC MS-001 and MS-011 (dual in line), MS-012 (small outline), from memory.
describe('pins of a package', () => {
  it.each([
    ['DIP14', 14, 2.54, 7.62],
    ['DIP-16', 16, 2.54, 7.62],
    ['PDIP20', 20, 2.54, 7.62],
    ['DIP40', 40, 2.54, 15.24],
    ['SO14', 14, 1.27, 5.4],
    ['SOIC-16', 16, 1.27, 5.4],
  ])('%s: %i pins in two rows, %f mm apart, rows %f mm', (name, pins, pitch, across) => {
    const places = at(name, pins);
    expect(places).toHaveLength(pins);
    expect(places[1]![1] - places[0]![1]).toBeCloseTo(pitch, 6);
    expect(places[pins - 1]![0] - places[0]![0]).toBeCloseTo(across, 6);
    // The last pin faces the first, the middle ones face each other.
    expect(places[pins - 1]![1]).toBeCloseTo(places[0]![1], 6);
    expect(places[pins / 2]![1]).toBeCloseTo(places[pins / 2 - 1]![1], 6);
  });
  it('are numbered counterclockwise from above, from the upper left', () => {
    for (const pins of [8, 14, 40]) {
      const places = at(`DIP${pins}`, pins);
      expect(places[0]![0]).toBeLessThan(0);
      expect(places[0]![1]).toBeLessThan(0);
      // Shoelace over the pins in order; with y downwards counterclockwise comes out negative.
      const area = places.reduce((sum, [x, y], i) => {
        const [nx, ny] = places[(i + 1) % pins]!;
        return sum + x * ny - nx * y;
      }, 0);
      expect(area).toBeLessThan(0);
    }
  });
  it.each([
    ['SIP9', 9, 8 * 2.54],
    ['TO-92', 3, 2.54],
    ['TO-220', 3, 5.08],
    ['radial 5', 2, 5],
    ['radial', 2, 5],
    ['axial 12.7', 2, 12.7],
  ])('%s with %i pins spans %f mm in a line', (name, pins, span) => {
    const places = at(name, pins);
    expect(places.at(-1)![0] - places[0]![0]).toBeCloseTo(span, 6);
    expect(new Set(places.map(([, y]) => y)).size).toBe(1);
  });
  it('0805 is 2.0 by 1.3 mm', () => {
    const [width, height] = footprintOf('0805', 2)!.body;
    expect(width).toBeCloseTo(2.03, 1);
    expect(height).toBeCloseTo(1.27, 1);
  });
  it.each([
    ['DIP14', 16],
    ['DIP', 7],
    ['SO8', 3],
    ['TO-92', 2],
    ['radial', 3],
    ['0805', 3],
    ['whatever', 2],
    ['', 14],
  ])('“%s” with %i pins says nothing', (name, pins) => {
    expect(footprintOf(name, pins)).toBeUndefined();
  });
  it('are proposed for every kind of part, with the pins that it has', () => {
    const text = `U1 74LS14 1=A 7=0 14=B\nQ1 NPN c=A b=B e=0\nC1 A 0 100u\nC2 A 0 100n\nR1 A B 1k
D1 A B 1N4148\nF1 A B T1A\nS1 A B\nM1 A B 4m dcr=8\nK1 relay coil1=A coil2=0 common=B\nU2 7805 in=A ground=0 out=B\nU3 box 1=A 5=B`;
    for (const part of readSheetLines(text, LIBRARY).board.parts)
      expect(footprintOf(usualPackage(part), part.pins.length)?.pins, part.ref).toHaveLength(
        part.pins.length,
      );
  });
  it('turn a quarter clockwise four times back to where they were, on both sides', () => {
    const dip = footprintOf('DIP14', 14)!;
    for (const side of ['top', 'bottom'] as const) {
      const [first] = pinPlaces(dip, [30, 20], 0, side);
      const quarter = pinPlaces(dip, [30, 20], 1, side)[0]!;
      // Clockwise with y downwards: (x, y) goes to (−y, x) about the middle.
      expect(quarter[0] - 30).toBeCloseTo(-(first![1] - 20), 6);
      expect(quarter[1] - 20).toBeCloseTo(first![0] - 30, 6);
    }
    expect(pinPlaces(dip, [30, 20], 2, 'top')[0]).toEqual(pinPlaces(dip, [30, 20], 0, 'top')[7]);
  });
  it('on the bottom are the mirror image of those on the top', () => {
    const dip = footprintOf('DIP8', 8)!;
    const [top, bottom] = [pinPlaces(dip, [0, 0], 0, 'top'), pinPlaces(dip, [0, 0], 0, 'bottom')];
    bottom.forEach(([x, y], i) => {
      expect(x).toBeCloseTo(-top[i]![0], 6);
      expect(y).toBeCloseTo(top[i]![1], 6);
    });
  });
});

describe('a picture laid on the board by three points', () => {
  const corners = (width: number, height: number): Tie[] => [
    { onPicture: [0.1, 0.2], onBoard: [0, 0] },
    { onPicture: [0.9, 0.2], onBoard: [width, 0] },
    { onPicture: [0.1, 0.8], onBoard: [0, height] },
  ];
  it('puts what lies between where it belongs', () => {
    const affine = alignPicture(corners(160, 100))!;
    const [x, y] = applyAffine(affine, [0.5, 0.5]);
    expect(x).toBeCloseTo(80, 9);
    expect(y).toBeCloseTo(50, 9);
    expect(worstTie(affine, corners(160, 100))).toBeLessThan(1e-9);
  });
  it('takes a mirrored picture of the other side', () => {
    const mirrored: Tie[] = [
      { onPicture: [0.9, 0.1], onBoard: [0, 0] },
      { onPicture: [0.1, 0.1], onBoard: [160, 0] },
      { onPicture: [0.9, 0.9], onBoard: [0, 100] },
    ];
    const affine = alignPicture(mirrored)!;
    expect(affine.a * affine.d - affine.b * affine.c).toBeLessThan(0);
    expect(applyAffine(affine, [0.1, 0.9])[0]).toBeCloseTo(160, 9);
  });
  it('says nothing of two points, of three on one line, or of one place thrice', () => {
    expect(alignPicture(corners(160, 100).slice(0, 2))).toBeUndefined();
    const line = [0.1, 0.5, 0.9].map((x): Tie => ({ onPicture: [x, x], onBoard: [x, 2 * x] }));
    expect(alignPicture(line)).toBeUndefined();
    const same = [1, 2, 3].map((n): Tie => ({ onPicture: [0.5, 0.5], onBoard: [n, n] }));
    expect(alignPicture(same)).toBeUndefined();
    const flat = corners(160, 100).map(({ onPicture }): Tie => ({ onPicture, onBoard: [1, 1] }));
    expect(alignPicture(flat)).toBeUndefined();
  });
  it('goes there and back, for any three points that are no line', () => {
    const share = fc.double({ min: 0, max: 1, noNaN: true });
    const mm = fc.double({ min: -300, max: 300, noNaN: true });
    const tie = fc.record({ onPicture: fc.tuple(share, share), onBoard: fc.tuple(mm, mm) });
    fc.assert(
      fc.property(fc.tuple(tie, tie, tie), share, share, (ties, x, y) => {
        const affine = alignPicture(ties);
        if (!affine || Math.abs(affine.a * affine.d - affine.b * affine.c) < 1) return;
        expect(worstTie(affine, ties)).toBeLessThan(1e-4);
        const [bx, by] = applyAffine(invertAffine(affine), applyAffine(affine, [x, y]));
        expect(Math.hypot(bx - x, by - y)).toBeLessThan(1e-4);
      }),
    );
  });
  it('evens out a fourth point that was tapped a little beside', () => {
    const ties = [...corners(160, 100), { onPicture: [0.9, 0.8], onBoard: [162, 100] } as Tie];
    const worst = worstTie(alignPicture(ties)!, ties);
    expect(worst).toBeGreaterThan(0.1);
    expect(worst).toBeLessThan(2);
  });
});

describe('the frame of a board', () => {
  const board = (text: string) => readSheetLines(text, LIBRARY).board;
  it('is its outline, else what its places span, else nothing', () => {
    expect(boardFrame(board('outline 100 x 80\nR1 A 0 1k'))).toEqual({
      x: 0,
      y: 0,
      width: 100,
      height: 80,
    });
    expect(boardFrame(board('R1 A 0 1k pos=10,20\nR2 A 0 1k pos=50,60 pins=48,60;52,61'))).toEqual({
      x: 6,
      y: 16,
      width: 50,
      height: 49,
    });
    expect(boardFrame(board('R1 A 0 1k'))).toBeUndefined();
  });
  it.each(['.sheet', '.cir', '.json'] as const)('sides and pins survive %s', (ending) => {
    const placed = board('R1 A 0 1k pos=10,20 pins=8,20;12,20 side=bottom package="axial 10"');
    const again = readBoardFile(
      `b${ending}`,
      BOARD_FORMATS[ending]!.write!(placed, LIBRARY),
      LIBRARY,
    );
    expect(again.ok && again.value.parts[0]).toMatchObject({
      side: 'bottom',
      pinPositionsMm: [
        [8, 20],
        [12, 20],
      ],
      package: 'axial 10',
    });
  });
  it('every turn keeps the distances between pins', () => {
    const shape = footprintOf('SO8', 8)!;
    for (const turn of [0, 1, 2, 3] as Turn[]) {
      const places = pinPlaces(shape, [5, 5], turn, 'top');
      const far = (i: number, k: number): number =>
        Math.hypot(places[i]![0] - places[k]![0], places[i]![1] - places[k]![1]);
      expect(far(0, 1)).toBeCloseTo(1.27, 2);
      expect(far(0, 7)).toBeCloseTo(5.4, 2);
    }
  });
});
