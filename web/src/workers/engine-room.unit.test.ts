import type { Board } from '@hanzai/core/board';
import { demoBoard } from '@hanzai/data/demo';
import { describe, expect, it } from 'vitest';
import { Engine } from './engine';
import type { EngineEvent } from './engine-messages';
import { EngineRoom } from './engine-room';

const nothing = { ticket: 1, readings: [], absent: [], look: {} };
const types = (events: readonly EngineEvent[]): string[] =>
  events.map(({ type }) => type).filter((type) => type !== 'progress');

/**
 * A board with so many parts that one can tell it from others; only how many there are counts here.
 */
function boardOf(parts: number, title = ''): Board {
  const board = demoBoard('cr40');
  const connector = board.parts.find(({ kind }) => kind === 'connectorPin')!;
  return {
    ...board,
    title: title || board.title,
    parts: Array.from({ length: parts }, (_, i) => ({ ...connector, ref: `J${i + 1}` })),
  };
}

function room(): { made: string[]; at: EngineRoom } {
  const made: string[] = [];
  const make = (board: Board): Engine => (
    made.push(board.title ?? ''),
    new Engine(demoBoard('cr40'))
  );
  return { made, at: new EngineRoom(async () => undefined, make) };
}

describe('the room where the engines work', () => {
  it('gives two pages with one board one engine, and tells the second that it was at work', () => {
    const { made, at } = room();
    expect(at.door().open({ board: boardOf(3) })).toBe(false);
    expect(at.door().open({ board: boardOf(3) })).toBe(true);
    expect(at.door().open({ board: boardOf(4) })).toBe(false);
    expect(made).toHaveLength(2);
  });

  it('lets go of the board asked longest ago where the others are large', () => {
    const { at } = room();
    const [a, b, c] = [boardOf(300, 'a'), boardOf(300, 'b'), boardOf(300, 'c')];
    const open = (board: Board): boolean => at.door().open({ board });
    expect([a, b, a, c].map(open)).toEqual([false, false, true, false]);
    // Three fit beside the newest by their parts: 600 of 700.
    expect([a, b].map(open)).toEqual([true, true]);
    expect(open(boardOf(350, 'd'))).toBe(false);
    expect([b, a, c].map(open)).toEqual([true, true, false]);
  });

  it('keeps a board however large while it is at work', () => {
    const { at } = room();
    expect([boardOf(2000), boardOf(2000)].map((board) => at.door().open({ board }))).toEqual([
      false,
      true,
    ]);
  });

  it('works on one request at a time, and each page gets its own answer', async () => {
    const { at } = room();
    const [one, other] = [at.door(), at.door()];
    const events: string[] = [];
    for (const door of [one, other]) door.open({ board: boardOf(1) });
    await Promise.all([
      one.assess(nothing, ({ type }) => events.push(`one ${type}`)),
      other.assess(nothing, ({ type }) => events.push(`other ${type}`)),
    ]);
    expect(events.filter((event) => !event.endsWith('progress'))).toEqual([
      'one line-up',
      'one next',
      'other line-up',
      'other next',
    ]);
  });

  it('answers the newest request of a page only', async () => {
    const { at } = room();
    const door = at.door();
    door.open({ board: boardOf(1) });
    const [older, newer]: [EngineEvent[], EngineEvent[]] = [[], []];
    await Promise.all([
      door.assess(nothing, (event) => older.push(event)),
      door.assess({ ...nothing, ticket: 2 }, (event) => newer.push(event)),
    ]);
    expect(types(older)).toEqual([]);
    expect(types(newer)).toEqual(['line-up', 'next']);
  });

  it('stops in the middle of work for a page that has left, and goes on with the next', async () => {
    const doors: ReturnType<EngineRoom['door']>[] = [];
    let turns = 0;
    // The page leaves at the first turn.
    const at = new EngineRoom(
      async () => void (++turns === 1 && doors[0]!.leave()),
      (board) => new Engine(board),
    );
    const door = (doors[0] = at.door());
    door.open({ board: demoBoard('cr40') });
    const [left, stayed]: [EngineEvent[], EngineEvent[]] = [[], []];
    await door.assess(nothing, (event) => left.push(event));
    expect(turns).toBe(1);
    expect(types(left)).not.toContain('next');
    const next = at.door();
    expect(next.open({ board: demoBoard('cr40') })).toBe(true);
    await next.assess(nothing, (event) => stayed.push(event));
    expect(types(stayed)).toEqual(['line-up', 'next']);
  });

  it('tells the page whose request is none, and works on for the others', async () => {
    const { at } = room();
    const door = at.door();
    expect(() => door.open({ board: { parts: 7 } })).toThrow();
    door.open({ board: boardOf(1) });
    await expect(door.assess({ ticket: 'no' }, () => undefined)).rejects.toThrow();
    const events: EngineEvent[] = [];
    await door.assess(nothing, (event) => events.push(event));
    expect(types(events)).toEqual(['line-up', 'next']);
  });
});
