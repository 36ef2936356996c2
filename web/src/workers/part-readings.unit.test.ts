// In circuit too high or open convicts and nominal acquits nobody; ESR the other way round: common
// practice, no published source.
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { describe, expect, it } from 'vitest';
import type { Course } from './engine';
import { PartReadings } from './part-readings';

const { board } = readSheetLines(
  'J1 9V in: 1=A 2=0\nR1 A B 1k\nR2 A B 1k\nR3 B C 10k\nR4 C 0 10k\nC1 B 0 47u 16V electrolytic esr=0.3\nC2 B 0 47u 16V electrolytic esr=0.3',
  LIBRARY,
);
const reading = (id: string, kind: string, ref: string, value: number | string) => ({
  id,
  setup: 'off',
  kind,
  at: `${ref}.1`,
  to: `${ref}.2`,
  value,
  absent: [],
});
const quiet: Course = { send: () => undefined, pause: () => Promise.resolve(), stale: () => false };
const conclude = async (readings: readonly unknown[], course = quiet) =>
  new PartReadings(indexBoard(board)).conclude({ readings }, course);

describe('whether a reading is conclusive', () => {
  it('above what a parallel path can do, or open, convicts; nominal in circuit acquits nobody', async () => {
    const found = (await conclude([
      reading('open', 'resistance', 'R3', 'OL'),
      reading('high', 'resistance', 'R3', 15_000),
      reading('both', 'resistance', 'R1', 500),
      reading('esr', 'esr', 'C1', 0.15),
    ]))!;
    expect(found.open).toMatchObject({ conclusive: true });
    expect(found.high).toMatchObject({ conclusive: true, remedy: '' });
    expect(found.high!.words).toMatch(/R3:/);
    // Two of a kind side by side: what one of them does the other hides.
    expect(found.esr).toMatchObject({ conclusive: false });
    expect(found.esr!.remedy).toMatch(/lift one leg of C1.* min/);
  });
  it('is said of readings across one part, power off, and of nothing else', async () => {
    const powered = { ...reading('volts', 'voltage', 'R1', 5), setup: 'on' };
    const elsewhere = { ...reading('far', 'resistance', 'R1', 5), at: 'A', to: 'C' };
    expect(await conclude([powered, elsewhere, reading('gone', 'resistance', 'R9', 5)])).toEqual(
      {},
    );
  });
  it('stops when nobody waits any more, and knows what it worked out before', async () => {
    let stale = false;
    let pauses = 0;
    const course: Course = { ...quiet, pause: async () => void (pauses += 1), stale: () => stale };
    const engine = new PartReadings(indexBoard(board));
    const asked = { readings: [reading('a', 'resistance', 'R3', 15_000)] };
    await engine.conclude(asked, course);
    await engine.conclude(asked, course);
    expect(pauses).toBe(1);
    stale = true;
    expect(
      await engine.conclude({ readings: [reading('b', 'resistance', 'R3', 9000)] }, course),
    ).toBeUndefined();
  });
});
