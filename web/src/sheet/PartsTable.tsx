import {
  createColumnHelper,
  createFilteredRowModel,
  createSortedRowModel,
  columnFilteringFeature,
  filterFn_includesString,
  globalFilteringFeature,
  rowSelectionFeature,
  rowSortingFeature,
  sortFn_alphanumeric,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { useMemo, useState } from 'react';
import { z } from 'zod';
import { changePartLines, partLines, type PartLine } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { EntryForm } from '../form/EntryForm';
import { useEntryForm } from '../form/use-entry-form';
import { Button } from '../ui/Button';
import { Field } from '../ui/Field';
import { FormRow } from '../ui/FormRow';
import { TextField } from '../ui/TextField';
import style from './PartsTable.module.css';

/** What may be changed of several parts at once. */
const CHANGES = {
  words: 'what it is and its value',
  tol: 'tolerance',
  esr: 'ESR, Ω',
  package: 'package',
  role: 'role',
  rating: 'rating',
  fit: 'year it was fitted',
} as const;
type Changed = keyof typeof CHANGES;

const ChangeTyped = z.object({
  of: z.enum(Object.keys(CHANGES) as [Changed, ...Changed[]]),
  to: z.string().max(200),
});

const features = tableFeatures({
  rowSortingFeature,
  rowSelectionFeature,
  columnFilteringFeature,
  globalFilteringFeature,
  sortedRowModel: createSortedRowModel(),
  filteredRowModel: createFilteredRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric },
  filterFns: { includesString: filterFn_includesString },
});
const helper = createColumnHelper<typeof features, PartLine>();
const columns = helper.columns([
  helper.accessor('ref', { header: 'Part', sortFn: 'alphanumeric' }),
  helper.accessor('words', { header: 'What it is', sortFn: 'alphanumeric' }),
  helper.accessor(({ pins }) => pins.join(' '), {
    id: 'pins',
    header: 'Nets',
    sortFn: 'alphanumeric',
  }),
  helper.accessor(({ section }) => section ?? '', {
    id: 'section',
    header: 'Section',
    sortFn: 'alphanumeric',
  }),
  helper.accessor(
    ({ attributes }) => [...attributes].map(([key, text]) => `${key}=${text}`).join(' '),
    { id: 'more', header: 'More', sortFn: 'alphanumeric' },
  ),
]);

/** More rows than this are found by their words and not by scrolling. */
const MOST_ROWS = 200;

/**
 * The parts of a sheet as a table: sorted by any column, found by any word, and several of them
 * changed at once. It is another view of the same lines.
 */
export function PartsTable({
  text,
  onChange,
  onGo,
}: {
  text: string;
  onChange: (text: string) => void;
  onGo: (line: number) => void;
}) {
  const data = useMemo(() => [...partLines(text)], [text]);
  const [found, setFound] = useState('');
  const [said, setSaid] = useState<string>();
  const table = useTable({
    features,
    columns,
    data,
    getRowId: ({ ref }) => ref,
    globalFilterFn: 'includesString',
    state: { globalFilter: found },
  });
  const rows = table.getRowModel().rows;
  const chosen = table.getSelectedRowModel().rows.map(({ original }) => original.ref);
  const entry = useEntryForm(
    ChangeTyped,
    { of: 'words' as Changed, to: '' },
    {
      enter: ({ of, to }) => {
        if (chosen.length === 0) return 'choose the parts first';
        if (of === 'words' && to.trim() === '')
          return 'say what they are: 100n 50V ceramic, or 74HCT14';
        const change = of === 'words' ? { words: to } : { attributes: { [of]: to } };
        const { text: next, refused } = changePartLines(text, chosen, change, LIBRARY);
        if (next !== text) onChange(next);
        const [first] = refused;
        const done = chosen.length - refused.length;
        setSaid(`${done} ${done === 1 ? 'line' : 'lines'} changed`);
        return first && `${first.ref} stays as it was: ${first.why}`;
      },
      clears: ['to'],
    },
  );
  return (
    <section aria-label="Table of parts" className={style.parts}>
      <EntryForm label="Change several parts" entry={entry}>
        <FormRow>
          <TextField
            id="parts-find"
            label="Find"
            placeholder="100n, P5, electrolytic"
            value={found}
            onChange={(event) => setFound(event.target.value)}
          />
          <Field id="parts-of" label={`Of ${chosen.length} chosen`}>
            <select id="parts-of" {...entry.form.register('of')}>
              {Object.entries(CHANGES).map(([key, words]) => (
                <option key={key} value={key}>
                  {words}
                </option>
              ))}
            </select>
          </Field>
          <TextField id="parts-to" label="Make it" className="mono" {...entry.field('to')} />
          <Button type="submit">Change {chosen.length}</Button>
        </FormRow>
        <p role="status">{said}</p>
      </EntryForm>
      <div className={style.scroll}>
        <table>
          <thead>
            {table.getHeaderGroups().map((group) => (
              <tr key={group.id}>
                <th scope="col">
                  <label>
                    <input
                      type="checkbox"
                      aria-label="All that are found"
                      checked={table.getIsAllRowsSelected()}
                      onChange={table.getToggleAllRowsSelectedHandler()}
                    />
                  </label>
                </th>
                {group.headers.map((header) => {
                  const order = header.column.getIsSorted();
                  return (
                    <th
                      key={header.id}
                      scope="col"
                      aria-sort={
                        order === 'asc' ? 'ascending' : order === 'desc' ? 'descending' : 'none'
                      }
                    >
                      <button type="button" onClick={header.column.getToggleSortingHandler()}>
                        <table.FlexRender header={header} />
                        {order === 'asc' ? ' ↑' : order === 'desc' ? ' ↓' : ''}
                      </button>
                    </th>
                  );
                })}
                <th scope="col">Line</th>
              </tr>
            ))}
          </thead>
          <tbody>
            {rows.slice(0, MOST_ROWS).map((row) => (
              <tr key={row.id} data-chosen={row.getIsSelected()}>
                <td>
                  <label>
                    <input
                      type="checkbox"
                      aria-label={row.original.ref}
                      checked={row.getIsSelected()}
                      onClick={row.getToggleSelectedHandler()}
                      readOnly
                    />
                  </label>
                </td>
                {row.getAllCells().map((cell) => (
                  <td key={cell.id} className="mono">
                    <table.FlexRender cell={cell} />
                  </td>
                ))}
                <td>
                  <Button look="quiet" onClick={() => onGo(row.original.line)}>
                    {row.original.line}
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {rows.length === 0 && (
          <p>{data.length === 0 ? 'No parts yet.' : `Nothing has “${found}”.`}</p>
        )}
        {rows.length > MOST_ROWS && <p>and {rows.length - MOST_ROWS} more: find them by a word</p>}
      </div>
    </section>
  );
}
