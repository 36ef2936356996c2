import { LIBRARY } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { describe, expect, it } from 'vitest';
import { focusOn } from './focus';

const index = indexBoard(
  readSheetLines(
    `V1 VIN 0 9V
F1 VIN VF T1A
L1 VF VM 100u
C1 VM 0 470u
R1 VM A 1k
R2 A B 1k
R3 B 0 1k
Q1 NPN b=B c=VM e=0
R9 X Y 1k
R8 Y 0 1k
C9 A 0 1u`,
    LIBRARY,
  ).board,
);
const refs = (text: string): string[] => {
  const focus = focusOn(index, text);
  expect(focus.ok, focus.ok ? '' : focus.why).toBe(true);
  return focus.ok ? [...focus.refs].toSorted() : [];
};
const why = (text: string): string => {
  const focus = focusOn(index, text);
  return focus.ok ? '' : focus.why;
};

describe('what part of a sheet is shown', () => {
  it('is a part with what shares its nets', () => {
    expect(refs('r2')).toEqual(['C9', 'Q1', 'R1', 'R2', 'R3']);
  });
  it('is what is on a net, small letters or large', () => {
    expect(refs('vm')).toEqual(['C1', 'L1', 'Q1', 'R1']);
    expect(refs('VM')).toEqual(refs('vm'));
  });
  it('is the way from one point to another with what hangs on it', () => {
    const way = refs('vin to a');
    for (const ref of ['F1', 'L1', 'R1']) expect(way).toContain(ref);
    expect(way).not.toContain('R9');
    expect(refs('f1 → r3')).toEqual(refs('f1 to r3'));
  });
  it('does not lead through ground', () => {
    expect(why('vm to x')).toBe('no way leads from VM to X');
  });
  it('says what is not there', () => {
    expect(why('c77')).toBe('no part, pin or net is called c77');
    expect(why('vm to nowhere')).toBe('no part, pin or net is called nowhere');
    expect(why('')).toMatch(/no part/);
  });
});

describe.each(Object.keys(DEMO_BOARD_FILES) as Parameters<typeof demoBoard>[0][])('%s', (name) => {
  it('is shown around every part and every net, never more than is read at a glance', () => {
    const board = indexBoard(demoBoard(name));
    for (const what of [...board.board.parts.map(({ ref }) => ref), ...board.nets]) {
      const focus = focusOn(board, what);
      expect(focus.ok, what).toBe(true);
      if (focus.ok) {
        expect(focus.refs.size, what).toBeGreaterThan(0);
        expect(focus.refs.size, what).toBeLessThanOrEqual(26);
      }
    }
  });
});
