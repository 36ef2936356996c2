// @vitest-environment happy-dom
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Journal } from '../../case/journal';
import type { WhatIfAnswer } from '../../workers/engine-messages';
import { faultNames, WhatIf } from './WhatIf';

const index = indexBoard(
  readSheetLines('J1 9V in: 1=VIN 2=0\nF1 VIN V9 T1A\nL2 V9 VM 100u\nC4 VM 0 470u', LIBRARY).board,
);
const reading = (id: string, typed: string) => ({ current: true, entry: { id, body: { typed } } });
const journal = {
  readings: [reading('a', 'vm 0.02'), reading('b', 'p5 5'), reading('c', 'vm 3 ohm')],
} as unknown as Journal;
const shown = (within: boolean, display: string) => ({ within, display, band: '' });
const onAsk = vi.fn();
const put = (faults: string, answer: WhatIfAnswer | undefined): void => {
  render(<WhatIf index={index} journal={journal} faults={faults} answer={answer} onAsk={onAsk} />);
};
afterEach(() => {
  cleanup();
  onAsk.mockClear();
});

describe('what if', () => {
  it.each([
    ['l2 open', 'l2:open'],
    ['l2:open', 'l2:open'],
    ['c4 high esr', 'c4:high-esr'],
    ['l2 open + d4 short', 'l2:open + d4:short'],
    ['l2 open, d4 short', 'l2:open + d4:short'],
    ['vm~p5:bridge', 'vm~p5:bridge'],
  ])('“%s” is %s', (typed, names) => {
    expect(faultNames(typed)).toBe(names);
  });
  it('counts the readings that the fault explains and names the odd one', () => {
    put('L2:open', {
      ok: true,
      readings: { a: shown(true, '0 V'), b: shown(true, '5.00 V'), c: shown(false, '1.2 kΩ') },
      volts: {},
    });
    expect(screen.getByRole('status').textContent).toBe(
      'What if L2 open: 2 of 3 readings as read; not vm 3 ohm (it would be 1.2 kΩ)',
    );
  });
  it('says where the fault explains all, and where there is nothing to hold it against', () => {
    put('', { ok: true, readings: { a: shown(true, '8 V') }, volts: {} });
    expect(screen.getByRole('status').textContent).toBe(
      'A sound board: it would show what was read',
    );
    cleanup();
    put('F1:open', { ok: true, readings: {}, volts: { VM: '0 V' } });
    expect(screen.getByRole('status').textContent).toContain('no reading to hold it against');
  });
  it('asks for what is typed, by the names of the board', async () => {
    put('', undefined);
    await userEvent.type(
      screen.getByLabelText('Another fault, or two'),
      'f1 open + l2 open{Enter}',
    );
    expect(onAsk).toHaveBeenCalledWith('F1:open + L2:open');
  });
  it('says what it does not know, and keeps it', async () => {
    put('', undefined);
    const field = screen.getByLabelText<HTMLInputElement>('Another fault, or two');
    await userEvent.type(field, 'f1 sings{Enter}');
    expect(onAsk).not.toHaveBeenCalled();
    expect(screen.getByRole('alert').textContent).toMatch(/f1:sings/i);
    expect(field.value).toBe('f1 sings');
  });
});
