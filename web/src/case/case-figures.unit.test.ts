import { benchMinutes } from '@hanzai/core/bench';
import { indexBoard } from '@hanzai/core/board';
import { demoBoard } from '@hanzai/data/demo';
import fc from 'fast-check';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import { caseFigures, CaseFigures } from './case-figures';
import type { Entry, EntryBody } from './entry';
import { playJournal } from './journal';

// What a closed case gives to the shop's own figures.

const index = indexBoard(demoBoard('cr40'));
const at = (minute: number, body: EntryBody): Entry => ({
  id: v7(),
  madeAt: new Date(Date.UTC(2026, 0, 1) + minute * 60_000).toISOString(),
  body,
});
const start = (failedAt: string | null): EntryBody => ({
  kind: 'start',
  failedAt,
  tries: 1,
  sounds: '',
  conditions: [],
});
const on = (ref: string): EntryBody => ({
  kind: 'fitted',
  ref,
  value: '47u',
  polarityChecked: true,
  note: '',
});
const off = (ref: string): EntryBody => ({ kind: 'removed', ref, value: '47u', note: '' });
const condemn = (ref: string): EntryBody => ({
  kind: 'condemn',
  ref,
  probability: 0.9,
  reason: '',
});
const close = (guaranteeDays?: number): EntryBody => ({
  kind: 'close',
  note: '',
  ...(guaranteeDays === undefined ? {} : { guaranteeDays }),
});
const figures = (...entries: Entry[]) => caseFigures(entries, playJournal(entries, index), index);
const minutely = (...bodies: EntryBody[]) => figures(...bodies.map((body, i) => at(i, body)));

describe('the figures of a case', () => {
  it('are none while it is open, and none again once it was opened anew', () => {
    expect(minutely(start('boot'))).toBeUndefined();
    expect(minutely(start('boot'), close(), { kind: 'reopen' })).toBeUndefined();
  });

  it('put the minutes before an entry to its stage; after a repair readings and starts prove', () => {
    const made = figures(
      at(0, start('supply')),
      at(7, { kind: 'symptom', text: 'dark' }),
      // More than twenty minutes: another stretch of work.
      at(90, condemn('C1')),
      at(95, off('C1')),
      at(107, on('C1')),
      at(110, start(null)),
      at(113, close()),
    )!;
    expect(made.minutes).toEqual({
      'take-in': 9,
      trace: 2,
      repair: 17,
      prove: 3,
      'hand-back': 3,
    });
  });

  it('have minutes that together are the bench time of the case', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(5000), fc.constantFrom(start('x'), condemn('C1'), on('C1'))), {
          maxLength: 30,
        }),
        (made) => {
          const entries = [...made.map(([minute, body]) => at(minute, body)), at(5001, close())];
          const minutes = Object.values(figures(...entries)!.minutes);
          expect(minutes.reduce((sum, one) => sum + one, 0)).toBeCloseTo(
            benchMinutes(entries.map(({ madeAt }) => Date.parse(madeAt))),
            6,
          );
        },
      ),
      { seed: 1906, numRuns: 200 },
    );
  });

  it.each<[string, EntryBody[], { kind: string; words: string }[]]>([
    ['none', [condemn('C1'), off('C1'), on('C1'), start(null)], []],
    [
      'a part after which the fault stayed',
      [off('C1'), on('C1'), start('supply'), off('Q2'), on('Q2'), start(null)],
      [{ kind: 'stayed', words: 'C1' }],
    ],
    [
      'a verdict taken back, once',
      [condemn('C1'), { kind: 'acquit', ref: 'C1' }, { kind: 'acquit', ref: 'C1' }],
      [{ kind: 'cleared', words: 'C1' }],
    ],
    [
      'a step of the proof',
      [{ kind: 'answer', step: 'joint C1', passed: false }],
      [{ kind: 'refused', words: 'joint C1' }],
    ],
    ['opened again', [close(), { kind: 'reopen' }], [{ kind: 'reopened', words: '' }]],
  ])('tell of wrong turns: %s', (_, bodies, turns) => {
    expect(minutely(...bodies, close())!.turns).toEqual(turns);
  });

  it('name how far the replacement went, as it was decided last', () => {
    const decided = (course: 'one' | 'like' | 'go-on' | 'give-up'): EntryBody => ({
      kind: 'decision',
      course,
      reason: 'because of it',
    });
    const extent: EntryBody = { kind: 'extent', extent: 'kind', refs: ['C1'], reason: 'age' };
    expect(minutely(close())!.policy).toBe('');
    expect(minutely(extent, close())!.policy).toBe('survey kind');
    expect(minutely(extent, decided('one'), decided('like'), close())!.policy).toBe('like');
    // To go on at all says nothing of how far.
    expect(minutely(decided('like'), decided('go-on'), close())!.policy).toBe('like');
    expect(minutely(decided('like'), decided('give-up'), close())!.policy).toBe('');
  });

  it('have the guarantee, what went on, and whether it ran when asked', () => {
    const made = minutely(on('C1'), close(180), { kind: 'followedUp', runs: false, note: '' })!;
    expect(made).toMatchObject({
      fitted: [{ ref: 'C1', of: 'capacitor electrolytic' }],
      cameBack: true,
    });
    expect(made.guaranteeUntil!.slice(0, 10)).toBe('2026-06-30');
    expect(minutely(close(), { kind: 'followedUp', runs: true, note: '' })).toMatchObject({
      cameBack: false,
      guaranteeUntil: null,
    });
    expect(CaseFigures.parse(made)).toEqual(made);
  });
});
