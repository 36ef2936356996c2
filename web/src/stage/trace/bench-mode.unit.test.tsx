// @vitest-environment happy-dom
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Journal } from '../../case/journal';
import type { ProposedPoints } from '../../case/strip/grammar';
import type { LineUp } from '../../workers/engine-messages';
import type { Live } from '../../meter/use-live';
import { BenchMode } from './BenchMode';
import { lastMeant } from './last-meant';
import { canBePedal } from './use-pedal';

const index = indexBoard(
  readSheetLines('J1 5V in: 1=P5 2=0\nU1 74LS00 1=A 2=B 3=Y 7=0 14=P5\nR1 Y 0 1k', LIBRARY).board,
);
const volts: ProposedPoints = { setup: 'on', kind: 'voltage', at: 'P5', to: '' };
const level: ProposedPoints = { setup: 'on', kind: 'logic', at: 'Y', to: '' };
const onValue = vi.fn((text: string): string | undefined =>
  text === 'x' ? 'no value' : undefined,
);
const show = (step: ProposedPoints | undefined, meant = '', live?: Live): void => {
  render(
    <BenchMode
      index={index}
      step={step}
      place=""
      next={undefined}
      lineUp={undefined}
      meant={meant}
      expect={async () => ({ display: '5.00 V', band: '4.9 V to 5.1 V' })}
      onValue={onValue}
      {...(live ? { live } : {})}
      onClose={() => undefined}
    />,
  );
};
const value = (): HTMLInputElement => screen.getByLabelText('Value');

beforeEach(() => localStorage.clear());
afterEach(() => {
  cleanup();
  onValue.mockClear();
});

describe('bench mode', () => {
  it('takes a value with Enter, shows what is sound, and keeps what is refused', async () => {
    show(volts, 'VM is off.');
    expect(await screen.findByText('5.00 V')).toBeTruthy();
    expect(screen.getByText('VM is off.')).toBeTruthy();
    await userEvent.type(value(), 'x{Enter}');
    expect(screen.getByText('no value')).toBeTruthy();
    expect(value().value).toBe('x');
    await userEvent.clear(value());
    await userEvent.type(value(), '4.98{Enter}');
    expect(onValue).toHaveBeenLastCalledWith('4.98', undefined);
    expect(value().value).toBe('');
  });
  it('shows what a meter shows, and files what it holds with the space bar, in its name', async () => {
    const take = vi.fn();
    const live: Live = {
      phase: 'live',
      name: 'Maker Meter',
      shown: { kind: 'voltage', value: 4.98, isAtRest: true },
      trouble: undefined,
      why: undefined,
      latched: { text: '4.98', instrument: 'Maker Meter' },
      connect: () => undefined,
      disconnect: () => undefined,
      take,
      putProbes: undefined,
      hidden: undefined,
    };
    show(volts, '', live);
    expect(await screen.findByText('Maker Meter: 4.98 V, at rest')).toBeTruthy();
    expect(value().value).toBe('4.98');
    await userEvent.type(value(), ' ');
    expect(onValue).toHaveBeenLastCalledWith('4.98', 'Maker Meter');
    // Nothing is held any more: the space bar asks for what is shown.
    await userEvent.type(value(), ' ');
    expect(take).toHaveBeenCalledOnce();
    // What a person changed is not the meter's.
    await userEvent.type(value(), '5{Enter}');
    expect(onValue).toHaveBeenLastCalledWith('5', undefined);
  });
  it('a level is one key', async () => {
    show(level);
    await userEvent.type(value(), '1');
    expect(onValue).toHaveBeenCalledWith('1', undefined);
    cleanup();
    onValue.mockClear();
    show(volts);
    await userEvent.type(value(), '1');
    expect(onValue).not.toHaveBeenCalled();
  });
  it('a pedal is whatever key it sends, learnt once, and never part of a value', async () => {
    show(volts);
    await userEvent.click(screen.getByText('Set a pedal'));
    fireEvent.keyDown(window, { key: '5' });
    expect(screen.getByText(/Press the pedal now/)).toBeTruthy();
    fireEvent.keyDown(window, { key: 'PageDown' });
    expect(screen.getByText(/Pedal is PageDown/)).toBeTruthy();
    await userEvent.type(value(), '4.98');
    fireEvent.keyDown(window, { key: 'PageDown' });
    expect(onValue).toHaveBeenCalledWith('4.98', undefined);
    cleanup();
    show(volts);
    expect(screen.getByText(/Pedal is PageDown/)).toBeTruthy();
  });
  it.each([
    ['PageDown', true],
    [' ', true],
    ['F13', true],
    ['Enter', true],
    ['5', false],
    ['k', false],
    ['Escape', false],
    ['ArrowUp', false],
    ['.', false],
  ])('%j can be a pedal: %s', (key, can) => expect(canBePedal(key)).toBe(can));
  it('says where there is nothing to measure', () => {
    show(undefined);
    expect(screen.getByText('Working it out …')).toBeTruthy();
  });
});

describe('what the last reading meant', () => {
  const reading = (id: string, current = true) => ({
    current,
    entry: { id, body: { at: 'P5', to: '', quantity: 'voltage', value: 0.2, typed: 'p5 .2' } },
  });
  const journal = (...readings: unknown[]) => ({ readings }) as unknown as Journal;
  const lineUp = (within: boolean, decibans: number): LineUp =>
    ({
      expected: { a: { within, display: '5.00 V', band: '' } },
      entries: [{ ref: 'U1', probability: 0.66, weights: [{ id: 'a', decibans }] }],
    }) as unknown as LineUp;
  it('is one sentence: read, judged, and who leads now', () => {
    expect(lastMeant(index, journal(reading('a')), lineUp(false, 25))).toBe(
      'P5 to ground 200 mV is off, sound 5.00 V; very strongly for it: U1, now 2 in 3.',
    );
    expect(lastMeant(index, journal(reading('a')), lineUp(true, 0.2))).toContain(
      'is in band; says nothing of U1',
    );
  });
  it('is nothing before the first, before its line-up, and of a board before its repair', () => {
    expect(lastMeant(index, journal(), lineUp(true, 0))).toBe('');
    expect(lastMeant(index, journal(reading('b')), lineUp(true, 0))).toBe('');
    expect(lastMeant(index, journal(reading('a', false)), lineUp(true, 0))).toBe('');
  });
});
