import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { ARCHETYPES, LIBRARY } from '@hanzai/data';
import fc from 'fast-check';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import type { Entry, EntryBody } from './entry';
import { playJournal } from './journal';
import { soakHours } from './shown';
import { lastTakenBack } from './strip/actions';
import { notCured, repairMove } from './unit';

// A clock is set back, or a tablet's is not that of the bench: what came after what is told by the
// order of the journal. What is said of a case is the same, whatever its clocks said.

const { board } = readSheetLines(
  'J1 9V in: 1=VIN 2=0\nC1 VIN 0 47u 16V electrolytic\nR1 VIN 0 1k',
  LIBRARY,
);
const index = indexBoard(board);
const model = ARCHETYPES[0]!;
const [first, last] = [model.stages[0]!.name, model.stages.at(-1)!.name];

const burnIn = (): Entry => entry({ kind: 'timer', what: 'burn-in', title: 'burn-in', hours: 2 });
const entry = (body: EntryBody): Entry => ({ id: v7(), madeAt: '', body });
const start = (failedAt: string | null): Entry =>
  entry({ kind: 'start', failedAt, tries: 1, sounds: '', conditions: [] });
const change = (): Entry[] => [
  entry({ kind: 'removed', ref: 'C1', value: '47u', note: '' }),
  entry({ kind: 'fitted', ref: 'C1', value: '47u 25V', polarityChecked: true, note: '' }),
];
const done = ({ id }: Entry): Entry => entry({ kind: 'timerDone', timer: id });

const early = burnIn();
const late = burnIn();
const noted = entry({ kind: 'finding', text: 'smells of glue' });
/** A burn-in, a repair that makes it worse, another burn-in, handed back, asked, taken back. */
const story: readonly Entry[] = [
  start(last),
  early,
  done(early),
  ...change(),
  start(first),
  late,
  done(late),
  entry({ kind: 'close', note: '', followUpOn: '2027-01-10' }),
  entry({ kind: 'followedUp', runs: true, note: '' }),
  noted,
  entry({ kind: 'retract', entry: noted.id }),
];

function said(moments: readonly number[]) {
  const entries = story.map((one, i) => ({
    ...one,
    madeAt: new Date(Date.UTC(2026, 10, 29) + moments[i]! * 60_000).toISOString(),
  }));
  const journal = playJournal(entries, index);
  return {
    soaked: soakHours(journal),
    move: repairMove(model, journal),
    notCured: notCured(journal),
    followUpOn: journal.followUpOn,
    again: lastTakenBack(entries, journal.standing)?.id,
  };
}

describe('whatever the clocks said', () => {
  const inOrder = said(story.map((_, i) => i));
  it('in order it is as one expects', () => {
    expect(inOrder).toMatchObject({
      soaked: 2,
      move: { move: 'back', touched: ['C1'] },
      notCured: { touched: ['C1'] },
      followUpOn: undefined,
      again: noted.id,
    });
  });
  it('a burn-in of before the repair proves nothing after it, though the clock was set back', () => {
    const setBack = story.map((_, i) => (i <= 2 ? i + 60 : i));
    expect(said(setBack).soaked).toBe(2);
  });
  it('nothing else changes either', () => {
    const clocks = fc.array(fc.integer({ min: -600, max: 600 }), {
      minLength: story.length,
      maxLength: story.length,
    });
    fc.assert(
      fc.property(clocks, (moments) => {
        expect(said(moments)).toEqual(inOrder);
      }),
    );
  });
});
