import { useMemo } from 'react';
import { readSpec, UNKNOWN_PLACE } from '@hanzai/core/part';
import { LIBRARY } from '@hanzai/data';
import { Button } from '../ui/Button';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Rows } from '../ui/Rows';
import { Small } from '../ui/Words';
import { allocate, ORDER_DAYS, type Wanted } from './allocate';
import { rankLots } from './rank';
import { freeOf, type Lot, type StockNeed } from './stock';
import type { StockState } from './use-stock';

const DAY = 86_400_000;
const keyOf = (need: StockNeed): string => `${need.case} ${need.ref}`;

/** What each need could be met by. What does not fit is not offered; what is kept for it is taken. */
export function wantedOf(
  needs: readonly StockNeed[],
  lots: readonly Lot[],
  now: number,
): readonly Wanted[] {
  return needs.map((need) => {
    const ranked = rankLots(readSpec(need.text, LIBRARY), lots, UNKNOWN_PLACE, now).filter(
      ({ verdict }) => verdict !== 'no',
    );
    return {
      key: keyOf(need),
      days: need.promisedOn === null ? undefined : (Date.parse(need.promisedOn) - now) / DAY,
      lots: ranked.map(({ lot }) => lot.id),
      suppliers: [...new Set(ranked.map(({ lot }) => lot.supplier).filter(Boolean))],
    };
  });
}

/** Needs that nothing is kept for yet. */
export function openNeeds(needs: readonly StockNeed[], lots: readonly Lot[]): readonly StockNeed[] {
  const kept = new Map<number, number>();
  for (const { keptFor } of lots)
    for (const { case: number, count } of keptFor)
      kept.set(number, (kept.get(number) ?? 0) + count);
  return needs.filter((need) => {
    const left = kept.get(need.case) ?? 0;
    if (left > 0) kept.set(need.case, left - 1);
    return left === 0;
  });
}

/** What comes from where over all open cases, and what to order. */
export function Allocation({
  needs,
  stock,
}: {
  readonly needs: readonly StockNeed[];
  readonly stock: StockState;
}) {
  const { lots } = stock;
  const open = useMemo(() => openNeeds(needs, lots), [needs, lots]);
  const plan = useMemo(
    () =>
      allocate(
        wantedOf(open, lots, Date.now()),
        lots.map((lot) => ({ lot: lot.id, free: freeOf(lot) })),
      ),
    [open, lots],
  );
  const few = lots.filter(({ quantity, minimum }) => quantity < minimum);
  const words = (key: string): string => {
    const need = needs.find((one) => keyOf(one) === key)!;
    return `case ${need.case}, ${need.ref}: ${need.text}`;
  };
  const lotText = (id: string): string => lots.find((lot) => lot.id === id)?.text ?? '';
  async function keepAll(): Promise<void> {
    for (const [key, lot] of plan.fromStock)
      await stock.move({
        lot,
        kind: 'reserve',
        count: 1,
        case: Number(key.split(' ')[0]),
        note: key.split(' ').slice(1).join(' '),
      });
  }
  return (
    <Panel title="What open cases need" aside="fewest orders, promises kept">
      {needs.length === 0 && <Small>No open case needs a part.</Small>}
      {open.length < needs.length && (
        <Small>For {needs.length - open.length} of them something is kept already.</Small>
      )}
      {plan.fromStock.size > 0 && (
        <>
          <Rows>
            {[...plan.fromStock].map(([key, lot]) => (
              <li key={key}>
                <span>
                  {words(key)} <b>from here:</b> <span className="mono">{lotText(lot)}</span>
                </span>
              </li>
            ))}
          </Rows>
          <Button onClick={() => void keepAll()}>Keep all of these</Button>
        </>
      )}
      {[...plan.orders].map(([supplier, keys]) => (
        <Notice key={supplier} title={`Order at ${supplier}:`}>
          {keys.map(words).join('; ')}
        </Notice>
      ))}
      {plan.late.length > 0 && (
        <Notice look="attention" title="Too late for the promise:">
          {plan.late.map(words).join('; ')} (an order is taken as {ORDER_DAYS} days)
        </Notice>
      )}
      {plan.unmet.length > 0 && (
        <Notice look="attention" title="Nobody has:">
          {plan.unmet.map(words).join('; ')}
        </Notice>
      )}
      {few.length > 0 && (
        <Notice title="Below the least:">
          {few
            .map(
              (lot) =>
                `${lot.text}: ${lot.quantity} of ${lot.minimum}${lot.supplier ? `, ${lot.supplier}` : ''}`,
            )
            .join('; ')}
        </Notice>
      )}
    </Panel>
  );
}
