import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import type { Entry, EntryBody } from '../../case/entry';
import { playJournal } from '../../case/journal';
import type { LineUp } from '../../workers/engine-messages';
import { flagsOf } from './map-flags';

const { board } = readSheetLines('J1 9V in: 1=VIN 2=0\nR1 VIN A 1k\nR2 A 0 1k', LIBRARY);
const entry = (body: EntryBody): Entry => ({
  id: v7(),
  madeAt: new Date().toISOString(),
  body,
});
const readingOf = (net: string, value: number): Entry =>
  entry({
    kind: 'reading',
    setup: 'on',
    quantity: 'voltage',
    at: net,
    to: '0',
    value,
    typed: `${net} ${value}`,
  });
const lineUpWith = (expected: LineUp['expected']): LineUp => ({ expected }) as LineUp;
const judged = (within: boolean) => ({ display: '4.50 V', within }) as LineUp['expected'][string];

describe('flags on the map', () => {
  const reading = readingOf('A', 4.4);
  const journal = playJournal([reading], indexBoard(board));

  it('say nothing of a reading that nobody compared with a sound board', () => {
    for (const lineUp of [undefined, lineUpWith({})])
      expect(flagsOf(journal, lineUp).get('A')).toMatchObject({ should: '', isJudged: false });
  });
  it('are right only where it was within its band', () => {
    const within = flagsOf(journal, lineUpWith({ [reading.id]: judged(true) }));
    expect(within.get('A')).toMatchObject({ should: '', isJudged: true });
    const outside = flagsOf(journal, lineUpWith({ [reading.id]: judged(false) }));
    expect(outside.get('A')).toMatchObject({ should: 'not 4.50 V', isJudged: true });
  });
  it('do not take the verdict of an older reading of the same net for the newer one', () => {
    const newer = readingOf('A', 0.1);
    const both = playJournal([reading, newer], indexBoard(board));
    expect(flagsOf(both, lineUpWith({ [reading.id]: judged(true) })).get('A')!.isJudged).toBe(
      false,
    );
  });
});
