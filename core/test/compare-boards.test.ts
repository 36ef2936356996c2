import { LIBRARY } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';
import { describe, expect, it } from 'vitest';
import { boardChanges, readSheetLines } from '../src/board';

const sheet = (text: string) => readSheetLines(`title x\n${text}`, LIBRARY).board;
const changes = (before: string, after: string): string[] =>
  boardChanges(sheet(before), sheet(after));

describe('what changed between two versions of a sheet', () => {
  it.each<[string, string, string[]]>([
    ['R1 A B 1k', 'R1 A B 1k', []],
    ['R1 A B 1k', 'R1 A B 1k\nC1 A 0 1u\nC2 A 0 1u', ['C1, C2 are new']],
    ['R1 A B 1k\nC1 A 0 1u', 'R1 A B 1k', ['C1 is gone']],
    ['R1 A B 1k', 'R1 A B 2k2', ['R1 was 1k, is 2k2']],
    ['R1 A B ?', 'R1 A B 2k2', ['R1 was ?, is 2k2']],
    ['R1 A B 1k\nR2 B C 1k', 'R1 A B 1k\nR2 A C 1k', ['R2.1 was on B, is on A']],
    ['R1 A B 1k\nR2 B C 1k', 'R1 A VREF 1k\nR2 VREF C 1k', ['net B is called VREF']],
    ['R1 A B 1k\nR2 B C 1k', 'R1 A VREF 1k\nR2 B C 1k', ['R1.2 was on B, is on VREF']],
    ['C1 A 0 1u esr=0.2', 'C1 A 0 1u esr=0.4 role=bulk', ['C1: ESR, role changed']],
    ['R1 A B 1k', 'R1 resistor A B 1k\nedge A', ['edges: 0 before, 1 now']],
    ['D1 A B 1N4148', 'R1 A B 1k', ['R1 is new', 'D1 is gone']],
  ])('%j to %j', (before, after, lines) => {
    expect(changes(before, after)).toEqual(lines);
  });

  it('nothing between a board and itself', () => {
    expect(boardChanges(demoBoard('yc2Whole'), demoBoard('yc2Whole'))).toEqual([]);
  });
});
