// @vitest-environment happy-dom
import { readSpec, UNKNOWN_PLACE } from '@hanzai/core/part';
import { LIBRARY } from '@hanzai/data';
import { DEMO_STOCK } from '@hanzai/data/demo';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import fc from 'fast-check';
import { v7 } from 'uuid';
import { afterEach, describe, expect, it, vi } from 'vitest';
import {
  allocate,
  costOf,
  ORDER_DAYS,
  type Allocation as Plan,
  type Supply,
  type Wanted,
} from './allocate';
import { Allocation, openNeeds, wantedOf } from './Allocation';
import { labelOf } from './Labels';
import { LotTable, reasonsOf } from './LotTable';
import { rankLots } from './rank';
import { freeOf, NewLot, type Lot, type StockNeed } from './stock';
import { readStockCsv, stockCsv } from './stock-file';
import type { StockState } from './use-stock';

const lot = (text: string, more: Partial<Lot> = {}): Lot => ({
  id: v7(),
  text,
  bin: '',
  supplier: '',
  price: null,
  boughtOn: null,
  quantity: 1,
  reserved: 0,
  minimum: 0,
  donor: '',
  note: '',
  keptFor: [],
  ...more,
});
const NOW = Date.parse('2026-11-28');
afterEach(cleanup);

/** Every way of spreading, one by one; only for small ones. */
function cheapest(wanted: readonly Wanted[], supplies: readonly Supply[]): number {
  let best = Infinity;
  const free = new Map(supplies.map((one) => [one.lot, one.free]));
  const plan: { fromStock: Map<string, string>; orders: Map<string, string[]>; unmet: string[] } = {
    fromStock: new Map(),
    orders: new Map(),
    unmet: [],
  };
  const go = (j: number): void => {
    if (j === wanted.length) {
      best = Math.min(best, costOf(wanted, { ...plan, late: [] }));
      return;
    }
    const { key, lots, suppliers } = wanted[j]!;
    for (const one of lots) {
      const left = free.get(one) ?? 0;
      if (left < 1) continue;
      free.set(one, left - 1);
      plan.fromStock.set(key, one);
      go(j + 1);
      plan.fromStock.delete(key);
      free.set(one, left);
    }
    for (const supplier of suppliers) {
      const before = plan.orders.get(supplier);
      plan.orders.set(supplier, [...(before ?? []), key]);
      go(j + 1);
      if (before) plan.orders.set(supplier, before);
      else plan.orders.delete(supplier);
    }
    plan.unmet.push(key);
    go(j + 1);
    plan.unmet.pop();
  };
  go(0);
  return best;
}

describe('allocation', () => {
  const random = fc.record({
    wanted: fc.array(
      fc.record({
        days: fc.option(fc.integer({ min: 0, max: 12 }), { nil: undefined }),
        lots: fc.uniqueArray(fc.constantFrom('L1', 'L2', 'L3')),
        suppliers: fc.uniqueArray(fc.constantFrom('S1', 'S2', 'S3')),
      }),
      { maxLength: 6 },
    ),
    free: fc.tuple(fc.nat(2), fc.nat(2), fc.nat(2)),
  });
  it('is the cheapest of all there are, takes nothing twice, and leaves nothing out', () => {
    fc.assert(
      fc.property(random, ({ wanted: some, free }) => {
        const wanted = some.map((one, j): Wanted => ({ key: `N${j}`, ...one }));
        const supplies = free.map((count, i): Supply => ({ lot: `L${i + 1}`, free: count }));
        const plan = allocate(wanted, supplies);
        expect(costOf(wanted, plan)).toBeCloseTo(cheapest(wanted, supplies), 6);
        for (const { lot: id, free: most } of supplies)
          expect(
            [...plan.fromStock.values()].filter((one) => one === id).length,
          ).toBeLessThanOrEqual(most);
        const places = [
          ...plan.fromStock.keys(),
          ...[...plan.orders.values()].flat(),
          ...plan.unmet,
        ];
        expect(places.sort()).toEqual(wanted.map(({ key }) => key).sort());
      }),
      { numRuns: 150 },
    );
  });

  it('the last one goes to the promise that an order would break', () => {
    const one = (key: string, days: number | undefined): Wanted => ({
      key,
      days,
      lots: ['L1'],
      suppliers: ['S1'],
    });
    const plan = allocate(
      [one('late', ORDER_DAYS + 9), one('soon', 1), one('free', undefined)],
      [{ lot: 'L1', free: 1 }],
    );
    expect(plan.fromStock.get('soon')).toBe('L1');
    expect(plan.late).toEqual([]);
    expect([...plan.orders.get('S1')!].sort()).toEqual(['free', 'late']);
  });

  it('one order where two would do', () => {
    const wanted: Wanted[] = [
      { key: 'a', days: undefined, lots: [], suppliers: ['S1', 'S2'] },
      { key: 'b', days: undefined, lots: [], suppliers: ['S2'] },
      { key: 'c', days: undefined, lots: [], suppliers: ['S1', 'S2'] },
    ];
    const plan: Plan = allocate(wanted, []);
    expect([...plan.orders.keys()]).toEqual(['S2']);
    expect(allocate([], []).unmet).toEqual([]);
    expect(allocate([{ key: 'a', days: 1, lots: [], suppliers: [] }], []).unmet).toEqual(['a']);
  });

  it('forty needs are spread within seconds', () => {
    const wanted = Array.from({ length: 40 }, (_, j): Wanted => ({
      key: `N${j}`,
      days: j % 9,
      lots: [`L${j % 7}`, `L${j % 5}`],
      suppliers: [`S${j % 4}`, `S${j % 3}`],
    }));
    const plan = allocate(
      wanted,
      Array.from({ length: 7 }, (_, i) => ({ lot: `L${i}`, free: 3 })),
    );
    expect(plan.fromStock.size).toBe(21);
    expect(plan.unmet).toEqual([]);
  });
});

describe('what is there for a place', () => {
  const was = readSpec('47u 16V electrolytic 105C esr=0.5 h=12 d=6.3 pitch=2.5', LIBRARY);
  const good = lot('47u 25V electrolytic 105C esr=0.35 h=11 d=6.3 pitch=2.5', {
    boughtOn: '2025-03-04',
  });
  it('what fits first, then with conditions, what stops last, other kinds not at all', () => {
    const lots = [
      lot('74LS86'),
      lot('47u 10V electrolytic'),
      lot('47u 25V'),
      { ...good, quantity: 0 },
      good,
    ];
    const ranked = rankLots(was, lots, UNKNOWN_PLACE, NOW);
    expect(ranked.map(({ verdict, lot: one }) => [verdict, freeOf(one)])).toEqual([
      ['fits', 1],
      ['fits', 0],
      ['conditions', 1],
      ['no', 1],
    ]);
    expect(reasonsOf(ranked[3]!.remarks)).toMatch(/below the 16 V/);
  });
  it('an old electrolytic is formed first, one out of a donor tested', () => {
    const old = rankLots(was, [{ ...good, boughtOn: '2015-01-01' }], UNKNOWN_PLACE, NOW)[0]!;
    expect([old.verdict, reasonsOf(old.remarks)]).toEqual([
      'conditions',
      expect.stringMatching(/11 years ago: form it/),
    ]);
    const left = rankLots(was, [{ ...good, donor: 'CR-40' }], UNKNOWN_PLACE, NOW)[0]!;
    expect([left.verdict, reasonsOf(left.remarks)]).toEqual([
      'conditions',
      expect.stringMatching(/out of CR-40/),
    ]);
  });
  it('forming asks for a limited current, and for a qualified hand above what may be touched', () => {
    const aged = (text: string) => {
      const old = lot(text, { boughtOn: '2010-01-01' });
      return reasonsOf(rankLots(readSpec(text, LIBRARY), [old], UNKNOWN_PLACE, NOW)[0]!.remarks);
    };
    expect(aged('47u 25V electrolytic')).toMatch(/few milliampere/);
    expect(aged('47u 25V electrolytic')).not.toMatch(/qualified/);
    expect(aged('47u 400V electrolytic')).toMatch(/only if you are qualified/);
  });
  it('the demo’s lots are all understood', () => {
    for (const one of DEMO_STOCK)
      expect([one.text, readSpec(one.text, LIBRARY).kind]).not.toContain('unknown');
  });
});

describe('CSV', () => {
  it('comes back as it went, with hostile words', () => {
    const texts = fc
      .string({ minLength: 1, maxLength: 60 })
      .map((text) => text.trim())
      .filter((text) => text !== '' && !text.startsWith("'"));
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            text: texts,
            quantity: fc.nat(500),
            note: texts,
            price: fc.option(fc.integer({ min: 0, max: 900 }).map((cents) => cents / 100)),
          }),
          { maxLength: 8 },
        ),
        (some) => {
          const lots = some.map((one) => lot(one.text, one));
          const read = readStockCsv(stockCsv(lots));
          expect(read.wrong).toEqual([]);
          expect(
            read.lots.map(({ text, quantity, note, price }) => ({ text, quantity, note, price })),
          ).toEqual(some);
        },
      ),
    );
  });
  it('a cell is no formula; lines that are wrong are named, the others taken', () => {
    expect(stockCsv([lot('=cmd|x')])).not.toMatch(/(^|,)=cmd/m);
    const read = readStockCsv(
      'text,quantity,price,boughtOn\r\n10u 16V,3,,\r\n,4,,\r\n22u,many,,\r\n33u,2,-1,\r\n47u,1,0.5,last year\r\n100u,2,"0,45",2025-01-02\r\n',
    );
    expect(read.lots.map(({ text, price }) => [text, price])).toEqual([
      ['10u 16V', null],
      ['100u', 0.45],
    ]);
    expect(read.wrong.map(({ line }) => line)).toEqual([3, 4, 5, 6]);
    expect(readStockCsv('').lots).toEqual([]);
    expect(NewLot.safeParse({ ...lot('x'), quantity: -1 }).success).toBe(false);
  });
});

describe('the screen', () => {
  const move = vi.fn(() => Promise.resolve(undefined));
  const stock = (lots: readonly Lot[]): StockState => ({
    lots,
    refusal: undefined,
    wakes: [],
    move,
    add: () => Promise.resolve(undefined),
    setAside: () => Promise.resolve(),
  });
  afterEach(() => void move.mockClear());

  it('moves as many as were typed, and nothing for nonsense', async () => {
    const own = lot('10u 16V', { quantity: 5, minimum: 6 });
    render(
      <LotTable
        rows={[{ lot: own, verdict: undefined, remarks: [], years: undefined }]}
        stock={stock([own])}
      />,
    );
    expect(screen.getByRole('row', { name: /10u 16V/ }).textContent).toMatch(/5 of 6/);
    const count = screen.getByLabelText('How many of 10u 16V');
    await userEvent.clear(count);
    await userEvent.type(count, '-3');
    expect(
      (screen.getByRole('button', { name: 'Take: 10u 16V' }) as HTMLButtonElement).disabled,
    ).toBe(true);
    await userEvent.clear(count);
    await userEvent.type(count, '2');
    await userEvent.click(screen.getByRole('button', { name: 'Take: 10u 16V' }));
    expect(move).toHaveBeenCalledWith({
      lot: own.id,
      kind: 'take',
      count: 2,
      case: null,
      note: '',
    });
  });

  const need = (number: number, text: string, promisedOn: string | null = null): StockNeed => ({
    case: number,
    title: '',
    ref: 'C6',
    text,
    promisedOn,
  });
  it('says what comes from here, what to order and what nobody has, and keeps it by one press', async () => {
    const here = lot('100u 16V electrolytic', { supplier: 'Tarn & Fell' });
    const gone = lot('33R x4 isolated', { quantity: 0, supplier: 'Corrie Parts' });
    const needs = [
      need(102, '100u 16V electrolytic'),
      need(103, '33R x4 isolated'),
      need(104, '74LS86'),
    ];
    render(<Allocation needs={needs} stock={stock([here, gone])} />);
    const panel = screen.getByRole('region', { name: 'What open cases need' });
    expect(within(panel).getByText(/case 102/).textContent).toMatch(/from here/);
    expect(within(panel).getByText('Order at Corrie Parts:').parentElement!.textContent).toMatch(
      /case 103/,
    );
    expect(within(panel).getByText('Nobody has:').parentElement!.textContent).toMatch(/case 104/);
    await userEvent.click(screen.getByRole('button', { name: 'Keep all of these' }));
    expect(move).toHaveBeenCalledWith({
      lot: here.id,
      kind: 'reserve',
      count: 1,
      case: 102,
      note: 'C6',
    });
  });

  it('what is kept already is not asked for again; what does not fit is not offered', () => {
    const kept = lot('100u 16V', { quantity: 2, reserved: 1, keptFor: [{ case: 102, count: 1 }] });
    expect(
      openNeeds([need(102, '100u 16V'), need(102, '10u 16V'), need(103, '100u 16V')], [kept]).map(
        ({ case: number, text }) => [number, text],
      ),
    ).toEqual([
      [102, '10u 16V'],
      [103, '100u 16V'],
    ]);
    const [wanted] = wantedOf(
      [need(103, '100u 25V', '2026-12-01')],
      [lot('100u 16V'), lot('100u 35V', { id: v7(), supplier: 'S' })],
      NOW,
    );
    expect([wanted!.lots.length, wanted!.suppliers, Math.round(wanted!.days!)]).toEqual([
      1,
      ['S'],
      3,
    ]);
  });

  it('a label says what it is and leads back to its lot', () => {
    const own = lot('10u 16V', { bin: 'A1', boughtOn: '2025-01-02' });
    expect(labelOf(own, 'http://bench')).toEqual({
      title: '10u 16V',
      lines: ['bin A1', '2025-01-02'],
      code: `http://bench/stock?lot=${own.id}`,
    });
  });
});
