import { describe, expect, it } from 'vitest';
import { Lesson, teaches } from '@hanzai/core/learn';
import { indexBoard } from '@hanzai/core/board';
import { demoBoard } from '@hanzai/data/demo';
import { v7 } from 'uuid';
import type { Entry, EntryBody } from './entry';
import { playJournal } from './journal';
import { lessonOf, modeSaid } from './lesson';
import { summaryOf } from './summary';
import { unitModelOf } from './unit';

const index = indexBoard(demoBoard('cr40'));
const model = unitModelOf('optical-disc-reader', []);
let at = Date.parse('2026-01-01T10:00:00.000Z');
const entry = (body: EntryBody): Entry => ({
  id: v7(),
  madeAt: new Date((at += 60_000)).toISOString(),
  body,
});
const lesson = (proven: boolean, ...bodies: EntryBody[]): Lesson | undefined =>
  lessonOf(playJournal(bodies.map(entry), index), index, model, proven);

const failed: EntryBody = {
  kind: 'start',
  failedAt: 'supply',
  tries: 1,
  sounds: '',
  conditions: [],
};
const pattern: EntryBody = { kind: 'pattern', name: 'no-movement' };
const condemned: EntryBody = {
  kind: 'condemn',
  ref: 'L1',
  probability: 0.9,
  reason: 'joint cracked right round',
};
const off = (ref: string): EntryBody => ({ kind: 'removed', ref, value: 'x', note: '' });
const on = (ref: string): EntryBody => ({
  kind: 'fitted',
  ref,
  value: 'x',
  polarityChecked: true,
  note: 'n',
});
const closed: EntryBody = { kind: 'close', note: '' };

describe('what a closed case teaches', () => {
  it('is its one change, whole, with class, mode and blocks, free of owner and serial', () => {
    const one = lesson(true, pattern, failed, condemned, off('L1'), on('L1'), closed)!;
    expect(Lesson.parse(one)).toEqual(one);
    expect(one).toMatchObject({
      unit: 'optical-disc-reader',
      board: index.board.title,
      patterns: ['no-movement'],
      grade: 'whole',
      changes: [{ ref: 'L1', of: 'inductor', mode: 'dry' }],
    });
    expect(one.changes[0]!.blocks).toContain('supply');
    expect(Object.keys(one).sort()).toEqual(['board', 'changes', 'grade', 'patterns', 'unit']);
  });

  it('is shared among the changes since the last start that failed, first aid and turns too', () => {
    const aid: EntryBody = {
      kind: 'aid',
      name: 'clean-lens',
      title: 'clean the lens',
      block: 'lens',
      cures: 0.5,
    };
    const turned: EntryBody = {
      kind: 'turned',
      ref: 'gain',
      degrees: 20,
      live: false,
      reason: 'x',
    };
    const many = lesson(true, failed, off('L1'), on('L1'), aid, turned, closed)!;
    expect(many.grade).toBe('shared');
    expect(many.changes.map(({ ref, of, blocks }) => [ref, of, blocks])).toMatchObject([
      ['L1', 'inductor', expect.anything()],
      ['', 'clean the lens', ['lens']],
      ['gain', 'a setting', []],
    ]);
    // A start that failed between two changes tells them apart.
    const apart = lesson(true, failed, off('C1'), on('C1'), failed, off('L1'), on('L1'), closed)!;
    expect(apart).toMatchObject({ grade: 'whole', changes: [{ ref: 'L1' }] });
  });

  it('is nothing of a case that is open, given up, or in which nothing was changed', () => {
    const gone: EntryBody = { kind: 'decision', course: 'give-up', reason: 'finished' };
    expect(lesson(true, off('L1'), on('L1'))).toBeUndefined();
    expect(lesson(true, off('L1'), on('L1'), gone, closed)).toBeUndefined();
    expect(lesson(true, failed, closed)).toBeUndefined();
    const unproven = lesson(false, off('L1'), on('L1'), closed)!;
    expect(unproven.grade).toBe('unproven');
    expect(teaches(unproven)).toBe(false);
  });

  it('stands in the summary, and not before it is closed', () => {
    const bodies = [failed, off('L1'), on('L1')];
    expect(summaryOf(bodies.map(entry), index, model).lesson).toBeNull();
    expect(summaryOf([...bodies, closed].map(entry), index, model).lesson).toMatchObject({
      grade: 'unproven',
    });
  });

  it.each([
    ['ESR 8.4 Ω where 0.2 Ω belongs', 'high-esr'],
    ['ring round a leg, joint cracked', 'dry'],
    ['short from collector to emitter', 'short'],
    ['leaks when warm', 'leaky'],
    ['blown', 'open'],
    ['it bulges', ''],
    ['', ''],
  ])('hears how a part was bad: %s', (words, mode) => {
    expect(modeSaid(words)).toBe(mode);
  });
});
