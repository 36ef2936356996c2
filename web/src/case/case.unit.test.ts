import { demoBoard } from '@hanzai/data/demo';
import { indexBoard } from '@hanzai/core/board';
import { v7 } from 'uuid';
import { FIRST_POWER } from '@hanzai/core/prove';
import { describe, expect, it } from 'vitest';
import type { Entry, EntryBody } from './entry';
import { Entry as EntrySchema } from './entry';
import { expectationAt } from './expectation';
import { readingEntry } from './written-points';
import { playJournal } from './journal';
import { caseProgress } from './progress';
import { entryObjection } from './rules';
import { batchSearch, searchTerms } from '../docket/search';
import {
  decibanText,
  minutesText,
  percent,
  pointsText,
  shorthandAround,
  tellsWords,
  valueText,
  weightWords,
} from './wording';

const index = indexBoard(demoBoard('cr40'));
const entry = (body: EntryBody): Entry => ({ id: v7(), madeAt: new Date().toISOString(), body });
const volts = (at: string, value: number): EntryBody => ({
  kind: 'reading',
  setup: 'on',
  quantity: 'voltage',
  at,
  to: '',
  value,
  typed: `${at} ${value}`,
});
const ohms = (at: string, value: number): EntryBody => ({
  kind: 'reading',
  setup: 'off',
  quantity: 'resistance',
  at,
  to: '',
  value,
  typed: `${at} ${value} ohm`,
});
const off = (ref: string): EntryBody => ({ kind: 'removed', ref, value: '', note: '' });
const on = (ref: string, value = 'as before', polarityChecked = true): EntryBody => ({
  kind: 'fitted',
  ref,
  value,
  polarityChecked,
  note: '',
});
const stays = (ref: string): EntryBody => ({ kind: 'leftOut', ref, note: 'the owner wants it so' });
const journal = (...bodies: EntryBody[]) => playJournal(bodies.map(entry), index);
const objection = (before: readonly EntryBody[], next: EntryBody): string | undefined =>
  entryObjection(next, before.map(entry), index);

describe('a journal played', () => {
  it('gives each reading the parts that were off the board at that moment', () => {
    const { readings, absent } = journal(
      volts('VM', 0),
      off('C3'),
      ohms('VM', 4700),
      off('C1'),
      ohms('VM', 4700),
      on('C3'),
    );
    expect(readings.map((r) => r.absent)).toEqual([[], ['C3'], ['C3', 'C1']]);
    expect(absent).toEqual(['C1']);
  });

  it('takes what was read before the last fitted part for another board', () => {
    const { readings, answers } = journal(
      volts('VM', 0),
      { kind: 'answer', step: 's', passed: true },
      off('F1'),
      ohms('P9F', 4700),
      on('F1'),
      volts('VM', 8.6),
    );
    expect(readings.map((r) => r.current)).toEqual([false, false, true]);
    expect(answers).toEqual([]);
  });

  it('forgets what was retracted, in any kind of entry', () => {
    const lines = [
      entry(volts('VM', 0)),
      entry(off('C3')),
      entry({ kind: 'symptom', text: 'dead' }),
    ];
    const played = playJournal(
      [...lines, ...lines.map(({ id }) => entry({ kind: 'retract', entry: id }))],
      index,
    );
    expect([played.readings, played.ledger, played.symptoms, played.absent]).toEqual([
      [],
      [],
      [],
      [],
    ]);
  });

  it('leaves out readings whose points the sheet does not have', () =>
    expect(journal(volts('NOWHERE', 1), volts('VM', 1)).readings).toHaveLength(1));

  it('takes a verdict back', () => {
    expect(
      journal(
        { kind: 'condemn', ref: 'F1', probability: 1, reason: '' },
        { kind: 'acquit', ref: 'F1' },
      ).condemned,
    ).toEqual([]);
  });
});

describe('a part left out on purpose', () => {
  const dead: EntryBody = { kind: 'symptom', text: 'dead' };
  const entries = [dead, volts('VM', 0), off('C3'), stays('C3')].map(entry);
  const gone = entry({ kind: 'answer', step: entries[0]!.id, passed: true });
  const cold = entry({ kind: 'answer', step: FIRST_POWER, passed: true });
  const ran = entry({
    kind: 'run',
    medium: '',
    of: 'none',
    where: '',
    states: [],
    passes: 3,
    errors: 0,
    note: '',
  });
  const proofOf = (...more: Entry[]) =>
    caseProgress(index, playJournal([...entries, ...more], index), undefined, true);

  it('makes another board: it is proven as it is, by readings taken with the part off', () => {
    expect(proofOf().proof.every((step) => step.state === 'open')).toBe(true);
    const readings = proofOf().proof.flatMap((step) =>
      step.type === 'measure'
        ? [entry(readingEntry(step.measurement, step.expected.value, step.expected.display))]
        : [],
    );
    expect(readings.length).toBeGreaterThan(6);
    // Not without its first power, and a run of the whole.
    expect(proofOf(...readings, gone).obstacles).toEqual(['2 proof steps not passed']);
    expect(proofOf(...readings, gone, cold, ran)).toMatchObject({
      proven: true,
      obstacles: [],
      nextStage: 'hand-back',
    });
  });

  it('a run from before the repair proves nothing, nor one that was taken back', () => {
    const since = (...all: Entry[]): number => playJournal(all, index).runsSince.length;
    expect(since(ran, ...entries)).toBe(0);
    expect(since(...entries, ran)).toBe(1);
    expect(since(...entries, ran, entry({ kind: 'retract', entry: ran.id }))).toBe(0);
    const turned: EntryBody = {
      kind: 'turned',
      ref: 'gain',
      degrees: 10,
      live: false,
      reason: 'x',
    };
    expect(since(...entries, ran, entry(turned))).toBe(0);
    const none = { ...ran.body, passes: 0 } as EntryBody;
    expect(entryObjection(none, [], index)).toMatch(/at least one pass/);
    // A run has power on: not before the ohms of the repaired board are good.
    expect(entryObjection(ran.body, entries, index)).toMatch(/before the first power/);
  });

  it('still leaves a case unproven where another part is missing', () => {
    const readings = proofOf().proof.flatMap((step) =>
      step.type === 'measure'
        ? [entry(readingEntry(step.measurement, step.expected.value, step.expected.display))]
        : [],
    );
    expect(proofOf(...readings, gone, entry(off('C1')))).toMatchObject({
      proven: false,
      nextAction: 'fit C1',
    });
  });
});

describe('the rules', () => {
  it('keep a fuse out until the ohms behind it are read', () => {
    expect(objection([off('F1')], on('F1'))).toContain('read the ohms from P9F to ground');
    expect(objection([off('F1'), ohms('P9F', 4700)], on('F1'))).toBeUndefined();
    expect(objection([off('C1')], on('C1'))).toBeUndefined();
  });
  it('count only ohms of the board as it is now for the fuse', () => {
    expect(objection([off('F1'), ohms('P9F', 4700), off('C1'), on('C1')], on('F1'))).toContain(
      'read the ohms from P9F to ground',
    );
  });
  it('ask for the value and the polarity of what goes on', () => {
    expect(objection([off('C1')], on('C1', ''))).toBe('say what went on for C1');
    expect(objection([off('C1')], on('C1', '470u 16V', false))).toContain(
      'which way round C1 sits',
    );
    expect(objection([off('R1')], on('R1', '0R47', false))).toBeUndefined();
  });
  it('have a bridge or a cut mended where it is, and nothing else done to it', () => {
    const site = 'L1.2~C1.1';
    const condemn: EntryBody = { kind: 'condemn', ref: site, probability: 0.9, reason: '' };
    expect(objection([], condemn)).toBeUndefined();
    expect(objection([], { ...condemn, ref: 'L1.2~X9.1' })).toBe('the board has no part L1.2~X9.1');
    expect(objection([condemn], off(site))).toBe(`${site} is no part: it is mended where it is`);
    expect(objection([condemn], on(site, '', false))).toBe(`say how ${site} was mended`);
    expect(objection([condemn], on(site, 'bridged with wire', false))).toBeUndefined();
    expect(objection([condemn], { kind: 'close', note: '' })).toContain(
      'cut track L1.2 to C1.1 condemned and not mended',
    );
    expect(
      caseProgress(index, journal(condemn, on(site, 'bridged with wire', false))).obstacles.join(),
    ).not.toContain('condemned');
  });
  it('let nothing be answered as proven while a part is missing', () => {
    const answer: EntryBody = { kind: 'answer', step: 's', passed: true };
    expect(objection([off('C1')], answer)).toContain('C1 came off and nothing went on');
    expect(objection([off('C1'), on('C1')], answer)).toBeUndefined();
  });
  it('take back only the newest line of a part, and no verdict or answer', () => {
    const lines = [
      off('C1'),
      on('C1'),
      { kind: 'condemn', ref: 'F1', probability: 1, reason: '' } as const,
    ].map(entry);
    const takeBack = (i: number): string | undefined =>
      entryObjection({ kind: 'retract', entry: lines[i]!.id }, lines, index);
    expect(takeBack(0)).toContain('newer line of C1 first');
    expect(takeBack(1)).toBeUndefined();
    expect(takeBack(2)).toBe('a verdict cannot be taken back');
    expect(entryObjection({ kind: 'retract', entry: v7() }, lines, index)).toContain(
      'not in this case',
    );
  });
  it('let nothing but a reopening into a closed case', () => {
    const closed: EntryBody[] = [{ kind: 'close', note: '' }];
    expect(objection(closed, volts('VM', 1))).toContain('closed');
    expect(objection(closed, { kind: 'reopen' })).toBeUndefined();
    expect(objection([], { kind: 'reopen' })).toBe('the case is open');
  });
  it('say everything that stands against closing', () => {
    const message = objection(
      [
        { kind: 'symptom', text: 'dead' },
        { kind: 'condemn', ref: 'F1', probability: 1, reason: '' },
        off('C1'),
      ],
      {
        kind: 'close',
        note: '',
      },
    );
    expect(message).toContain('C1 came off and nothing went on');
    expect(message).toContain('F1 condemned and not replaced');
    expect(message).toContain('nothing is proven');
  });
  it('refuse a reading in a state of the board that it cannot be taken in', () => {
    expect(
      objection([], {
        ...(volts('VM', 1) as Extract<EntryBody, { kind: 'reading' }>),
        setup: 'off',
      }),
    ).toContain('cannot be read with the board off');
  });
});

describe('progress', () => {
  const steps = (...bodies: EntryBody[]) => caseProgress(index, journal(...bodies));
  it('draws the pads and says what is next', () => {
    const dead: EntryBody = { kind: 'symptom', text: 'dead' };
    expect(steps()).toMatchObject({
      nextAction: 'write down what the unit does',
      pads: { 'take-in': 'hollow', trace: 'hollow' },
    });
    expect(steps(dead)).toMatchObject({
      nextAction: 'take the first reading',
      pads: { 'take-in': 'filled' },
    });
    expect(steps(dead, volts('VM', 0))).toMatchObject({
      nextAction: 'measure on',
      pads: { trace: 'half' },
    });
    expect(steps(dead, { kind: 'condemn', ref: 'F1', probability: 1, reason: '' })).toMatchObject({
      nextAction: 'replace F1',
      pads: { trace: 'filled', repair: 'half' },
    });
    expect(steps(dead, off('C1'))).toMatchObject({ nextAction: 'fit C1' });
    expect(steps(dead, off('C1'), on('C1'))).toMatchObject({
      nextAction: 'prove the repair',
      pads: { repair: 'filled', prove: 'hollow' },
    });
    expect(steps(dead, off('C1'), on('C1'), ohms('VM', 12))).toMatchObject({
      nextAction: 'trace on: a proof step failed',
      pads: { prove: 'half' },
    });
  });
  it('asks for a sheet where there is none', () => {
    expect(
      caseProgress(undefined, playJournal([entry({ kind: 'symptom', text: 'dead' })], undefined))
        .nextAction,
    ).toBe('choose or import its board sheet');
  });
});

describe('entries', () => {
  it('are refused where they are not whole', () => {
    const good = entry(volts('VM', 1));
    expect(EntrySchema.safeParse(good).success).toBe(true);
    for (const bad of [
      { ...good, id: '7' },
      { ...good, madeAt: 'yesterday' },
      { ...good, body: { kind: 'reading' } },
      { ...good, body: { ...good.body, value: Infinity } },
      { ...good, body: { ...good.body, typed: 'x'.repeat(300) } },
    ]) {
      expect(EntrySchema.safeParse(bad).success).toBe(false);
    }
  });
});

describe('wording', () => {
  it('says points, values and weights as people do', () => {
    expect([
      pointsText(index, 'VM', ''),
      pointsText(index, 'F1.1', 'F1.2'),
      pointsText(index, 'D1.K', 'D1.A'),
      pointsText(index, 'P9F', 'VM'),
    ]).toEqual(['VM to ground', 'across F1', 'across D1, reversed', 'P9F to VM']);
    expect([
      valueText('voltage', 0.01),
      valueText('resistance', 4700),
      valueText('resistance', 'OL'),
      valueText('logic', '1'),
    ]).toEqual(['10 mV', '4.7 kΩ', 'OL', '1']);
    expect([percent(0.5), percent(0.004), percent(0.0001), percent(0.999)]).toEqual([
      '50 %',
      '0.4 %',
      '<0.1 %',
      '>99 %',
    ]);
    expect([0.4, -0.4, 3, -3, 7, -12, 19, 44].map(weightWords)).toEqual([
      'says nothing',
      'says nothing',
      'a little for it',
      'a little against it',
      'speaks for it',
      'strongly against it',
      'strongly for it',
      'very strongly for it',
    ]);
    expect([0.02, 0.05, 0.2, 0.5, 2].map(tellsWords)).toEqual([
      'next to nothing',
      'a little',
      'something',
      'much',
      'a great deal',
    ]);
    expect([
      decibanText(16.3),
      decibanText(-2.25),
      minutesText(0.5),
      minutesText(2.4),
      minutesText(125),
    ]).toEqual(['+16 dB', '−2.3 dB', '30 s', '2.4 min', '2 h 5 min']);
  });
  it('gives the shorthand into which a bare value goes', () => {
    expect(shorthandAround('voltage', 'unloaded', 'VM', '')).toEqual(['VM gnd', 'volts unloaded']);
    expect(shorthandAround('continuity', 'off', 'F1.1', 'F1.2')).toEqual(['F1.1 F1.2', '']);
    expect(shorthandAround('current', 'on', 'R1', '')).toEqual(['R1', '']);
  });
});

describe('expectations', () => {
  it('say what a sound board shows, and what it shows with a part off', () => {
    const volts = (at: string, absent: string[] = []) =>
      expectationAt(index, { setup: 'on', kind: 'voltage', at, to: '', absent });
    expect(volts('VM')).toEqual({ display: '8.67 V', band: '8.6 V to 8.75 V' });
    expect(volts('NOWHERE')).toBeUndefined();
    expect(volts('VM', ['F1'])).toMatchObject({
      display: expect.stringMatching(/^\d\.\d mV$/) as string,
    });
    expect(volts('VM', ['U2', 'U3'])!.display).not.toBe('8.67 V');
  });
});

describe('the search of the docket', () => {
  it('takes words by themselves, and what is between quotation marks together', () => {
    expect(searchTerms('CR-40  eject')).toEqual(['cr-40', 'eject']);
    expect(searchTerms('"Stores shelf 3" pd-3')).toEqual(['stores shelf 3', 'pd-3']);
    expect(searchTerms('"stores sh')).toEqual(['stores sh']);
    expect(searchTerms(' "" " ')).toEqual([]);
    expect(searchTerms(batchSearch('the "old" shelf'))).toEqual(['batch: the  old  shelf']);
  });
});
