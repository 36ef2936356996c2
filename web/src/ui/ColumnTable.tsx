import type { ReactNode } from 'react';
import { Table } from './Table';

/**
 * One column: its name, which is also said before its cell on a telephone, and what stands in it.
 */
export interface ColumnOf<Row> {
  readonly name: string;
  readonly cell: (row: Row) => ReactNode;
  /** Figures, in the type that keeps them under each other. */
  readonly mono?: boolean;
}

/**
 * A table of rows under named columns, each a card on a telephone; the first cell heads its row.
 */
export function ColumnTable<Row>({
  rows,
  keyOf,
  columns: [first, ...others],
}: {
  rows: readonly Row[];
  keyOf: (row: Row) => string;
  columns: readonly [ColumnOf<Row>, ...ColumnOf<Row>[]];
}) {
  return (
    <Table asCards>
      <thead>
        <tr>
          {[first, ...others].map(({ name }) => (
            <th key={name} scope="col">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={keyOf(row)}>
            <th scope="row">{first.cell(row)}</th>
            {others.map(({ name, cell, mono = false }) => (
              <td key={name} data-label={name} className={mono ? 'mono' : undefined}>
                {cell(row)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
