import { describe, expect, it } from 'vitest';
import { RATES } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import { indexBoard, type BoardIndex } from '../src/board';
import { modesOf } from '../src/device';
import { Diagnoser } from '../src/diagnosis';
import { rateOf } from '../src/fault';
import { hazardsOf } from '../src/bench';

// What is added to one list and forgotten in another: found here, where the compiler cannot. That
// every chip has vectors from outside is held in reference/chips.test.ts.

const boards = (Object.keys(DEMO_BOARD_FILES) as (keyof typeof DEMO_BOARD_FILES)[]).map(
  (name): [string, BoardIndex] => [name, indexBoard(demoBoard(name))],
);

describe('fault modes', () => {
  it.each(boards)('of %s have each a rate above nothing', (_, index) => {
    for (const { fault, name } of new Diagnoser(index, RATES).space.hypotheses)
      expect(rateOf(index, RATES, fault), name).toBeGreaterThan(0);
  });
  it.each(boards)('of %s say by type what their names say to people', (_, index) => {
    for (const part of index.board.parts)
      for (const { name, effect } of modesOf(part)) {
        const named = /^short\b/.test(name) ? 'short' : /^open\b/.test(name) ? 'open' : undefined;
        expect(effect, `${part.ref} ${name}`).toBe(named);
      }
  });
});

describe('hazards of a board', () => {
  it('are named by what they are: another line in front changes no key', () => {
    const board = demoBoard('tl9');
    const note = 'the chassis is live where the plug is turned round';
    interface Own {
      readonly kind: 'mains';
      readonly note: string;
    }
    const own: Own = { kind: 'mains', note };
    const keys = (hazards: Own[]): string[] =>
      hazardsOf(undefined, indexBoard({ ...board, hazards }), []).map(({ key }) => key);
    const other: Own = { kind: 'mains', note: 'another' };
    const [key] = keys([own]);
    expect(keys([other, own])).toContain(key);
    expect(new Set(keys([other, own])).size).toBe(keys([other, own]).length);
  });
});
