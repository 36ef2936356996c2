// @vitest-environment happy-dom
import { indexBoard, readDeck, type Board } from '@hanzai/core/board';
import { firstDraws, FIRST_POWER, type SupplyDraw } from '@hanzai/core/prove';
import { LIBRARY } from '@hanzai/data';
import deck from '../../../../data/demo/boards/cr40-srv-supply.cir?raw';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { v7 } from 'uuid';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Entry, EntryBody } from '../../case/entry';
import { playJournal } from '../../case/journal';
import { runWords } from '../../case/kind/proving';
import { soakHours } from '../../case/shown';
import { unitModelOf } from '../../case/unit';
import type { CaseState } from '../../case/use-case';
import { FirstPower } from './FirstPower';
import { Runs, RunsTable } from './Runs';

afterEach(cleanup);
const index = indexBoard((readDeck(deck, LIBRARY) as { value: Board }).value);

describe('the first power', () => {
  const power = (supplies: readonly SupplyDraw[], onAnswer = vi.fn(), locked = false) => {
    render(
      <FirstPower
        step={{ type: 'power', key: FIRST_POWER, stage: 'power', supplies, state: 'open' }}
        index={index}
        absent={[]}
        locked={locked}
        onAnswer={onAnswer}
      />,
    );
    return onAnswer;
  };
  const good = () => screen.getByRole('button', { name: 'Below the limit, nothing warm' });

  it('says what a good board draws and where the limit goes, and takes the answer', async () => {
    const draws = firstDraws(index);
    const answered = power(draws);
    for (const { net } of draws)
      expect(screen.getByRole('row', { name: new RegExp(net) })).toBeTruthy();
    await userEvent.click(good());
    expect(answered).toHaveBeenCalledWith(true);
  });

  it('above the limit nothing can be called good, and the short that draws it is named', async () => {
    const draws = firstDraws(index);
    const [{ net }] = draws as [SupplyDraw];
    const answered = power(draws);
    const field = screen.getByLabelText(`${net} gives, mA`);
    await userEvent.type(field, '4000');
    expect(good()).toHaveProperty('disabled', true);
    const said = screen.getByRole('status');
    expect(said.textContent).toMatch(/Switch it off/);
    expect(within(said).getAllByRole('listitem')[0]!.textContent).toMatch(
      /about .* Ω from .* to ground/,
    );
    await userEvent.click(screen.getByRole('button', { name: /Above it/ }));
    expect(answered).toHaveBeenCalledWith(false);
    // At the limit, and with nothing typed, it may be answered again.
    await userEvent.clear(field);
    expect(good()).toHaveProperty('disabled', false);
    // More than any short of a rail draws.
    await userEvent.type(field, '99999999');
    expect(screen.getByText(/No short of a rail to ground fits/)).toBeTruthy();
  });

  it('gives no figure where the sheet has none, and nothing passes while power is locked', () => {
    power([], vi.fn(), true);
    expect(screen.getByText(/What it draws is not worked out here/)).toBeTruthy();
    expect(screen.queryByLabelText(/gives, mA/)).toBeNull();
    // No limit is said to have been kept where none is known.
    expect(screen.queryByText(/Below the limit/)).toBeNull();
    expect(screen.getByRole('button', { name: /low limit held/ })).toHaveProperty('disabled', true);
  });
});

describe('runs', () => {
  let at = Date.parse('2026-03-01T10:00:00.000Z');
  const entry = (body: EntryBody): Entry => ({
    id: v7(),
    madeAt: new Date((at += 60_000)).toISOString(),
    body,
  });
  const run = (more: Partial<Extract<EntryBody, { kind: 'run' }>> = {}): EntryBody => ({
    kind: 'run',
    medium: 'card 14',
    of: 'pressed',
    where: '',
    states: ['closed'],
    passes: 10,
    errors: 0,
    note: '',
    ...more,
  });
  const fitted: EntryBody = {
    kind: 'fitted',
    ref: 'L1',
    value: '47u',
    polarityChecked: false,
    note: '',
  };
  const stateOf = (...bodies: EntryBody[]) => {
    const append = vi.fn((_: EntryBody): string | undefined => undefined);
    const state = {
      journal: playJournal(bodies.map(entry), index),
      model: unitModelOf('optical-disc-reader', []),
      append,
    } as unknown as CaseState;
    return { state, append };
  };

  it('are entered with what they ran on and in which state, and say what is still open', async () => {
    const { state, append } = stateOf(run({ passes: 3, errors: 1 }), fitted, run());
    render(<Runs state={state} locked={false} />);
    expect(screen.getByText(/Error rate below 26 % at 95 % \(0 of 10 passes/)).toBeTruthy();
    expect(screen.getByText(/Not tried: .*innermost/)).toBeTruthy();
    expect(screen.getByText(/289 more passes without an error bring it below 1 %/)).toBeTruthy();
    // What ran before the repair stands apart, and counts nothing now.
    const tables = screen.getAllByRole('table');
    expect(tables.map((table) => within(table).getByText(/Since|Before/).textContent)).toEqual([
      'Since the repair',
      'Before',
    ]);
    await userEvent.selectOptions(screen.getByLabelText('Medium'), 'foreign');
    await userEvent.type(screen.getByLabelText('Which'), 'blank');
    await userEvent.click(screen.getByLabelText('warm'));
    await userEvent.type(screen.getByLabelText('Passes right'), '2{Enter}');
    expect(append).toHaveBeenCalledWith({
      kind: 'run',
      of: 'foreign',
      medium: 'blank',
      where: '',
      states: ['warm'],
      passes: 2,
      errors: 0,
      note: '',
    });
    // What is no count is said, and nothing is entered.
    await userEvent.type(screen.getByLabelText('Passes right'), 'many{Enter}');
    expect(screen.getByText(/no count/)).toBeTruthy();
    expect(append).toHaveBeenCalledTimes(1);
  });

  it('say nothing before anything ran', () => {
    render(<Runs state={stateOf().state} locked />);
    expect(screen.getByText(/Nothing was run since the last repair/)).toBeTruthy();
    expect(screen.queryByRole('table')).toBeNull();
    expect(screen.getByRole('button', { name: 'Enter the run' })).toHaveProperty('disabled', true);
  });

  it('stand in words and in a table with a column for each state', () => {
    expect(runWords(run({ errors: 1, passes: 1, where: 'outermost' }) as never)).toBe(
      'card 14 (pressed), outermost, closed: 1 pass, 1 error',
    );
    expect(runWords(run({ of: 'none', medium: '', states: [] }) as never)).toBe(
      'what it does: 10 passes, 0 errors',
    );
    render(
      <RunsTable
        caption="x"
        runs={[
          { medium: 'a', kind: 'pressed', where: '', states: ['warm'], passes: 2, errors: 1 },
          { medium: 'a', kind: 'pressed', where: '', states: ['cold'], passes: 4, errors: 0 },
        ]}
      />,
    );
    expect(screen.getByRole('row', { name: /a, pressed/ }).textContent).toContain('6 of 7');
    expect(screen.getByText('2 of 3')).toBeTruthy();
    expect(screen.getByText('4 of 4')).toBeTruthy();
  });

  it('count the hours of burn-in that ended since the last line of the ledger, and no other', () => {
    const timer = (hours: number, what: 'burn-in' | 'bleach' = 'burn-in'): Entry =>
      entry({ kind: 'timer', what, title: 't', hours });
    const all = [timer(5), entry(fitted), timer(8), timer(3), timer(30, 'bleach')];
    const done = [0, 2, 4].map((i) => entry({ kind: 'timerDone', timer: all[i]!.id }));
    expect(soakHours(playJournal([...all, ...done], index))).toBe(8);
  });
});
