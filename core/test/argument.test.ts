import { describe, expect, it } from 'vitest';
import { indexBoard, readSheetLines, type BoardIndex } from '../src/board';
import { LIBRARY, RATES } from '../../data';
import { argueSteps, Diagnoser, partsAlike, type Argument, type Side } from '../src/diagnosis';
import { parseShorthand, type Reading } from '../src/instrument';

const index = indexBoard(
  readSheetLines(
    `J1 9V in: 1=VIN 2=0
F1 VIN V1 T1A
L1 V1 V2 100u
R1 V2 VM 1R
C1 VM 0 470u
R9 VM 0 100`,
    LIBRARY,
  ).board,
);
const take = (board: BoardIndex, ...lines: string[]): readonly Reading[] =>
  lines.map((line) => {
    const read = parseShorthand(board, line);
    if (!read.ok) throw new Error(`${line}: ${read.expected}`);
    return read.reading;
  });
const argue = (readings: readonly Reading[], one: Side, other: Side): Argument => {
  const work = argueSteps(new Diagnoser(index, RATES), readings, one, other);
  const shares: number[] = [];
  for (;;) {
    const step = work.next();
    if (step.done) {
      expect(shares).toEqual([...shares].sort((a, b) => a - b));
      expect(shares.at(-1) ?? 1).toBeCloseTo(1);
      return step.value;
    }
    shares.push(step.value);
  }
};
const alike = (...lines: string[]): readonly (readonly string[])[] =>
  partsAlike(new Diagnoser(index, RATES).believe(take(index, ...lines)), 0.01);

describe('parts that no reading tells apart', () => {
  it('are what lies in a row and was read at its end only', () => {
    const [group] = alike('vm 0.001');
    expect(group).toEqual(expect.arrayContaining(['F1', 'L1', 'R1']));
  });
  it('fall apart by a reading between them', () => {
    const groups = alike('vm 0.001', 'v2 9');
    expect(groups.some((group) => group.includes('R1') && group.includes('F1'))).toBe(false);
    // What is dead in front of the reading still is not told apart, if it counts at all.
    expect(groups.flat()).not.toContain('R1');
  });
  it('are none where every reading says something else of each', () => {
    expect(alike('vm 0.001', 'v2 0.001', 'v1 9', 'l1 open').flat()).not.toContain('L1');
  });
  it('before any reading all are alike', () => {
    expect(alike()[0]!.length).toBeGreaterThan(2);
  });
});

describe('the argument for one part against another', () => {
  const readings = take(index, 'vm 0.001', 'v1 9', 'v2 0.001');
  it('adds up: odds before and what each reading moved are the odds in the end', () => {
    for (const other of [{ ref: 'F1' }, { ref: 'R1' }, 'healthy'] as const) {
      const { before, steps, after } = argue(readings, { ref: 'L1' }, other);
      expect(before + steps.reduce((sum, { moved }) => sum + moved, 0)).toBeCloseTo(after, 9);
      expect(steps.at(-1)!.after).toBeCloseTo(after, 9);
    }
  });
  it('has the sides in balance where it is turned round', () => {
    const [one, back] = [
      argue(readings, { ref: 'L1' }, { ref: 'F1' }),
      argue(readings, { ref: 'F1' }, { ref: 'L1' }),
    ];
    expect(one.after).toBeCloseTo(-back.after, 9);
    one.steps.forEach(({ moved }, i) => expect(moved).toBeCloseTo(-back.steps[i]!.moved, 9));
  });
  it('names the reading on which the order turns, and the exact odds without it', () => {
    const argument = argue(readings, { ref: 'L1' }, { ref: 'R1' });
    const without = argue(
      readings.filter((_, i) => i !== 2),
      { ref: 'L1' },
      { ref: 'R1' },
    );
    expect(argument.turnsOn === 2 || argument.turnsOn === undefined).toBe(true);
    expect(argument.steps[2]!.without).toBeCloseTo(without.after, 9);
    // A board that is dead at VM only: with that reading gone a sound board leads.
    const dead = argue(take(index, 'vm 0.001'), { ref: 'F1' }, 'healthy');
    expect(dead.turnsOn).toBe(0);
    expect(dead.after).toBeGreaterThan(0);
  });
  it('says nothing turns where two readings say the same', () => {
    const twice = argue(take(index, 'vm 0.001', 'v2 0.002', 'v1 0.001'), { ref: 'F1' }, 'healthy');
    expect(twice.turnsOn).toBeUndefined();
  });
  it('has the belief after each reading', () => {
    const { history } = argue(readings, { ref: 'L1' }, 'healthy');
    expect(history).toHaveLength(4);
    expect(history[0]!.healthy).toBeGreaterThan(history[3]!.healthy);
    expect(history[3]!.byPart[0]!.ref).toBe('L1');
  });
  it('a part that is not on the board has no chance', () => {
    expect(argue(readings, { ref: 'X99' }, { ref: 'L1' }).after).toBeLessThan(-100);
  });
});
