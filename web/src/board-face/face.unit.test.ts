import {
  alignPicture,
  applyAffine,
  boardFrame,
  indexBoard,
  readSheetLines,
} from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import { describe, expect, it } from 'vitest';
import { cornersOf, mirrored, partsOnSide, pictureMatrix, placesOfPoint } from './face';

const board = readSheetLines(
  `outline 100 x 60
R1 A 0 1k pos=10,20
R2 A B 1k pos=30,20 pins=25,20;35,20
C1 B 0 100u pos=50,30 side=bottom
U1 74LS14 1=A 2=B 7=0 14=A pos=70,30
RN1 33R x4 isolated 1=A 8=B pos=80,50
R9 A 0 1k`,
  LIBRARY,
).board;
const rounded = (place: readonly number[]) => place.map((mm) => Math.round(1e6 * mm) / 1e6 + 0);
const FRAME = boardFrame(board)!;

describe('the parts of a side', () => {
  it('are those with a place on it, each once', () => {
    expect(partsOnSide(board, 'top').map(({ ref }) => ref)).toEqual(['R1', 'R2', 'U1', 'RN1']);
    expect(partsOnSide(board, 'bottom').map(({ ref }) => ref)).toEqual(['C1']);
  });
  it('cover their middle, whatever is known of their pins', () => {
    for (const side of ['top', 'bottom'] as const)
      for (const { at, body } of partsOnSide(board, side)) {
        expect(at[0]).toBeGreaterThan(body.x);
        expect(at[0]).toBeLessThan(body.x + body.width);
        expect(at[1]).toBeGreaterThan(body.y);
        expect(at[1]).toBeLessThan(body.y + body.height);
      }
  });
  it.each(Object.keys(DEMO_BOARD_FILES) as Parameters<typeof demoBoard>[0][])(
    'of %s lie within its frame',
    (name) => {
      const demo = demoBoard(name);
      const frame = boardFrame(demo)!;
      const parts = partsOnSide(demo, 'top');
      expect(parts.length).toBeGreaterThan(5);
      expect(new Set(parts.map(({ ref }) => ref)).size).toBe(parts.length);
      for (const { ref, at } of parts) {
        expect(at[0], ref).toBeGreaterThanOrEqual(frame.x);
        expect(at[0], ref).toBeLessThanOrEqual(frame.x + frame.width);
        expect(at[1], ref).toBeLessThanOrEqual(frame.y + frame.height);
      }
    },
  );
});

describe('where a point is', () => {
  it('is the place of each pin, or of its part where pins have none', () => {
    const index = indexBoard(board);
    expect(placesOfPoint(board, index.pinsOfNet.get('B')!)).toEqual(
      expect.arrayContaining([
        [35, 20],
        [50, 30],
        [70, 30],
      ]),
    );
  });
});

describe('a picture under the board', () => {
  const ties = (side: 'top' | 'bottom') =>
    cornersOf(board, side).map(({ onBoard }, i) => ({
      onPicture: [
        [0, 0],
        [1, 0],
        [0, 1],
      ][i] as [number, number],
      onBoard: [...onBoard] as [number, number],
    }));
  it('of the bottom has left and right changed, by the corners that are asked for', () => {
    const affine = alignPicture(ties('bottom'))!;
    expect(rounded(applyAffine(affine, [0, 0]))).toEqual([100, 0]);
    expect(rounded(applyAffine(affine, [1, 1]))).toEqual([0, 60]);
  });
  it.each(['top', 'bottom'] as const)('fills the outline as the %s is seen', (side) => {
    const [, ...figures] = /matrix\((.*)\)/.exec(pictureMatrix(ties(side), FRAME, side)!)!;
    const [a, b, c, d, e, f] = figures[0]!.split(' ').map(Number);
    // Upper left of the picture at the upper left of what is seen, lower right at the lower right.
    expect(rounded([e!, f!])).toEqual([0, 0]);
    expect(rounded([a! + c! + e!, b! + d! + f!])).toEqual([100, 60]);
  });
  it('is none before its corners are known, nor without an outline', () => {
    expect(pictureMatrix([], FRAME, 'top')).toBeUndefined();
    expect(cornersOf({ ...board, outlineMm: undefined }, 'top')).toEqual([]);
  });
  it('turns over and back to the same place', () => {
    for (const x of [0, 17.5, 100]) expect(mirrored(FRAME, mirrored(FRAME, x))).toBeCloseTo(x, 9);
  });
});
