// @vitest-environment happy-dom
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { readPoints } from '@hanzai/core/training';
import { LIBRARY } from '@hanzai/data';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { EntryBody } from '../entry';
import { playJournal } from '../journal';
import type { PracticeLink } from '../practice-link';
import type { CaseState } from '../use-case';
import { Strip } from './Strip';

// The strip of an exercise: points without values, and everything that is no reading as ever.

const index = indexBoard(
  readSheetLines('J1 9V in: 1=VIN 2=0\nF1 VIN V9 T1A\nR1 V9 VM 100\nC4 VM 0 470u', LIBRARY).board,
);
afterEach(cleanup);

function bench(practice: Partial<PracticeLink> = {}) {
  const measure = vi.fn<PracticeLink['measure']>(async (text) =>
    text === 'r1'
      ? { ok: false, why: 'the meter shows nothing steady there' }
      : { ok: true, words: 'vm: 8.61 V', kind: 'voltage' },
  );
  const filed: EntryBody[] = [];
  const state = {
    index,
    entries: [],
    journal: playJournal([], index),
    model: undefined,
    append: (body: EntryBody) => void filed.push(body),
    expect: async () => undefined,
    engine: undefined,
    practice: {
      help: 'none',
      busy: false,
      measure,
      points: (text: string) => readPoints(index, text),
      ...practice,
    },
  } as unknown as CaseState;
  render(<Strip state={state} chance={() => 0.5} />);
  return { measure, filed, line: screen.getByLabelText<HTMLInputElement>('Reading') };
}
const says = (): string => document.getElementById('strip-says')!.textContent ?? '';

describe('in an exercise the strip', () => {
  it('says what Enter would measure, measures, and says what was read', async () => {
    const { measure, line, filed } = bench();
    await userEvent.type(line, 'vm');
    expect(says()).toBe('Enter puts the probes there: VM, voltage, power on');
    await userEvent.keyboard('{Enter}');
    expect(measure).toHaveBeenCalledWith('vm', undefined);
    await vi.waitFor(() => expect(says()).toContain('Read: vm: 8.61 V'));
    expect(line.value).toBe('');
    expect(filed).toEqual([]);
  });
  it('takes no value: neither files it nor measures', async () => {
    const { measure, line, filed } = bench();
    await userEvent.type(line, 'vm 8.6{Enter}');
    expect(says()).toContain('type the point alone');
    expect(measure).not.toHaveBeenCalled();
    expect(filed).toEqual([]);
  });
  it('a word that is a value elsewhere is what is measured here', async () => {
    const { measure, line } = bench();
    await userEvent.type(line, 'f1 beep{Enter}');
    expect(measure).toHaveBeenCalledWith('f1 beep', undefined);
  });
  it('files what is no reading as ever', async () => {
    const { measure, line, filed } = bench();
    await userEvent.type(line, 'c4 off{Enter}');
    await userEvent.type(line, 'condemn c4{Enter}');
    expect(filed.map(({ kind }) => kind)).toEqual(['removed', 'condemn']);
    expect(measure).not.toHaveBeenCalled();
  });
  it('keeps what was typed where nothing could be read, or the bench is busy', async () => {
    const { line } = bench();
    await userEvent.type(line, 'r1{Enter}');
    await vi.waitFor(() => expect(says()).toContain('nothing steady'));
    expect(line.value).toBe('r1');
    cleanup();
    const busy = bench({ busy: true });
    await userEvent.type(busy.line, 'vm{Enter}');
    expect(says()).toContain('busy');
    expect(busy.measure).not.toHaveBeenCalled();
    expect(busy.line.value).toBe('vm');
  });
  it('an empty line with nothing proposed does nothing', async () => {
    const { measure, line } = bench();
    await userEvent.type(line, '{Enter}');
    expect(measure).not.toHaveBeenCalled();
  });
});
