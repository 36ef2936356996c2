// @vitest-environment happy-dom
import { cleanup, fireEvent, render, screen, within } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { unitLabel } from '../../case/UnitLabel';
import { batchSearch, batchSearched } from '../../docket/search';
import { Batch } from './BatchPage';
import { deliveryNote, ownersOf, type BatchLine } from './delivery';

// What goes back together, and what stands on the unit itself.

afterEach(cleanup);

const unit = (number: number, more: Partial<BatchLine> = {}): BatchLine => ({
  number,
  title: 'PD-3 power board',
  unitModel: 'Ostrel PD-3 power board',
  serial: `PD3-0${number}`,
  owner: 'Thistlewick Loom Hall, stores',
  accessories: '',
  closed: true,
  givenUp: false,
  price: 40,
  returned: '',
  guaranteeUntil: null,
  fitted: ['C5'],
  ...more,
});
const note = (lines: BatchLine[], owner = 'Thistlewick Loom Hall, stores') => {
  const paper = deliveryNote(
    'stores shelf 2',
    owner,
    lines,
    (iso) => iso.slice(0, 10),
    '2026-11-27',
  );
  return (title: string): string =>
    JSON.stringify(paper.sections.find((section) => section.title === title)?.blocks ?? 'none');
};

describe('a delivery note', () => {
  it('has what goes back with what was done, and what stays here apart', () => {
    const of = note([
      unit(201, { guaranteeUntil: '2027-05-26T08:00:00.000Z' }),
      unit(202, { givenUp: true, price: null, fitted: ['C5'] }),
      unit(203, { closed: false }),
    ]);
    expect(of('Goes back')).toContain('C5 replaced');
    expect(of('Goes back')).toContain('until 2027-05-26');
    // What was given up is never told as replaced.
    expect(of('Goes back')).toContain('"202","Ostrel PD-3 power board","PD3-0202","not repaired');
    expect(of('Goes back')).not.toContain('203');
    expect(of('Stays here, not finished')).toContain('203');
  });
  it('adds up what is to pay, and says what has no price', () => {
    expect(note([unit(201), unit(202, { price: 64.5 })])('To pay')).toContain('104.50 for 2 of 2.');
    const some = note([
      unit(201, { price: 0.1 }),
      unit(202, { price: 0.2 }),
      unit(203, { price: null }),
    ]);
    expect(some('To pay')).toContain('0.30 for 2 of 3. 1 without a price');
    expect(note([unit(201, { price: null })])('To pay')).toBe('"none"');
  });
  it('tells one owner nothing of another', () => {
    const lines = [unit(201), unit(202), unit(203, { owner: 'Orrin Vale', accessories: 'a cord' })];
    expect(ownersOf(lines)).toEqual(['Thistlewick Loom Hall, stores', 'Orrin Vale']);
    expect(note(lines)('With them')).toBe('"none"');
    expect(note(lines)('Goes back')).not.toContain('203');
    expect(note(lines, 'Orrin Vale')('With them')).toContain('203: a cord');
  });
  it('is chosen by owner on its page', () => {
    vi.stubGlobal('print', () => undefined);
    render(
      <Batch
        batch="stores shelf 2"
        lines={[unit(201), unit(202), unit(203, { owner: 'Orrin Vale', closed: false })]}
        today="2026-11-27T10:00:00.000Z"
      />,
    );
    expect(within(screen.getByRole('table')).getByText('201')).toBeTruthy();
    fireEvent.change(screen.getByLabelText('For'), { target: { value: 'Orrin Vale' } });
    expect(screen.queryByRole('table')).toBeNull();
    expect(screen.getByText(/Nothing of it is closed yet/)).toBeTruthy();
  });
  it('says so where there is no such batch', () => {
    render(<Batch batch="shelf 9" lines={[]} today="2026-11-27T10:00:00.000Z" />);
    expect(screen.getByText(/No case carries the word “shelf 9”/)).toBeTruthy();
    expect(screen.queryByRole('article')).toBeNull();
  });
  it('is offered where the docket shows a batch, and only there', () => {
    expect(batchSearched(batchSearch('stores shelf 2'))).toBe('stores shelf 2');
    for (const text of ['stores', 'batch: shelf', '"batch: a" b'])
      expect(batchSearched(text)).toBeUndefined();
  });
});

it('the unit’s label says whose case it is and what is inside, and leads to it', () => {
  const view = {
    number: 104,
    title: 'dead after a jolt',
    unitModel: 'CR-40',
    serial: '',
    owner: 'Orrin Vale',
    batch: '',
    stuckInside: 'card disc 14',
    openedAt: '2026-10-01T09:00:00.000Z',
  };
  expect(unitLabel(view, 'http://shop')).toEqual({
    title: 'Case 104',
    lines: ['CR-40', 'dead after a jolt', 'Orrin Vale', 'inside: card disc 14', '1 Oct 2026'],
    code: 'http://shop/case/104',
  });
});
