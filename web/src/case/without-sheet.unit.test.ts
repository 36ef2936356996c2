import { readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { v7 } from 'uuid';
import { describe, expect, it } from 'vitest';
import type { Entry, EntryBody } from './entry';
import { playJournal } from './journal';
import { caseProgress } from './progress';
import { entryObjection } from './rules';
import { sheetFromCase } from './sheet-from-case';

const reading = (quantity: 'voltage' | 'resistance', at: string, value: number): EntryBody => ({
  kind: 'reading',
  setup: quantity === 'voltage' ? 'on' : 'off',
  quantity,
  at,
  to: '',
  value,
  typed: `${at} ${value}`,
});

/** A case without a sheet, as the rules let it come to be. */
class Case {
  readonly entries: Entry[] = [];
  try(body: EntryBody): string | undefined {
    const objection = entryObjection(body, this.entries, undefined);
    if (objection === undefined)
      this.entries.push({ id: v7(), madeAt: new Date().toISOString(), body });
    return objection;
  }
  does(...bodies: EntryBody[]): void {
    for (const body of bodies) expect(this.try(body), body.kind).toBeUndefined();
  }
  get journal() {
    return playJournal(this.entries, undefined);
  }
  get progress() {
    return caseProgress(undefined, this.journal);
  }
}

const off: EntryBody = { kind: 'removed', ref: 'R7', value: '4k7', note: '' };
const on: EntryBody = { kind: 'fitted', ref: 'R7', value: '4k7', polarityChecked: false, note: '' };

describe('a case without a sheet', () => {
  it('is proven by its own rails and closed, and not before', () => {
    const it = new Case();
    it.does(reading('voltage', 'P5', 0.1), {
      kind: 'condemn',
      ref: 'R7',
      probability: 1,
      reason: 'open',
    });
    expect(it.progress.obstacles).toContain('R7 condemned and not replaced');
    it.does(off, on);
    expect(it.progress.proven).toBe(false);
    expect(it.progress.obstacles.join()).toContain('no sheet and no rail named');
    expect(it.try(reading('voltage', 'P5', 5))).toContain('no rail is known');
    it.does({ kind: 'rail', net: 'P5', volt: 5 });
    expect(it.try({ kind: 'rail', net: 'p5', volt: 5 })).toContain('named already');
    expect(it.try(reading('voltage', 'P5', 5))).toContain('read the ohms from P5');
    it.does(reading('resistance', 'P5', 480));
    expect(it.try(reading('voltage', 'P5', 5))).toContain('say in Prove');
    const [step] = it.progress.proof;
    it.does({ kind: 'answer', step: step!.key, passed: true }, reading('voltage', 'P5', 5.02));
    expect(it.progress.proven).toBe(false);
    it.does(
      { kind: 'answer', step: 'first power', passed: true },
      {
        kind: 'run',
        medium: '',
        of: 'none',
        where: '',
        states: [],
        passes: 1,
        errors: 0,
        note: '',
      },
    );
    expect(it.progress.proven).toBe(true);
    it.does({ kind: 'close', note: '' });
  });

  it('is not proven by readings from before the repair', () => {
    const it = new Case();
    it.does(
      { kind: 'rail', net: 'P5', volt: 5 },
      reading('resistance', 'P5', 480),
      reading('voltage', 'P5', 5),
      off,
      on,
    );
    expect(it.progress.proven).toBe(false);
    expect(it.progress.proof.map(({ state }) => state)).toEqual(['open', 'open', 'open', 'open']);
  });

  it('does not close with a part off, and not on what somebody saw alone', () => {
    const it = new Case();
    it.does({ kind: 'symptom', text: 'no lamp' }, off);
    expect(it.try({ kind: 'close', note: '' })).toContain('R7 came off');
    it.does(on);
    const ask = it.progress.proof.find(({ type }) => type === 'ask')!;
    it.does({ kind: 'answer', step: ask.key, passed: true });
    expect(it.progress.proven).toBe(false);
    expect(it.try({ kind: 'close', note: '' })).toContain('no rail named');
  });

  it('begins its sheet with what was named, and every line of that is read', () => {
    const it = new Case();
    it.does(
      { kind: 'rail', net: 'P5', volt: 5 },
      reading('voltage', 'VREF', 1.2),
      reading('resistance', 'C12', 3),
      { kind: 'condemn', ref: 'U3', probability: 1, reason: 'hot' },
      off,
    );
    const text = sheetFromCase('Shuttle  radio\n2', it.journal);
    const { board, issues } = readSheetLines(text, LIBRARY);
    expect(issues).toEqual([]);
    expect(board.title).toBe('Shuttle radio 2');
    expect(board.parts.map(({ ref, kind }) => `${ref} ${kind}`)).toEqual(
      expect.arrayContaining(['C12 capacitor', 'R7 resistor']),
    );
    expect(board.edges?.map(({ net }) => net)).toEqual(['P5', 'VREF']);
    expect(text).toContain('# VREF: 1.2 V');
    expect(text).toContain('U3');
  });
  it('has the beeps of the case as joins, with whose word they are', () => {
    const it = new Case();
    it.does({
      kind: 'reading',
      setup: 'off',
      quantity: 'continuity',
      at: 'R7.1',
      to: 'U3.4',
      value: 'beep',
      typed: 'r7.1 u3.4 beep',
    });
    const { board, issues } = readSheetLines(sheetFromCase('Shuttle', it.journal), LIBRARY);
    expect(issues).toEqual([]);
    const netOf = (ref: string, pin: number) =>
      board.parts.find((part) => part.ref === ref)!.pins[pin - 1];
    expect(netOf('R7', 1)).toBe(netOf('U3', 4));
    expect(board.rings).toMatchObject([
      { a: 'R7.1', b: 'U3.4', joined: true, reading: 'r7.1 u3.4 beep' },
    ]);
    expect(board.rings![0]!.at).toMatch(/^20\d\d-.*Z$/);
  });
});
