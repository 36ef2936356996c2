import { useState } from 'react';
import type { FitnessRemark, FitVerdict } from '@hanzai/core/part';
import { Button } from '../ui/Button';
import { Fold } from '../ui/Fold';
import { Table } from '../ui/Table';
import { Small } from '../ui/Words';
import { freeOf, type Lot } from './stock';
import style from './Stock.module.css';
import type { StockState } from './use-stock';

export interface LotRow {
  readonly lot: Lot;
  /** How it fits what is looked for; undefined where nothing is. */
  readonly verdict: FitVerdict | undefined;
  readonly remarks: readonly FitnessRemark[];
  readonly years: number | undefined;
}

const VERDICT_WORDS: Readonly<Record<FitVerdict, string>> = {
  fits: 'fits',
  conditions: 'think of',
  no: 'no',
};

/** Reasons in the order that matters: what stops, then what to think of. */
export function reasonsOf(remarks: readonly FitnessRemark[]): string {
  const of = (level: FitnessRemark['level']): string[] =>
    remarks.filter((one) => one.level === level).map(({ text }) => text);
  const stops = of('stop');
  return (stops.length > 0 ? stops : of('warn')).join('; ');
}

/** Lots with what is there, what is kept, and what can be done with each. */
export function LotTable({ rows, stock }: { rows: readonly LotRow[]; stock: StockState }) {
  if (rows.length === 0) return <p role="status">Nothing here would do for that.</p>;
  const fitted = rows.some(({ verdict }) => verdict !== undefined);
  const useful = rows.filter(({ verdict }) => verdict !== 'no');
  const refused = rows.filter(({ verdict }) => verdict === 'no');
  return (
    <>
      {useful.length === 0 && <p role="status">Nothing here would do for that.</p>}
      {useful.length > 0 && <Lots rows={useful} fitted={fitted} stock={stock} />}
      {refused.length > 0 && (
        <Fold>
          <summary>{refused.length} of its kind do not fit, and why</summary>
          <Lots rows={refused} fitted={fitted} stock={stock} />
        </Fold>
      )}
    </>
  );
}

function Lots({
  rows,
  fitted,
  stock,
}: {
  rows: readonly LotRow[];
  fitted: boolean;
  stock: StockState;
}) {
  return (
    <Table asCards aria-label="Lots">
      <thead>
        <tr>
          <th scope="col">what</th>
          {fitted && <th scope="col">fits</th>}
          <th scope="col">there</th>
          <th scope="col">kept for</th>
          <th scope="col">where</th>
          <th scope="col">price</th>
          <th scope="col">
            <span className="visually-hidden">move</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <Line key={row.lot.id} row={row} fitted={fitted} stock={stock} />
        ))}
      </tbody>
    </Table>
  );
}

function Line({ row, fitted, stock }: { row: LotRow; fitted: boolean; stock: StockState }) {
  const { lot, verdict, remarks } = row;
  const [typed, setTyped] = useState('1');
  const count = /^\d{1,6}$/.test(typed.trim()) ? Number(typed) : undefined;
  const move = (kind: 'take' | 'put' | 'count'): void => {
    if (count !== undefined) void stock.move({ lot: lot.id, kind, count, case: null, note: '' });
  };
  return (
    <tr>
      <th scope="row">
        <span className="mono">{lot.text}</span>
        {lot.donor !== '' && <Small as="span"> left in {lot.donor}</Small>}
        {lot.note !== '' && <Small>{lot.note}</Small>}
      </th>
      {fitted && (
        <td>
          {verdict && VERDICT_WORDS[verdict]}
          {reasonsOf(remarks) !== '' && <Small>{reasonsOf(remarks)}</Small>}
        </td>
      )}
      <td data-label="there" className={`mono ${lot.quantity < lot.minimum ? style.few : ''}`}>
        {lot.quantity}
        {lot.quantity < lot.minimum && <Small as="span"> of {lot.minimum}</Small>}
      </td>
      <td data-label="kept">
        {lot.keptFor.map(({ case: number, count: kept }) => (
          <a key={number} href={`/case/${number}/repair`}>
            {kept} for {number}{' '}
          </a>
        ))}
        {lot.keptFor.length > 0 && <Small as="span">{freeOf(lot)} free</Small>}
      </td>
      <td>{[lot.bin, lot.supplier].filter(Boolean).join(', ')}</td>
      <td data-label="price" className="mono">
        {lot.price?.toFixed(2) ?? ''}
      </td>
      <td>
        <span className={style.buttons}>
          <input
            className="mono"
            aria-label={`How many of ${lot.text}`}
            inputMode="numeric"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
          />
          {(
            [
              ['take', 'Take'],
              ['put', 'Put in'],
              ['count', 'Counted'],
            ] as const
          ).map(([kind, words]) => (
            <Button
              key={kind}
              look="quiet"
              disabled={count === undefined || (kind !== 'count' && count === 0)}
              aria-label={`${words}: ${lot.text}`}
              onClick={() => move(kind)}
            >
              {words}
            </Button>
          ))}
          <Button
            look="quiet"
            disabled={lot.reserved > 0}
            aria-label={`Set ${lot.text} aside`}
            onClick={() => void stock.setAside(lot)}
          >
            Set aside
          </Button>
        </span>
      </td>
    </tr>
  );
}
