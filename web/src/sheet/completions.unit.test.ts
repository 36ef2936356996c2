import { readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { describe, expect, it } from 'vitest';
import { completionsAt } from './completions';

const { board } = readSheetLines(
  'R1 VCC VREF 1k\nR7 VREF 0 1k\nC1 VREF 0 1u\nU3 74LS14 1=VREF 14=VCC 7=0',
  LIBRARY,
);
const labels = (before: string): string[] =>
  completionsAt(before, board, ['74LS14', '74LS86']).map(({ label }) => label);

describe('what may come next on a line', () => {
  it('at its beginning: the next free designator of each kind, and words of the sheet', () => {
    expect(labels('')).toEqual(expect.arrayContaining(['R8', 'C2', 'U4', 'D1', 'edge', '==']));
  });
  it('behind a part of two pins: nets, those with most pins first, then words of its kind', () => {
    expect(labels('C2 V').slice(0, 3)).toEqual(['VREF', '0', 'VCC']);
    expect(labels('C2 VREF 0 1u e')[0]).toBe('electrolytic');
  });
  it('behind a chip: numbers of the library, then its pins that are on nothing', () => {
    expect(labels('U4 74')).toEqual(['74LS14', '74LS86']);
    const pins = labels('U3 74LS14 ');
    expect(pins).toContain('2=');
    expect(pins).not.toContain('1=');
    expect(pins).not.toContain('14=');
  });
  it('behind a pin: nets, and nothing behind a figure', () => {
    expect(labels('U3 74LS14 2=')).toEqual(['VREF', '0', 'VCC']);
    expect(labels('C1 VREF 0 esr=')).not.toEqual(['VREF', '0', 'VCC']);
  });
});
