import Papa from 'papaparse';
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { describe, expect, it } from 'vitest';
import { playJournal } from './journal';
import type { Entry, EntryBody } from './entry';
import { stepWords, traceCsv, TraceFile, traceFile } from './trail';
import type { TrailAnswer } from '../workers/engine-messages';

const index = indexBoard(
  readSheetLines('J1 9V in: 1=VIN 2=0\nF1 VIN VM T1A\nC1 VM 0 100u\nR1 VM 0 1k', LIBRARY).board,
);
let made = 0;
const entry = (body: EntryBody): Entry => {
  made += 1;
  const id = `0195b1d2-7c1a-7000-8000-${String(made).padStart(12, '0')}`;
  return { id, madeAt: `2026-11-28T09:${String(made).padStart(2, '0')}:00Z`, body };
};
const volts = (value: number): Entry =>
  entry({
    kind: 'reading',
    setup: 'on',
    quantity: 'voltage',
    at: 'VM',
    to: '',
    value,
    typed: `=vm ${value}`,
  });
const entries = [
  volts(0.01),
  entry({ kind: 'removed', ref: 'F1', value: 'T1A', note: '' }),
  entry({ kind: 'fitted', ref: 'F1', value: 'T1A', polarityChecked: false, note: '' }),
  volts(8.9),
];
const journal = playJournal(entries, index);
const answer: TrailAnswer = {
  [entries[0]!.id]: {
    expected: { display: '9.00 V', band: '', within: false },
    leading: [{ ref: 'F1', probability: 0.8 }],
    healthy: 0.01,
  },
};
const card = { number: 107, title: '=HYPERLINK("x")', unitModel: 'loom lamp' };

describe('the trace as a file', () => {
  const file = traceFile(card, journal, answer);
  it('has every reading in its order, with what is known of its moment', () => {
    expect(TraceFile.parse(JSON.parse(JSON.stringify(file)))).toEqual(file);
    expect(file.steps.map(({ value, current }) => [value, current])).toEqual([
      [0.01, false],
      [8.9, true],
    ]);
    expect(file.steps[0]).toMatchObject({ expected: '9.00 V', inBand: false, unit: 'V' });
    // What the engine has not said yet stays open, and is not called good.
    expect(file.steps[1]).toMatchObject({
      expected: null,
      inBand: null,
      leading: [],
      healthy: null,
    });
  });
  it('is a table that a spreadsheet reads back and runs nothing of', () => {
    const { data } = Papa.parse<string[]>(traceCsv(file).trim());
    expect(data).toHaveLength(3);
    expect(new Set(data.map(({ length }) => length)).size).toBe(1);
    expect(data[1]).toContain('before the repair');
    expect(data[1]).toContain('no');
    const odd = { ...file, steps: [{ ...file.steps[0]!, at: '=1+1' }] };
    expect(Papa.parse<string[]>(traceCsv(odd).trim()).data[1]![3]).not.toMatch(/^=/);
  });
  it('says a step in words', () => {
    expect(stepWords(index, file.steps[0]!)).toBe('VM to ground 10 mV: F1 4 in 5');
    expect(stepWords(index, file.steps[1]!)).toBe('VM to ground 8.9 V');
  });
});
