import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { describe, expect, it } from 'vitest';
import { boardValue } from './board-value';

const { board } = readSheetLines(
  `J1 9V in: 1=VIN 2=0
C1 VIN 0 470u 16V electrolytic
F1 VIN A T1A
S1 A B closed
R1 B 0 1k`,
  LIBRARY,
);
const index = indexBoard(board);

describe('what the board says that a part is', () => {
  it.each([
    ['C1', '470u 16V'],
    ['R1', '1k'],
    ['S1', 'switch'],
    ['Q9', ''],
  ])('%s is %s', (ref, value) => {
    expect(boardValue(index, ref)).toBe(value);
  });
});
