import { demoBoard } from '@hanzai/data/demo';
import { indexBoard } from '@hanzai/core/board';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import type { Entry, EntryBody } from './entry';
import { playJournal } from './journal';
import { caseProgress } from './progress';
import { isStage, STAGES, stageTitle } from './stages';

// What is said to do next, and where, as a case goes on.

const index = indexBoard(demoBoard('cr40'));
let clock = 0;
const entry = (body: EntryBody): Entry => ({
  id: v7(),
  madeAt: new Date(1_700_000_000_000 + (clock += 60_000)).toISOString(),
  body,
});
const next = (bodies: readonly EntryBody[], board: typeof index | undefined = index) => {
  const { nextAction, nextStage, minutesToGo } = caseProgress(
    board,
    playJournal(bodies.map(entry), board),
  );
  return { nextAction, nextStage, minutesToGo };
};
const symptom: EntryBody = { kind: 'symptom', text: 'no movement' };
const kill: EntryBody = {
  kind: 'check',
  title: 'beam present',
  block: 'laser',
  good: false,
  kill: true,
};
const decide = (course: 'go-on' | 'donor' | 'give-up'): EntryBody => ({
  kind: 'decision',
  course,
  reason: 'the owner says so',
});
const condemn: EntryBody = { kind: 'condemn', ref: 'F1', probability: 0.9, reason: '' };
const off: EntryBody = { kind: 'removed', ref: 'F1', value: 'T1A', note: '' };
const on: EntryBody = {
  kind: 'fitted',
  ref: 'F1',
  value: 'T1A',
  polarityChecked: false,
  note: '',
};
const volts: EntryBody = {
  kind: 'reading',
  setup: 'on',
  quantity: 'voltage',
  at: 'VM',
  to: '',
  value: 0.01,
  typed: 'vm 0.01',
};

describe('what to do next', () => {
  it.each<[string, readonly EntryBody[], string, RegExp]>([
    ['nothing was written down', [], 'take-in', /write down/],
    ['a symptom is there', [symptom], 'trace', /first reading/],
    ['something was read', [symptom, volts], 'trace', /measure on/],
    ['a check failed that can end it', [symptom, volts, kill], 'swaps', /decide: beam present/],
    ['it was decided to go on', [symptom, volts, kill, decide('go-on')], 'trace', /measure on/],
    ['it was given up', [symptom, kill, decide('give-up')], 'hand-back', /given up/],
    ['a part is condemned', [symptom, volts, condemn], 'repair', /replace F1/],
    ['a part is off', [symptom, volts, condemn, off], 'repair', /fit F1/],
    ['it is back on', [symptom, volts, condemn, off, on], 'prove', /prove the repair/],
    ['it still reads wrong', [symptom, volts, condemn, off, on, volts], 'trace', /trace on/],
    [
      'it is closed',
      [symptom, kill, decide('give-up'), { kind: 'close', note: '' }],
      'hand-back',
      /handed back/,
    ],
    // Of several calls the one that everything else waits for.
    ['a check failed with parts off', [symptom, off, kill], 'swaps', /decide/],
    ['nothing is known and a part is off', [off], 'take-in', /write down/],
  ])('where %s', (_, bodies, stage, action) => {
    expect(next(bodies).nextStage).toBe(stage);
    expect(next(bodies).nextAction).toMatch(action);
  });

  it('asks for a sheet where there is none, and only once something is known', () => {
    expect(caseProgress(undefined, playJournal([], undefined)).nextAction).toMatch(/write down/);
    expect(caseProgress(undefined, playJournal([entry(symptom)], undefined))).toMatchObject({
      nextStage: 'take-in',
      nextAction: 'choose or import its board sheet',
    });
  });

  it('has less work left the further it is', () => {
    const left = [
      [],
      [symptom],
      [symptom, condemn],
      [symptom, condemn, off, on],
      [symptom, kill, decide('give-up')],
      [symptom, kill, decide('give-up'), { kind: 'close', note: '' } as const],
    ].map((bodies) => next(bodies).minutesToGo);
    expect(left).toEqual([...left].sort((a, b) => b - a));
    expect(left.at(-1)).toBe(0);
  });
});

describe('stages', () => {
  it('are each known by their name, and have titles of their own', () => {
    expect(new Set(STAGES.map(stageTitle)).size).toBe(STAGES.length);
    for (const stage of STAGES) expect(isStage(stage)).toBe(true);
    for (const none of ['', 'toString', 'constructor', 'Trace', '__proto__', 'trace/'])
      expect(isStage(none)).toBe(false);
  });

  it('that a finished case never needed are crossed, and those begun are not', () => {
    const closed = [symptom, kill, decide('give-up'), { kind: 'close', note: '' } as const];
    const { pads } = caseProgress(index, playJournal(closed.map(entry), index));
    expect(pads).toMatchObject({
      'take-in': 'filled',
      swaps: 'filled',
      'make-safe': 'crossed',
      'open-up': 'crossed',
      look: 'crossed',
      'hand-back': 'filled',
    });
  });
});
