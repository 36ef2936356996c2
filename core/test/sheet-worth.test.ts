import { LIBRARY } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import { describe, expect, it } from 'vitest';
import { indexBoard, readSheetLines } from '../src/board';
import { sheetWorth } from '../src/diagnosis';
import { parseFaults } from '../src/fault';

// 9 V over three resistors: 3 V and 6 V by hand; A and B are edges, C is not.
const index = indexBoard(
  readSheetLines(
    'edge A the head board\nedge B\nedge NOWHERE\nJ1 9V in: 1=VIN 2=0\nF1 VIN V9 T1A\nR1 V9 A 1k\nR2 A B 1k\nR3 B 0 1k\nC1 V9 0 100u',
    LIBRARY,
  ).board,
);
const suspects = (...names: string[]) =>
  names.map((name) => {
    const read = parseFaults(index, name);
    if (!read.ok) throw new Error(read.what);
    return read.faults;
  });

describe('what it would bring to draw what hangs on an edge', () => {
  it('counts the groups that volts there would part the suspects into', () => {
    // At A: 0 V with R1 open, 9 V with R2 open, 9 V with R3 open. At B: 0, 0 and 9 V.
    expect(sheetWorth(index, suspects('R1:open', 'R2:open', 'R3:open'), [])).toEqual([
      { net: 'A', groups: 2, of: 3, note: 'the head board' },
      { net: 'B', groups: 2, of: 3, note: undefined },
    ]);
    // R2 shorted puts both at 4.5 V.
    expect(sheetWorth(index, suspects('R1:open', 'R2:short', 'R3:open'), [])[0]).toMatchObject({
      net: 'A',
      groups: 3,
    });
  });
  it('leaves out what would part nothing', () => {
    expect(sheetWorth(index, suspects('F1:open', 'R1:open'), [])).toEqual([]);
    expect(sheetWorth(index, suspects('R1:open'), [])).toEqual([]);
    expect(sheetWorth(index, [], [])).toEqual([]);
  });
  it('names edges of the demo boards alone', () => {
    for (const name of Object.keys(DEMO_BOARD_FILES) as Parameters<typeof demoBoard>[0][]) {
      const board = indexBoard(demoBoard(name));
      const parts = board.board.parts.filter(({ kind }) => kind === 'resistor').slice(0, 4);
      const faults = parts.flatMap(({ ref }) => {
        const read = parseFaults(board, `${ref}:open`);
        return read.ok ? [read.faults] : [];
      });
      const edges = (board.board.edges ?? []).map(({ net }) => net);
      for (const { net, groups, of } of sheetWorth(board, faults, [])) {
        expect(edges).toContain(net);
        expect(groups).toBeGreaterThan(1);
        expect(groups).toBeLessThanOrEqual(of);
      }
    }
  });
});
