import { logMeanExpWithout } from './severity-grid';

/** Log-likelihoods of one hypothesis: every severity on the grid with every guess at the edges. */
export type LikelihoodRow = Float64Array;

/** The largest value of a row. */
export function best(row: LikelihoodRow): number {
  let top = -Infinity;
  for (let i = 0; i < row.length; i += 1) if (row[i]! > top) top = row[i]!;
  return top;
}

/** Where a row is largest. */
export function peak(row: LikelihoodRow): number {
  return row.reduce((at, value, i) => (value > row[at]! ? i : at), 0);
}

/** Adds to a sum, in place. */
export function addTo(total: LikelihoodRow, more: LikelihoodRow): void {
  for (let i = 0; i < total.length; i += 1) total[i]! += more[i]!;
}

/** The sum of rows of one length. */
export function addUp(rows: readonly LikelihoodRow[], length: number): LikelihoodRow {
  const total = new Float64Array(length);
  for (const row of rows) addTo(total, row);
  return total;
}

/** Log-likelihoods of one reading under every single fault, in their order. */
export class ReadingRows {
  readonly rows: LikelihoodRow[] = [];
  private tops: Float64Array | undefined;
  /** One row a length, shared by all faults that this reading does not see. */
  private readonly shared = new Map<number, LikelihoodRow>();

  /** healthy: the row of the sound board. */
  constructor(readonly healthy: LikelihoodRow) {}

  push(row: LikelihoodRow): void {
    this.rows.push(row);
  }

  /** Takes the row of a fault that stood as unseen until now. */
  put(h: number, row: LikelihoodRow): void {
    this.rows[h] = row;
    this.tops = undefined;
  }

  /** The best that each fault can make of the reading; ask when all rows are there. */
  get bests(): Float64Array {
    return (this.tops ??= Float64Array.from(this.rows, best));
  }

  /** The same with more rows behind. */
  with(more: readonly LikelihoodRow[]): ReadingRows {
    const all = new ReadingRows(this.healthy);
    for (const row of this.rows) all.push(row);
    for (const row of more) all.push(row);
    for (const [length, row] of this.shared) all.shared.set(length, row);
    return all;
  }

  /** The row of a fault that this reading does not see, on a board without guesses at its edges. */
  unmoved(length: number): LikelihoodRow {
    let row = this.shared.get(length);
    if (!row) this.shared.set(length, (row = new Float64Array(length).fill(this.healthy[0]!)));
    return row;
  }

  /**
   * ln of the mean of exp(total) without this reading. mean: the same with it; row: what this
   * reading has in it.
   */
  meanWithout(total: Float64Array, mean: number, row: LikelihoodRow): number {
    return row === this.shared.get(row.length) ? mean - row[0]! : logMeanExpWithout(total, row);
  }
}
