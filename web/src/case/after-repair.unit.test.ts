import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { bagLabels } from '../stage/repair/BagLabels';
import { creditOf, overruledOf, stillSuspect } from './after-repair';
import type { Entry, EntryBody } from './entry';
import { playJournal } from './journal';
import { caseProgress } from './progress';
import { entryObjection, powerObjection } from './rules';
import { PENDING } from './solved';
import { whatIsOut } from './whats-out';

const { board } = readSheetLines(
  `J1 9V in: 1=VIN 2=0
C1 VIN 0 47u 16V electrolytic
C2 A 0 47u 16V electrolytic
C3 B 0 100n 50V ceramic
R1 VIN A 1k
R2 A B 1k`,
  LIBRARY,
);
const index = indexBoard(board);
let clock = Date.now() - 3_600_000;
const entry = (body: EntryBody): Entry => ({
  id: v7(),
  madeAt: new Date((clock += 1000)).toISOString(),
  body,
});
const play = (bodies: readonly EntryBody[]) => playJournal(bodies.map(entry), index);

const failed: EntryBody = { kind: 'start', failedAt: 'spin', tries: 1, sounds: '', conditions: [] };
const condemn = (ref: string, probability: number): EntryBody => ({
  kind: 'condemn',
  ref,
  probability,
  reason: '',
});
const off = (ref: string, value = '47u 16V'): EntryBody => ({
  kind: 'removed',
  ref,
  value,
  note: '',
});
const on = (ref: string, value = '47u 16V electrolytic', note = ''): EntryBody => ({
  kind: 'fitted',
  ref,
  value,
  polarityChecked: true,
  note,
});
const aid: EntryBody = {
  kind: 'aid',
  name: 'clean-lens',
  title: 'clean the lens',
  block: 'lens',
  cures: 0.3,
};
const found: EntryBody = {
  kind: 'asFound',
  ref: 'RV1',
  unit: 'ohm',
  reading: 183,
  mark: '',
  reason: '',
};
const turned = (degrees: number, reason = ''): EntryBody => ({
  kind: 'turned',
  ref: 'RV1',
  degrees,
  live: false,
  reason,
});

describe('the credit for a cure', () => {
  it('one change has all of it', () =>
    expect(creditOf(play([condemn('C1', 0.9), failed, off('C1'), on('C1')]))).toEqual([
      { words: 'C1 replaced', share: 1, word: 'identified' },
    ]));
  it('fitted parts share it with first aid and turns, by what was believed', () => {
    const credit = creditOf(
      play([condemn('C1', 0.6), failed, aid, off('C1'), on('C1'), found, turned(10)]),
    );
    expect(credit.map(({ words }) => words)).toEqual([
      'clean the lens',
      'C1 replaced',
      'RV1 turned 10° clockwise',
    ]);
    // 0.3, 0.6 and what nobody suspected, 0.02.
    [0.3 / 0.92, 0.6 / 0.92, 0.02 / 0.92].forEach((share, i) =>
      expect(credit[i]!.share).toBeCloseTo(share, 9),
    );
    expect(credit.map(({ word }) => word)).toEqual([
      'not to be told apart',
      'likely',
      'not to be told apart',
    ]);
  });
  it('what came before a start that failed did not cure it', () =>
    expect(creditOf(play([aid, failed, off('C1'), on('C1')])).map(({ words }) => words)).toEqual([
      'C1 replaced',
    ]));
  it('nothing changed, nothing earned', () => expect(creditOf(play([failed]))).toEqual([]));
});

describe('what stays in the report', () => {
  it('what was done against advice, with its reason; the way back is none of it', () => {
    const overruled = overruledOf(
      play([
        off('C1'),
        on('C1', '47u 10V electrolytic', 'for a test at 5 V'),
        found,
        turned(60, 'it is loose'),
        turned(-60, 'the way back to as found'),
      ]),
      index,
    );
    expect(overruled).toHaveLength(2);
    expect(overruled[0]).toMatch(
      /^C1, 47u 10V electrolytic: 10 V is below .*Reason: for a test at 5 V$/,
    );
    expect(overruled[1]).toMatch(/RV1 turned 60° clockwise\. Reason: it is loose/);
    expect(
      overruledOf(play([off('C1'), on('C1', '47u 16V electrolytic', 'new bag')]), index),
    ).toEqual([]);
  });
  it('parts of one age that were left in', () => {
    expect(stillSuspect(play([condemn('C1', 0.9), off('C1'), on('C1')]), index)).toEqual(['C2']);
    expect(stillSuspect(play([condemn('C1', 0.9)]), undefined)).toEqual([]);
    expect(stillSuspect(play([]), index)).toEqual([]);
  });
});

describe('what is out', () => {
  const swab: EntryBody = { kind: 'inside', what: 'swab under U3' };
  it('in a few words each, and nothing once all is where it belongs', () => {
    const away = [off('C1'), swab, found, turned(20)];
    expect(whatIsOut(play(away))).toEqual([
      'off the board: C1',
      'still in the unit: swab under U3',
      'RV1 20° from as found',
    ]);
    const entries = [...away, on('C1'), turned(-20)].map(entry);
    const out = entry({ kind: 'takenOut', entry: entries[1]!.id });
    expect(whatIsOut(playJournal([...entries, out], index))).toEqual([]);
    // Taken back is: it is still in there.
    const back = entry({ kind: 'retract', entry: out.id });
    expect(whatIsOut(playJournal([...entries, out, back], index))).toEqual([
      'still in the unit: swab under U3',
    ]);
  });
  it('keeps power and the closing locked', () => {
    const journal = play([swab]);
    expect(powerObjection(journal, PENDING)).toMatch(/swab under U3/);
    expect(caseProgress(index, journal).obstacles.join()).toMatch(/still in the unit: swab/);
    expect(entryObjection({ kind: 'takenOut', entry: v7() }, [], index)).toMatch(/not in the unit/);
  });
  it('a bag label says what it was and leads back to its case', () => {
    const journal = play([off('C1'), on('C1'), off('R1', '1k')]);
    const labels = bagLabels(
      { journal, view: { number: 112, unitModel: 'CR-40' } } as never,
      'http://bench',
    );
    expect(labels.map(({ title, code }) => [title, code])).toEqual([
      ['112 C1', 'http://bench/case/112/repair#C1'],
      ['112 R1', 'http://bench/case/112/repair#R1'],
    ]);
    expect(labels[0]!.lines.slice(0, 2)).toEqual(['47u 16V', 'CR-40']);
  });
});
