// @vitest-environment happy-dom
import { beginning, reckon } from '@hanzai/core/reckon';
import { ARCHETYPES } from '@hanzai/data';
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import fc from 'fast-check';
import { v7 } from 'uuid';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { EntryBody, type Entry } from '../case/entry';
import { playJournal } from '../case/journal';
import { STAGES } from '../case/stages';
import type { CaseState } from '../case/use-case';
import { offeredAt } from './at-stage';
import {
  CALCULATORS,
  calculatorOf,
  findCalculators,
  fromSearch,
  reckonerPath,
} from './calculators';
import { Reckoner } from './ReckonerPage';
import { Reckoners } from './Reckoners';
import { noteOf } from './Reckoning';

// The reckoner's place, its address, and where it stands in a case.

afterEach(() => {
  cleanup();
  window.history.replaceState(null, '', '/');
});
if (!HTMLDialogElement.prototype.showModal)
  HTMLDialogElement.prototype.showModal = function open() {
    this.open = true;
  };

const searchOf = (...of: Parameters<typeof reckonerPath>): string =>
  new URL(reckonerPath(...of), 'http://shop').search;

describe('the address of a calculator', () => {
  it('carries any numbers and words there and back', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...CALCULATORS),
        fc.string({ maxLength: 60 }),
        (calculator, words) => {
          const typed = Object.fromEntries(calculator.fields.map(({ name }) => [name, words]));
          expect(fromSearch(searchOf(calculator.name, typed))).toEqual({
            name: calculator.name,
            typed,
          });
        },
      ),
      { seed: 2010, numRuns: 300 },
    );
  });
  it('of a calculator that is none, or of another page, begins as the first', () => {
    for (const search of ['', '?calculator=no-such', '?q=1&calculator='])
      expect(fromSearch(search)).toEqual({ name: CALCULATORS[0]!.name, typed: {} });
  });
  it('no field is called as the address calls the calculator', () => {
    for (const { name, fields } of CALCULATORS) {
      const typed = Object.fromEntries(fields.map((field) => [field.name, '1']));
      expect(fromSearch(searchOf(name, typed)).name).toBe(name);
    }
  });
});

it('a calculator is found by what it asks, whatever the order of the words', () => {
  expect(findCalculators('pulley larger').map(({ name }) => name)).toContain('belt');
  expect(findCalculators('esr')[0]!.name).toBe('reactance');
  expect(findCalculators('')).toHaveLength(CALCULATORS.length);
  expect(findCalculators('flux capacitor xyz')).toEqual([]);
});

describe('the page', () => {
  it('reckons with what is typed, keeps it in the address, and says what is expected', () => {
    render(<Reckoner search={searchOf('divider', { in: '12V', upper: '10k', lower: '10k' })} />);
    const board = screen.getByRole('article', { name: 'Divider, loaded or not' });
    expect(within(board).getByText('6 V')).toBeTruthy();
    fireEvent.change(within(board).getByLabelText('Load'), { target: { value: '10k' } });
    expect(within(board).getByText('4 V')).toBeTruthy();
    expect(window.location.search).toContain('load=10k');
    fireEvent.change(within(board).getByLabelText('Volts in'), { target: { value: 'a lot' } });
    expect(within(board).getByRole('alert').textContent).toContain('expected a number of volts');
    expect(within(board).getByText('No answer before every field is read.')).toBeTruthy();
    // What else was typed is still there.
    expect((within(board).getByLabelText('Load') as HTMLInputElement).value).toBe('10k');
  });
  it('goes from one to the next and back to how it began', () => {
    render(<Reckoner search="" />);
    fireEvent.change(screen.getByLabelText('Find'), { target: { value: 'bleeder' } });
    fireEvent.click(screen.getByRole('button', { name: 'Discharge and bleeder' }));
    expect(screen.getByText(/Measure it with a meter/)).toBeTruthy();
    const ohm = screen.getByLabelText('Bleeder') as HTMLInputElement;
    fireEvent.change(ohm, { target: { value: '1k' } });
    fireEvent.click(screen.getByRole('button', { name: 'As it began' }));
    expect((screen.getByLabelText('Bleeder') as HTMLInputElement).value).toBe('10k');
  });
  it('every calculator is drawn, with its source', () => {
    for (const { name, title, source } of CALCULATORS) {
      const { unmount } = render(<Reckoner search={searchOf(name, {})} />);
      expect(screen.getByRole('article', { name: title })).toBeTruthy();
      expect(screen.getByText(source)).toBeTruthy();
      unmount();
    }
  });
});

describe('in a case', () => {
  const model = ARCHETYPES.find(({ name }) => name === 'stepper-carriage')!;
  const start = (failedAt: string | null, tries: number): EntryBody => ({
    kind: 'start',
    failedAt,
    tries,
    sounds: '',
    conditions: [],
  });
  const stateOf = (...bodies: EntryBody[]) => {
    const entries: Entry[] = bodies.map((body, i) => ({
      id: v7(),
      madeAt: new Date(Date.UTC(2026, 0, 1, 0, i)).toISOString(),
      body,
    }));
    const append = vi.fn((_: EntryBody): string | undefined => undefined);
    const journal = playJournal(entries, undefined);
    return { state: { journal, model, append } as unknown as CaseState, append };
  };

  it('every stage offers only calculators that there are', () => {
    const { state } = stateOf();
    for (const stage of STAGES)
      for (const { name, typed } of offeredAt(stage, state)) {
        expect(calculatorOf(name).name).toBe(name);
        const calculator = calculatorOf(name);
        expect(reckon(calculator, { ...beginning(calculator), ...typed }).ok).toBe(true);
      }
  });
  it('is filled in with what the case knows', () => {
    const { state } = stateOf(
      start('spin', 3),
      start(null, 7),
      { kind: 'fitted', ref: 'C1', value: '47u', polarityChecked: true, note: '' },
      start(null, 4),
    );
    expect(offeredAt('prove', state)[0]).toEqual({
      name: 'proof',
      typed: { failed: '3', tries: '10', clean: '4' },
    });
    expect(offeredAt('prove', stateOf().state)[0]!.typed).toEqual({});
    // The charge with the most energy of those that the unit keeps.
    const [discharge] = offeredAt('make-safe', state);
    expect(Number(discharge!.typed.volt)).toBeGreaterThan(10);
  });
  it('files its answer as a note, and keeps it where the case refuses', () => {
    const { state, append } = stateOf();
    append.mockReturnValueOnce('the case is closed');
    render(<Reckoners state={state} stage="repair" />);
    fireEvent.click(screen.getByText('Reckon here'));
    fireEvent.click(screen.getByRole('button', { name: 'Wire and jumper' }));
    fireEvent.change(screen.getByLabelText('Length'), { target: { value: '40mm' } });
    fireEvent.click(screen.getByRole('button', { name: 'File it as a note' }));
    expect(screen.getByText(/the case is closed/)).toBeTruthy();
    fireEvent.click(screen.getByRole('button', { name: 'File it as a note' }));
    const filed = EntryBody.parse(append.mock.lastCall![0]);
    expect(filed).toMatchObject({ kind: 'finding' });
    expect(filed.kind === 'finding' && filed.text).toMatch(/^Wire and jumper: .*Length 40mm/);
    expect(screen.queryByRole('button', { name: 'File it as a note' })).toBeNull();
  });
  it('the longest note that any of them makes still fits the journal', () => {
    for (const calculator of CALCULATORS) {
      const answer = reckon(calculator, beginning(calculator));
      if (!answer.ok) throw new Error(calculator.name);
      const text = noteOf(calculator, beginning(calculator), answer);
      expect(EntryBody.safeParse({ kind: 'finding', text }).success).toBe(true);
    }
  });
});
