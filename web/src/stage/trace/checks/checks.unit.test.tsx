// @vitest-environment happy-dom
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { GUIDED_CHECKS, type CheckField } from '@hanzai/core/check';
import { LIBRARY } from '@hanzai/data';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { v7 } from 'uuid';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { EntryBody, type Entry } from '../../../case/entry';
import { guidedFactorsOf } from '../../../case/guided-factors';
import { playJournal } from '../../../case/journal';
import { entryObjection } from '../../../case/rules';
import type { CaseState } from '../../../case/use-case';
import ChecksPane, { readField } from './ChecksPane';

const index = indexBoard(
  readSheetLines('J1 9V in: 1=VIN 2=0\nL1 VIN A 47u\nR1 A 0 1k\nL2 A 0 1m', LIBRARY).board,
);
const appended = vi.fn((_: EntryBody): string | undefined => undefined);
const stateOf = (bodies: readonly EntryBody[]): CaseState => {
  const entries = bodies.map((body): Entry => ({
    id: v7(),
    madeAt: new Date().toISOString(),
    body,
  }));
  return { journal: playJournal(entries, index), append: appended } as unknown as CaseState;
};
const show = (): void =>
  void render(<ChecksPane state={stateOf([])} index={index} onClose={() => undefined} />);
const type = (label: RegExp, text: string) => userEvent.type(screen.getByLabelText(label), text);
const coil = (more: Partial<Extract<EntryBody, { kind: 'guided' }>> = {}): EntryBody => ({
  kind: 'guided',
  check: 'centre-tap',
  ref: 'L2',
  given: { a: 12, b: 'OL', c: 'OL' },
  verdict: 'bad',
  because: ['open'],
  ...more,
});
afterEach(() => {
  cleanup();
  appended.mockClear();
});

describe('guided checks on the screen', () => {
  it('say what is still needed, judge while one types, and file what they came to', async () => {
    show();
    expect(
      screen.getByText(/Still needed: tap to the first end, tap to the second end/),
    ).toBeTruthy();
    await type(/^which part/, 'l2');
    await type(/tap to the first end/, '12');
    await type(/tap to the second end/, 'ol');
    await type(/end to end, Ω/, 'OL');
    expect(screen.getByText(/second end is open: the other half still reads 12/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'File it as evidence' }));
    const body = appended.mock.calls[0]![0];
    expect(body).toMatchObject({
      kind: 'guided',
      ref: 'L2',
      given: { a: 12, b: 'OL', c: 'OL' },
      verdict: 'bad',
    });
    expect(EntryBody.safeParse(JSON.parse(JSON.stringify(body))).success).toBe(true);
    expect(entryObjection(body, [], index)).toBeUndefined();
  });
  it('do not judge with a field that is nonsense', async () => {
    show();
    await type(/tap to the first end/, '12');
    await type(/tap to the second end/, '12');
    await type(/end to end, Ω/, '24V');
    expect(screen.getByText(/no size of it/)).toBeTruthy();
    expect(
      screen.getByRole('button', { name: 'File it as evidence' }).hasAttribute('disabled'),
    ).toBe(true);
  });
  it('every check has its caution on the screen', async () => {
    show();
    for (const { title } of GUIDED_CHECKS) {
      await userEvent.click(screen.getByRole('radio', { name: title }));
      expect(screen.getAllByText('Mind:').length, title).toBeGreaterThan(0);
    }
  });
});

describe('an array of the sheet', () => {
  const withArray = indexBoard(
    readSheetLines('J1 9V in: 1=VIN 2=0\nRN1.1 VIN A 33\nRN1.2 B 0 33\nR1 A 0 1k', LIBRARY).board,
  );
  it('is read element by element, and the worst of them filed as its evidence', async () => {
    render(<ChecksPane state={stateOf([])} index={withArray} onClose={() => undefined} />);
    await userEvent.click(screen.getByLabelText(/resistor array/));
    await type(/which part/, 'rn1');
    expect(screen.getByRole('button', { name: '2 of 2 still to read' })).toBeTruthy();
    await type(/RN1.1 reads/, '33R');
    await type(/RN1.2 reads/, 'nonsense');
    expect(screen.getByText(/no reading; expected 33R/)).toBeTruthy();
    await userEvent.clear(screen.getByLabelText(/RN1.2 reads/));
    await type(/RN1.2 reads/, 'OL');
    await userEvent.click(screen.getByRole('button', { name: 'File the worst of them for RN1' }));
    const [body] = appended.mock.calls[0]!;
    expect(body).toMatchObject({ kind: 'guided', check: 'array', ref: 'RN1', verdict: 'bad' });
    expect(entryObjection(body, [], withArray)).toBeUndefined();
  });
});

describe('what is typed into a field', () => {
  const field = (unit: CheckField['unit'], choices?: string[]): CheckField => ({
    key: 'k',
    label: '',
    unit,
    ...(choices ? { choices } : {}),
  });
  it('is a size of its unit, OL of ohms alone, and time in seconds or milliseconds', () => {
    expect(readField(field('ohm'), '4k7')).toBe(4700);
    expect(readField(field('ohm'), ' ol ')).toBe('OL');
    expect(readField(field('V'), 'OL')).toBeNull();
    expect(readField(field('V'), '1.2V')).toBe(1.2);
    expect(readField(field('V'), '3A')).toBeNull();
    expect(readField(field('A'), '-1')).toBeNull();
    expect(readField(field('s'), '200ms')).toBeCloseTo(0.2, 9);
    expect(readField(field('s'), '0,2')).toBe(0.2);
    expect(readField(field('s'), 'soon')).toBeNull();
    expect(readField(field('choice', ['a']), 'b')).toBeNull();
    expect(readField(field('ohm'), '  ')).toBeUndefined();
  });
});

describe('a guided check as evidence', () => {
  it('has to come to what was given, on a part of the board', () => {
    expect(entryObjection(coil({ verdict: 'good' }), [], undefined)).toMatch(
      /does not come to this/,
    );
    expect(entryObjection(coil({ check: 'toString' }), [], undefined)).toMatch(/no check/);
    expect(entryObjection(coil({ ref: 'L9' }), [], index)).toBeTruthy();
  });
  it('moves the odds of its part, the newest check counts, and a part that came off is another one', () => {
    const of = (...bodies: EntryBody[]) => guidedFactorsOf(stateOf(bodies).journal);
    expect(of(coil()).L2).toBeGreaterThan(1);
    expect(of(coil({ verdict: 'good' })).L2).toBeLessThan(1);
    expect(of(coil({ verdict: 'doubtful' }))).toEqual({});
    expect(of(coil(), coil({ verdict: 'good' })).L2).toBeLessThan(1);
    expect(of(coil({ ref: '' }))).toEqual({});
    const off: EntryBody = { kind: 'removed', ref: 'L2', value: '1m', note: '' };
    expect(of(coil(), off)).toEqual({});
    expect(of(off, coil()).L2).toBeGreaterThan(1);
  });
});
