import Papa from 'papaparse';
import { v7 } from 'uuid';
import { FORMULA, plainCell } from '@hanzai/core/board';
import { NewLot, type Lot } from './stock';

const COLUMNS = [
  'text',
  'quantity',
  'bin',
  'supplier',
  'price',
  'boughtOn',
  'minimum',
  'donor',
  'note',
] as const;

/** The stock as CSV (RFC 4180). A cell that a table calculator would run as a formula gets an apostrophe, which is taken off again when it is read. */
export function stockCsv(lots: readonly Lot[]): string {
  return Papa.unparse(
    lots.map((lot) => Object.fromEntries(COLUMNS.map((name) => [name, String(lot[name] ?? '')]))),
    { columns: [...COLUMNS], newline: '\r\n', escapeFormulae: FORMULA },
  );
}

export interface StockRead {
  readonly lots: readonly NewLot[];
  /** Lines that could not be read: number of the line in the file, and why. */
  readonly wrong: readonly { readonly line: number; readonly why: string }[];
}

/** Reads lots from CSV with a header line; `text` and `quantity` are needed, the rest may be missing. */
export function readStockCsv(file: string): StockRead {
  const { data } = Papa.parse<Record<string, string>>(file.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (name) => name.trim(),
  });
  const lots: NewLot[] = [];
  const wrong: { line: number; why: string }[] = [];
  data.forEach((row, i) => {
    const cell = (name: (typeof COLUMNS)[number]): string => plainCell(row[name] ?? '').trim();
    const number = (name: (typeof COLUMNS)[number], otherwise: number | null): number | null =>
      cell(name) === '' ? otherwise : Number(cell(name).replace(',', '.'));
    const read = NewLot.safeParse({
      id: v7(),
      text: cell('text'),
      bin: cell('bin'),
      supplier: cell('supplier'),
      price: number('price', null),
      boughtOn: cell('boughtOn') === '' ? null : cell('boughtOn'),
      quantity: cell('quantity') === '' ? Number.NaN : number('quantity', 0),
      minimum: number('minimum', 0),
      donor: cell('donor'),
      note: cell('note'),
    });
    if (read.success) lots.push(read.data);
    else {
      const [issue] = read.error.issues;
      wrong.push({ line: i + 2, why: `${issue!.path.join('.')}: ${issue!.message}` });
    }
  });
  return { lots, wrong };
}
