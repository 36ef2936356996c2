import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { parseShorthand } from '@hanzai/core/instrument';
import { LIBRARY } from '@hanzai/data';
import { describe, expect, it } from 'vitest';
import type { Journal, TakenReading } from '../../../case/journal';
import { chipsOf, contradicts, partingTouches, pinsOf, readOnNet } from './chip-pins';

const index = indexBoard(
  readSheetLines(
    [
      'J1 5V in: 1=P5 2=0',
      'U1 74LS00 1=A 2=B 3=Y 4=Y 5=B 6=Q 7=0 14=P5',
      'U2 74LS03 1=A 2=B 3=BUS 7=0 14=P5',
      'R1 BUS P5 1k',
    ].join('\n'),
    LIBRARY,
  ).board,
);
const [nand, collector] = chipsOf(index) as [
  ReturnType<typeof chipsOf>[0],
  ReturnType<typeof chipsOf>[0],
];
const journal = (...lines: string[]): Journal =>
  ({
    readings: lines.map((line) => {
      const past = line.startsWith('past ');
      const read = parseShorthand(index, line.replace('past ', ''));
      if (!read.ok) throw new Error(`${line}: ${read.expected}`);
      return { ...read.reading, current: !past } as TakenReading;
    }),
  }) as unknown as Journal;
const pin = (of: typeof nand, at: number, ...lines: string[]) =>
  pinsOf(index, journal(...lines), of, { A: '1', Y: '0' })[at - 1]!;

describe('pins of a chip in view', () => {
  it('have their net, what a sound board has there, and what was read at the pin or on its net', () => {
    expect(pin(nand, 1)).toMatchObject({ net: 'A', wanted: '1', read: undefined, conflict: false });
    expect(pin(nand, 1, 'a 1')).toMatchObject({ read: '1' });
    // The pin itself counts before the net, the newest before an older one, volts as levels.
    expect(pin(nand, 1, 'u1.1 0', 'a 1')).toMatchObject({ read: '0' });
    expect(pin(nand, 1, 'a 1', 'a 0')).toMatchObject({ read: '0' });
    expect(pin(nand, 1, 'a 3.4 volts')).toMatchObject({ read: '1' });
    expect(pin(nand, 1, 'a 1.4 volts')).toMatchObject({ read: 'Z' });
    // What was read before a repair speaks of another board.
    expect(pin(nand, 1, 'past a 1')).toMatchObject({ read: undefined });
  });
  it('a conflict lights up only where what was read decides it', () => {
    expect(pin(nand, 3, 'a 1', 'b 1', 'y 1')).toMatchObject({ driven: '0', conflict: true });
    expect(pin(nand, 3, 'a 1', 'b 1', 'y 0').conflict).toBe(false);
    expect(pin(nand, 3, 'a 1', 'y 1')).toMatchObject({ driven: undefined, conflict: false });
    // One low input decides a NAND.
    expect(pin(nand, 3, 'a 0', 'y 0')).toMatchObject({ driven: '1', conflict: true });
  });
  it('an open collector that lets go is no conflict when the line is low: another may hold it', () => {
    expect(pin(collector, 3, 'a 0', 'bus 0')).toMatchObject({ driven: 'Z', conflict: false });
    expect(pin(collector, 3, 'a 1', 'b 1', 'bus 1')).toMatchObject({ driven: '0', conflict: true });
  });
  it.each([
    ['0', '1', true],
    ['1', '1', false],
    ['P', '0', true],
    ['P', 'Z', false],
    ['Z', '0', false],
    [undefined, '0', false],
    ['0', undefined, false],
  ] as const)('driven %s, read %s: %s', (driven, read, conflict) =>
    expect(contradicts(driven, read)).toBe(conflict),
  );
  it('what parts the explanations comes cheapest first and names the next pin on the net', () => {
    const touches = partingTouches(index, nand, pin(nand, 3, 'a 1', 'b 1', 'y 0'));
    expect(touches.map(({ minutes }) => minutes)).toEqual(
      touches.map(({ minutes }) => minutes).sort((a, b) => a - b),
    );
    const [first] = partingTouches(index, collector, pin(collector, 3, 'bus 0'));
    expect(first!.title).toContain('R1');
  });
  it('a net has its newest level', () => {
    expect(readOnNet(journal('y 1', 'y 0'), 'Y')).toBe('0');
    expect(readOnNet(journal('a 1'), 'Y')).toBeUndefined();
  });
});
