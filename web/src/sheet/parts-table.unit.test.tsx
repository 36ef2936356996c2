// @vitest-environment happy-dom
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { Drawers } from '../ui/Drawers';
import { PartsTable } from './PartsTable';

const SHEET = `C10 VM 0 100n
C2 VM 0 470u 16V electrolytic
U3 74LS14 1=A 2=B 14=VM 7=0
R1 A VM 4k7`;
const wentTo = vi.fn();
let text = SHEET;

function Bench({ from }: { from: string }) {
  const [now, setNow] = useState(from);
  text = now;
  return <PartsTable text={now} onChange={setNow} onGo={wentTo} />;
}
const refs = (): string[] =>
  screen
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getByRole('checkbox').getAttribute('aria-label')!);
const choose = (ref: string) => userEvent.click(screen.getByRole('checkbox', { name: ref }));

afterEach(() => {
  cleanup();
  wentTo.mockClear();
});

describe('the table of parts', () => {
  it('sorts by a column, numbers as numbers, and back', async () => {
    render(<Bench from={SHEET} />);
    await userEvent.click(screen.getByRole('button', { name: 'Part' }));
    expect(refs()).toEqual(['C2', 'C10', 'R1', 'U3']);
    expect(screen.getByRole('columnheader', { name: /Part/ }).getAttribute('aria-sort')).toBe(
      'ascending',
    );
    await userEvent.click(screen.getByRole('button', { name: /Part/ }));
    expect(refs()).toEqual(['U3', 'R1', 'C10', 'C2']);
  });
  it('finds by any word of a line, and says where nothing has it', async () => {
    render(<Bench from={SHEET} />);
    await userEvent.type(screen.getByLabelText('Find'), 'electro');
    expect(refs()).toEqual(['C2']);
    await userEvent.type(screen.getByLabelText('Find'), 'x');
    expect(screen.getByText(/Nothing has/)).toBeDefined();
  });
  it('changes several at once, and they stay chosen', async () => {
    render(<Bench from={SHEET} />);
    await choose('C10');
    await choose('C2');
    await userEvent.type(screen.getByLabelText('Make it'), '10u 25V');
    await userEvent.click(screen.getByRole('button', { name: 'Change 2' }));
    expect(text).toContain('C10 VM 0 10u 25V');
    expect(text).toContain('C2 VM 0 10u 25V');
    expect(text).toContain('R1 A VM 4k7');
    expect(screen.getByRole('status').textContent).toBe('2 lines changed');
    expect(screen.getByRole('button', { name: 'Change 2' })).toBeDefined();
  });
  it('says which line stays as it was and why, and keeps what was typed', async () => {
    render(<Bench from={SHEET} />);
    await choose('U3');
    await userEvent.selectOptions(screen.getByLabelText(/chosen/), 'tolerance');
    await userEvent.type(screen.getByLabelText('Make it'), 'lots');
    await userEvent.click(screen.getByRole('button', { name: 'Change 1' }));
    expect(screen.getByRole('alert').textContent).toMatch(/U3 stays as it was.*tolerance/);
    expect(screen.getByLabelText<HTMLInputElement>('Make it').value).toBe('lots');
    expect(text).toBe(SHEET);
  });
  it('asks for parts where none is chosen', async () => {
    render(<Bench from={SHEET} />);
    await userEvent.type(screen.getByLabelText('Make it'), '1k{Enter}');
    expect(screen.getByRole('alert').textContent).toMatch(/choose the parts/);
  });
  it('chooses all that are found, and those alone', async () => {
    render(<Bench from={SHEET} />);
    await userEvent.type(screen.getByLabelText('Find'), '0 ');
    await userEvent.clear(screen.getByLabelText('Find'));
    await userEvent.type(screen.getByLabelText('Find'), '470u');
    await choose('All that are found');
    expect(screen.getByRole('button', { name: 'Change 1' })).toBeDefined();
  });
  it('goes to the line of a part', async () => {
    render(<Bench from={SHEET} />);
    await userEvent.click(screen.getByRole('button', { name: '3' }));
    expect(wentTo).toHaveBeenCalledWith(3);
  });
  it('teaches where there are no parts', () => {
    render(<Bench from="" />);
    expect(screen.getByText('No parts yet.')).toBeDefined();
  });
});

describe('drawers', () => {
  const drawers = [
    { key: 'a', label: 'First', content: <p>one</p> },
    { key: 'b', label: 'Second', content: <p>two</p> },
  ];
  it('open one at a time and shut again, by keys too', async () => {
    render(<Drawers label="Drawers" drawers={drawers} first="a" />);
    expect(screen.getByText('one')).toBeDefined();
    screen.getByRole('button', { name: 'First' }).focus();
    await userEvent.keyboard('{ArrowRight}{Enter}');
    expect(screen.queryByText('one')).toBeNull();
    expect(screen.getByText('two')).toBeDefined();
    await userEvent.keyboard('{Enter}');
    expect(screen.queryByText('two')).toBeNull();
    await userEvent.keyboard('{ArrowRight}');
    expect(document.activeElement?.textContent).toBe('First');
  });
});
