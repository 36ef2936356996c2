// @vitest-environment happy-dom
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useMemo, useState } from 'react';
import { v7 } from 'uuid';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Entry, EntryBody } from '../entry';
import { playJournal } from '../journal';
import { entryObjection } from '../rules';
import type { CaseState } from '../use-case';
import type { ProposedPoints } from './grammar';
import { Strip, type Latched } from './Strip';

const index = indexBoard(
  readSheetLines('J1 9V in: 1=VIN 2=0\nF1 VIN V9 T1A\nR1 V9 VM 100\nC4 VM 0 470u', LIBRARY).board,
);
let entries: readonly Entry[] = [];

/** The strip on a case that is kept in memory, with the real rules. */
function Bench({
  list,
  refuses,
  sheet = true,
  ...meter
}: {
  sheet?: boolean;
  list?: readonly ProposedPoints[];
  refuses?: RegExp;
  latched?: Latched;
  onTake?: () => void;
}) {
  const [all, setAll] = useState<readonly Entry[]>([]);
  entries = all;
  const state = useMemo((): CaseState => {
    let own = all;
    const append = (body: EntryBody): string | undefined => {
      if (refuses?.test(JSON.stringify(body))) return 'it is locked';
      const objection = entryObjection(body, own, sheet ? index : undefined);
      if (objection) return objection;
      own = [...own, { id: v7(), madeAt: new Date().toISOString(), body }];
      setAll(own);
      return undefined;
    };
    return {
      index: sheet ? index : undefined,
      entries: all,
      journal: playJournal(all, sheet ? index : undefined),
      model: undefined,
      append,
      expect: async () => ({ display: '9.00 V', band: '8.8 V to 9.2 V' }),
      engine: undefined,
    } as unknown as CaseState;
  }, [all, refuses, sheet]);
  return <Strip state={state} {...(list ? { list } : {})} {...meter} chance={() => 0.7} />;
}
const line = (): HTMLInputElement => screen.getByLabelText('Reading');
const says = (): string => document.getElementById('strip-says')!.textContent ?? '';
const filed = (): string[] => entries.map(({ body }) => body.kind);
const volts = (at: string): ProposedPoints => ({ setup: 'on', kind: 'voltage', at, to: '' });
afterEach(cleanup);

describe('without a sheet', () => {
  it('a bare value goes to what is proposed, and so do those that follow it', async () => {
    render(<Bench sheet={false} list={[volts('P5'), volts('VM')]} />);
    await userEvent.type(line(), '5.01 8.6{Enter}');
    expect(entries.map(({ body }) => body.kind === 'reading' && [body.at, body.value])).toEqual([
      ['P5', 5.01],
      ['VM', 8.6],
    ]);
  });
});

describe('the strip', () => {
  it('files a reading, says the band before, takes it back, and files it again', async () => {
    render(<Bench />);
    await userEvent.type(line(), 'vm 8.6');
    expect(says()).toContain('VM to ground');
    expect(await screen.findByText(/sound: 9.00 V/)).toBeTruthy();
    await userEvent.type(line(), '{Enter}');
    expect(says()).toContain('Filed: VM to ground, volts, 8.6 V');
    await userEvent.type(line(), '{Control>}z{/Control}');
    expect(says()).toContain('Taken back: vm 8.6');
    await userEvent.type(line(), 'again{Enter}');
    expect(filed()).toEqual(['reading', 'retract', 'reading']);
    await userEvent.type(line(), 'again{Enter}');
    expect(says()).toContain('nothing was taken back');
    expect(line().value).toBe('again');
  });

  it('asks once about what is odd, and files it at the second Enter', async () => {
    render(<Bench />);
    await userEvent.type(line(), 'vm 860{Enter}');
    expect(says()).toContain('Enter once more files it');
    expect(filed()).toEqual([]);
    await userEvent.type(line(), '{Enter}');
    expect(filed()).toEqual(['reading']);
    // Another odd one is asked about anew.
    await userEvent.type(line(), 'vm 861{Enter}');
    expect(filed()).toEqual(['reading']);
  });

  it('bare values go to the list in order, several at once too', async () => {
    render(<Bench list={[volts('VIN'), volts('V9'), volts('VM')]} />);
    await userEvent.type(line(), '9.1 9 8.8{Enter}');
    expect(
      entries.map(({ body }) => body.kind === 'reading' && `${body.at} ${body.value}`),
    ).toEqual(['VIN 9.1', 'V9 9', 'VM 8.8']);
    expect(says()).toContain('3 at once');
  });

  it('takes what a meter holds into an empty line, and the space bar files it in its name', async () => {
    const list = [volts('VIN')];
    const take = vi.fn();
    const held = (text: string): Latched => ({ text, instrument: 'Maker Meter' });
    const { rerender } = render(<Bench list={list} onTake={take} />);
    await userEvent.type(line(), ' ');
    expect(take).toHaveBeenCalledOnce();
    rerender(<Bench list={list} onTake={take} latched={held('9.1')} />);
    expect(line().value).toBe('9.1');
    // What it holds next goes in its place; what a person types stays.
    rerender(<Bench list={list} onTake={take} latched={held('9.2')} />);
    expect(line().value).toBe('9.2');
    await userEvent.type(line(), ' ');
    expect(entries[0]!.body).toMatchObject({ at: 'VIN', value: 9.2, instrument: 'Maker Meter' });
    await userEvent.type(line(), 'vm ');
    rerender(<Bench list={list} onTake={take} latched={held('9.3')} />);
    expect(line().value).toBe('vm ');
    await userEvent.type(line(), '8.6{Enter}');
    expect(entries[1]!.body).toMatchObject({ at: 'VM', value: 8.6 });
    expect(entries[1]!.body).not.toHaveProperty('instrument');
  });

  it('keeps the line where something is refused, and says which', async () => {
    render(<Bench refuses={/removed/} />);
    await userEvent.type(line(), 'vm 8.6; c4 off{Enter}');
    expect(says()).toContain('it is locked');
    expect(says()).toContain('1 filed before it');
    expect(filed()).toEqual(['reading']);
    // What was filed already is not filed twice.
    expect(line().value).toBe('c4 off');
  });

  it('completes with Tab and goes on through the ways; without a way Tab leaves the line', async () => {
    render(<Bench />);
    await userEvent.type(line(), 'v');
    const ways = [...document.querySelectorAll('button[tabindex="-1"]')].map((b) => b.textContent);
    expect(ways).toEqual(expect.arrayContaining(['v9', 'vm', 'vin']));
    await userEvent.keyboard('{Tab}');
    expect(line().value).toBe(ways[0]);
    await userEvent.keyboard('{Tab}');
    expect(line().value).toBe(ways[1]);
    await userEvent.clear(line());
    await userEvent.keyboard('{Tab}');
    expect(document.activeElement).not.toBe(line());
  });

  it('brings earlier lines back with the arrows', async () => {
    render(<Bench />);
    await userEvent.type(line(), 'vm 8.6{Enter}vin 9.1{Enter}');
    await userEvent.keyboard('{ArrowUp}{ArrowUp}');
    expect(line().value).toBe('vm 8.6');
    await userEvent.keyboard('{ArrowDown}');
    expect(line().value).toBe('vin 9.1');
    await userEvent.keyboard('{ArrowDown}');
    expect(line().value).toBe('');
  });

  it('a column that is pasted line by line is one line of several', async () => {
    render(<Bench />);
    await userEvent.click(line());
    await userEvent.paste('vin 9.1\nv9 9\r\nvm 8.8\n');
    expect(line().value).toBe('vin 9.1; v9 9; vm 8.8');
    await userEvent.keyboard('{Enter}');
    expect(filed()).toHaveLength(3);
  });
});
