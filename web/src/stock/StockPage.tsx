import { useMemo, useState } from 'react';
import { readSpec, UNKNOWN_PLACE } from '@hanzai/core/part';
import { LIBRARY } from '@hanzai/data';
import { Band } from '../case/Band';
import { Button } from '../ui/Button';
import { Column, Columns } from '../ui/Columns';
import { Actions } from '../ui/FormRow';
import { Keys } from '../ui/Keys';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Place } from '../ui/Place';
import { saveFile } from '../ui/save-file';
import { TextField } from '../ui/TextField';
import { Small } from '../ui/Words';
import { Allocation } from './Allocation';
import { Labels } from './Labels';
import { LotForm } from './LotForm';
import { LotTable } from './LotTable';
import { rankLots } from './rank';
import type { Lot, StockNeed } from './stock';
import { readStockCsv, stockCsv } from './stock-file';
import style from './Stock.module.css';
import { useStock } from './use-stock';

/** The workshop's parts: bins and donors, what is kept for which case, what has to be ordered. */
export function StockPage({
  lots: sent,
  needs,
}: {
  readonly lots: readonly Lot[];
  readonly needs: readonly StockNeed[];
}) {
  const stock = useStock(sent);
  const [wanted, setWanted] = useState('');
  const [printing, setPrinting] = useState<readonly Lot[]>();
  const [wrong, setWrong] = useState<readonly string[]>([]);
  const ranked = useMemo(() => {
    const text = wanted.trim();
    if (text === '') return undefined;
    const was = readSpec(text, LIBRARY);
    if (was.kind !== 'unknown') return rankLots(was, stock.lots, UNKNOWN_PLACE, Date.now());
    const words = text.toLowerCase();
    return stock.lots
      .filter((lot) =>
        [lot.text, lot.bin, lot.supplier, lot.donor].join(' ').toLowerCase().includes(words),
      )
      .map((lot) => ({ lot, verdict: 'conditions' as const, remarks: [], years: undefined }));
  }, [wanted, stock.lots]);
  async function take(file: File): Promise<void> {
    const read = readStockCsv(await file.text());
    setWrong(read.wrong.map(({ line, why }) => `line ${line}: ${why}`));
    if (read.lots.length > 0) await stock.add(read.lots);
  }
  return (
    <>
      <Band here="stock" />
      <Place>
        <h1>Stock</h1>
        {stock.refusal !== undefined && (
          <Notice look="attention" title="Not done:" live>
            {stock.refusal}.
          </Notice>
        )}
        {stock.wakes.length > 0 && (
          <Notice look="good" title="Waited for:" live>
            {stock.wakes.map((number) => (
              <a key={number} href={`/case/${number}/repair`}>
                case {number}{' '}
              </a>
            ))}
            waited for something that this may do for. One is kept for each; look there whether it
            fits.
          </Notice>
        )}
        {wrong.length > 0 && (
          <Notice look="attention" title={`${wrong.length} lines of the file were left out:`} live>
            {wrong.slice(0, 5).join('; ')}
          </Notice>
        )}
        <TextField
          id="stock-find"
          label="What do I have for"
          hint="as it is written: 10u 16V electrolytic 105C, 74LS86, T1A 250V; or a bin, a supplier"
          className="mono"
          type="search"
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
        {stock.lots.length === 0 ? (
          <Notice title="Nothing is written down yet.">
            Begin with the bag on the bench, or take a CSV file with the columns text and quantity.
          </Notice>
        ) : (
          <LotTable
            rows={
              ranked ??
              stock.lots.map((lot) => ({ lot, verdict: undefined, remarks: [], years: undefined }))
            }
            stock={stock}
          />
        )}
        <Actions>
          <Button onClick={() => saveFile('stock.csv', 'text/csv', stockCsv(stock.lots))}>
            Save as CSV
          </Button>
          <label className={style.file}>
            Take a CSV file in{' '}
            <input
              type="file"
              accept=".csv,text/csv"
              onChange={(event) => {
                const [file] = event.target.files ?? [];
                if (file) void take(file);
                event.target.value = '';
              }}
            />
          </label>
          <Button
            disabled={stock.lots.length === 0}
            onClick={() =>
              setPrinting((ranked ?? []).length > 0 ? ranked!.map(({ lot }) => lot) : stock.lots)
            }
          >
            Print labels
          </Button>
        </Actions>
        <Columns>
          <Column>
            <LotForm stock={stock} />
          </Column>
          <Column>
            <Allocation needs={needs} stock={stock} />
          </Column>
        </Columns>
        <Panel title="How it is counted">
          <Small>
            Nothing is ever taken that is not there: two people who take the last one at the same
            time are told, and one of them gets it. What is kept for a case is taken by that case
            alone. A correction is a count.
          </Small>
        </Panel>
      </Place>
      {printing && <Labels lots={printing} onDone={() => setPrinting(undefined)} />}
      <Keys keys={[['?', 'these keys']]} />
    </>
  );
}
