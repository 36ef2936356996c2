// @vitest-environment happy-dom
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useMemo, useState } from 'react';
import { v7 } from 'uuid';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Entry, EntryBody } from '../../../case/entry';
import { playJournal } from '../../../case/journal';
import { entryObjection } from '../../../case/rules';
import type { CaseState } from '../../../case/use-case';
import ChipView from './ChipView';

const index = indexBoard(
  readSheetLines(
    [
      'J1 5V in: 1=P5 2=0',
      'U1 74LS00 1=A 2=B 3=Y 4=Y 5=B 6=Q 7=0 14=P5',
      'U2 74LS04 1=Y 2=Z 7=0 14=P5',
      'R1 A P5 10k',
    ].join('\n'),
    LIBRARY,
  ).board,
);
const engine = { door: { levels: async () => ({ A: '1', B: '1', Y: '0', Q: '1', P5: '1' }) } };
let entries: readonly Entry[] = [];
const onPlace = vi.fn();

function Bench() {
  const [all, setAll] = useState<readonly Entry[]>([]);
  const [shown, setShown] = useState<string | undefined>('U1');
  entries = all;
  const state = useMemo((): CaseState => {
    let own = all;
    const append = (body: EntryBody): string | undefined => {
      const objection = entryObjection(body, own, index);
      if (objection) return objection;
      own = [...own, { id: v7(), madeAt: new Date().toISOString(), body }];
      setAll(own);
      return undefined;
    };
    const journal = playJournal(all, index);
    return { index, entries: all, journal, append, engine } as unknown as CaseState;
  }, [all]);
  return shown ? (
    <ChipView
      state={state}
      index={index}
      lineUp={undefined}
      said={undefined}
      shown={shown}
      onShow={setShown}
      onPlace={onPlace}
    />
  ) : (
    <p>no chip</p>
  );
}
const pins = (): HTMLElement => screen.getByRole('listbox');
const key = (...names: string[]): void => {
  for (const name of names) fireEvent.keyDown(pins(), { key: name });
};
const chosen = (): string =>
  within(pins()).getByRole('option', { selected: true }).getAttribute('aria-label') ?? '';
afterEach(() => {
  cleanup();
  onPlace.mockClear();
});

describe('the chip in view', () => {
  it('asks for supply and ground first, in volts, with the caution of powered pins', async () => {
    render(<Bench />);
    expect(screen.getByText(/Supply and ground first: pin 7 GND, pin 14 VCC/)).toBeTruthy();
    expect(chosen()).toContain('pin 7');
    expect(screen.getByText(/Powered: one hand/)).toBeTruthy();
    key('1');
    expect(screen.getByText(/read in volts/)).toBeTruthy();
    expect(entries).toHaveLength(0);
    key('v');
    expect(onPlace).toHaveBeenCalledWith('U1.7');
  });

  it('files a level with one key, goes on to the next pin, and lights a conflict up', async () => {
    render(<Bench />);
    await screen.findByRole('option', { name: /pin 1 .*should be 1/ });
    fireEvent.click(within(pins()).getByRole('option', { name: /^pin 1 / }));
    key('1', '1');
    expect(entries.map(({ body }) => body.kind === 'reading' && body.at)).toEqual(['U1.1', 'U1.2']);
    expect(chosen()).toContain('pin 3');
    key('1');
    fireEvent.click(within(pins()).getByRole('option', { name: /^pin 3 / }));
    expect(screen.getByText(/By its inputs U1 drives 0 here; 1 was read/)).toBeTruthy();
    expect(screen.getByText(/U2.1.*the next pin on the net|the next pin on the net/)).toBeTruthy();
    // The row that was read is marked in the truth table.
    expect(document.querySelectorAll('tr[class*=row]')).toHaveLength(1);
    expect(screen.getByText(/its inputs are right and Y is not/)).toBeTruthy();
  });

  it('is walked by arrows, across and mirrored too', async () => {
    render(<Bench />);
    fireEvent.click(within(pins()).getByRole('option', { name: /^pin 1 / }));
    key('ArrowDown');
    expect(chosen()).toContain('pin 2');
    key('ArrowRight');
    expect(chosen()).toContain('pin 13');
    key('ArrowDown');
    expect(chosen()).toContain('pin 12');
    key('ArrowUp', 'ArrowUp', 'ArrowUp');
    expect(chosen()).toContain('pin 14');
    const order = (): string[] =>
      within(pins())
        .getAllByRole('option')
        .map((pin) => /^pin (\d+)/.exec(pin.getAttribute('aria-label')!)![1]!);
    const above = order();
    await userEvent.click(screen.getByText('from above', { selector: 'button' }));
    // Left and right change places, the numbers run the other way round.
    expect(order()).toEqual([...above.slice(7), ...above.slice(0, 7)]);
  });

  it('keeps what is known of the chips, plans their swaps and tallies them', async () => {
    render(<Bench />);
    await userEvent.click(screen.getByText('Chips and swaps'));
    expect(screen.getByText(/Tick the chips that sit in sockets/)).toBeTruthy();
    await userEvent.click(screen.getByLabelText('U1 sits in a socket'));
    await userEvent.click(screen.getByLabelText('U2 sits in a socket'));
    expect(await screen.findByText(/never its only good chips into this board/)).toBeTruthy();
    expect(screen.getByText(/Power off at both ends/)).toBeTruthy();
    await userEvent.click(screen.getByText('It does not'));
    expect(entries.at(-1)!.body).toMatchObject({ kind: 'chipSwap', passed: false });
    await userEvent.click(screen.getAllByText('Write')[0]!);
    await userEvent.type(screen.getByLabelText('Date code'), '8735');
    await userEvent.click(screen.getByText('Keep'));
    expect(await screen.findByText('8735')).toBeTruthy();
    expect(screen.getByLabelText('U1 sits in a socket')).toHaveProperty('checked', true);
  });

  it('goes to another chip on the net, and away', async () => {
    render(<Bench />);
    fireEvent.click(within(pins()).getByRole('option', { name: /^pin 3 / }));
    await userEvent.click(screen.getByText(/^U2\./, { selector: 'button' }));
    expect(screen.getByLabelText('which chip')).toHaveProperty('value', 'U2');
    await userEvent.click(screen.getByText('Close'));
    expect(screen.getByText('no chip')).toBeTruthy();
  });
});
