/**
 * The nonzero pattern of a square matrix by compressed columns. Row indices within a column are not
 * sorted.
 */
export interface Pattern {
  readonly size: number;
  /** Length size + 1: where each column begins in `row`. */
  readonly start: Int32Array;
  readonly row: Int32Array;
}

/** Collects matrix positions and gives each a fixed slot, so that values can be stamped by slot. */
export class PatternBuilder {
  private readonly slots = new Map<number, number>();
  private readonly rows: number[] = [];
  private readonly columns: number[] = [];

  constructor(private readonly size: number) {}

  /** The provisional slot of (row, column); -1 where either is ground (negative). */
  add(row: number, column: number): number {
    if (row < 0 || column < 0) return -1;
    const key = column * this.size + row;
    const known = this.slots.get(key);
    if (known !== undefined) return known;
    const slot = this.rows.length;
    this.slots.set(key, slot);
    this.rows.push(row);
    this.columns.push(column);
    return slot;
  }

  /** The pattern, and for each provisional slot its place in the column-wise order. */
  finish(): { pattern: Pattern; place: Int32Array } {
    const start = new Int32Array(this.size + 1);
    for (const column of this.columns) start[column + 1]! += 1;
    for (let c = 0; c < this.size; c += 1) start[c + 1]! += start[c]!;
    const next = start.slice();
    const row = new Int32Array(this.rows.length);
    const place = new Int32Array(this.rows.length);
    this.rows.forEach((r, slot) => {
      const at = next[this.columns[slot]!]!++;
      row[at] = r;
      place[slot] = at;
    });
    return { pattern: { size: this.size, start, row }, place };
  }
}

/**
 * True where both patterns hold the same positions in the same order, so that work on one serves
 * the other.
 */
export function samePattern(a: Pattern, b: Pattern): boolean {
  if (a.size !== b.size || a.row.length !== b.row.length) return false;
  for (let i = 0; i <= a.size; i += 1) if (a.start[i] !== b.start[i]) return false;
  for (let i = 0; i < a.row.length; i += 1) if (a.row[i] !== b.row[i]) return false;
  return true;
}

/**
 * Where in the pattern (row, column) stands; -1 where either is outside it or there is no such
 * place.
 */
export function slotOf({ size, start, row }: Pattern, r: number, c: number): number {
  if (r < 0 || c < 0 || c >= size) return -1;
  for (let p = start[c]!; p < start[c + 1]!; p += 1) if (row[p] === r) return p;
  return -1;
}
