import { minimumDegreeOrder } from './order';
import type { Pattern } from './pattern';

/**
 * Keep the diagonal as pivot while it is at least this share of the column's largest entry: it
 * keeps the fill low.
 */
const DIAGONAL_PREFERENCE = 1e-3;
/** A refactored pivot below this share of its column's largest entry asks for fresh pivoting. */
const STALE_PIVOT = 1e-8;

/** A column for which no pivot is left: the matrix is singular there. */
export interface Singular {
  readonly column: number;
}

/** Growable storage for one triangular factor, by columns. */
class Triangle {
  start: Int32Array;
  index: Int32Array;
  value: Float64Array;
  count = 0;

  constructor(size: number, room: number) {
    this.start = new Int32Array(size + 1);
    this.index = new Int32Array(room);
    this.value = new Float64Array(room);
  }

  push(index: number, value: number): void {
    if (this.count === this.index.length) this.grow();
    this.index[this.count] = index;
    this.value[this.count++] = value;
  }

  private grow(): void {
    const index = new Int32Array(this.index.length * 2);
    const value = new Float64Array(this.value.length * 2);
    index.set(this.index);
    value.set(this.value);
    this.index = index;
    this.value = value;
  }
}

/**
 * Sparse LU of one pattern: analysed once, factored for many values, solved for many right-hand
 * sides. P A Q = L U with Q from minimum degree and P from threshold partial pivoting.
 * Source: Gilbert & Peierls, SIAM J. Sci. Stat. Comput. 9(5), 1988; Davis, Direct Methods for
 * Sparse Linear Systems, SIAM 2006, ch. 6.
 */
export class SparseLu {
  /** Columns in elimination order. */
  readonly order: Int32Array;
  private readonly lower: Triangle;
  private readonly upper: Triangle;
  private readonly diagonal: Float64Array;
  /**
   * pivotRow[k] is the row of A chosen as k-th pivot; pivotOf[row] its inverse, -1 while not
   * chosen.
   */
  private readonly pivotRow: Int32Array;
  private readonly pivotOf: Int32Array;
  private readonly work: Float64Array;
  private readonly half: Float64Array;
  private factored = false;
  /**
   * Values factored last, and which columns of L they changed: what depends on none of those is as
   * it was.
   */
  private readonly last: Float64Array;
  private readonly changed: Uint8Array;
  /**
   * Who factored last: set it after factoring where several networks share one analysis, so that
   * nobody solves with another's factor.
   */
  owner: object | undefined = undefined;

  constructor(
    private readonly pattern: Pattern,
    order?: Int32Array,
  ) {
    const n = pattern.size;
    this.order = order ?? minimumDegreeOrder(pattern);
    this.lower = new Triangle(n, pattern.row.length * 2 + 16);
    this.upper = new Triangle(n, pattern.row.length * 2 + 16);
    this.diagonal = new Float64Array(n);
    this.pivotRow = new Int32Array(n);
    this.pivotOf = new Int32Array(n);
    this.work = new Float64Array(n);
    this.half = new Float64Array(n);
    this.last = new Float64Array(pattern.row.length);
    this.changed = new Uint8Array(n);
  }

  /** Entries of L and U together, diagonal included: what a solve costs. */
  get fill(): number {
    return this.lower.count + this.upper.count + this.pattern.size;
  }

  /**
   * Factors new values, reusing pivots and fill of the last time where they still serve. values:
   * length of pattern.row. Returns undefined when done, or the column at which the matrix is
   * singular.
   */
  factor(values: Float64Array): Singular | undefined {
    if (this.factored && this.refactor(values)) return undefined;
    const singular = this.pivot(values);
    if (!singular) this.last.set(values);
    return singular;
  }

  private pivot(values: Float64Array): Singular | undefined {
    const { size, start, row } = this.pattern;
    const { order, lower, upper, pivotRow, pivotOf, work } = this;
    lower.count = upper.count = 0;
    pivotOf.fill(-1);
    work.fill(0);
    this.factored = false;
    const mark = new Int32Array(size).fill(-1);
    const reach = new Int32Array(size);
    const stack = new Int32Array(size);
    const next = new Int32Array(size);
    for (let k = 0; k < size; k += 1) {
      const column = order[k]!;
      lower.start[k] = lower.count;
      upper.start[k] = upper.count;
      // Rows that become nonzero, in topological order from `top` on (depth-first search in the
      // graph of L).
      let top = size;
      for (let p = start[column]!; p < start[column + 1]!; p += 1) {
        if (mark[row[p]!] === k) continue;
        let depth = 0;
        stack[0] = row[p]!;
        while (depth >= 0) {
          const r = stack[depth]!;
          const j = pivotOf[r]!;
          if (mark[r] !== k) {
            mark[r] = k;
            next[depth] = j < 0 ? 0 : lower.start[j]!;
          }
          const end = j < 0 ? 0 : lower.start[j + 1]!;
          let deeper = false;
          for (let q = next[depth]!; q < end; q += 1) {
            const child = lower.index[q]!;
            if (mark[child] === k) continue;
            next[depth] = q + 1;
            stack[++depth] = child;
            deeper = true;
            break;
          }
          if (deeper) continue;
          depth -= 1;
          reach[--top] = r;
        }
      }
      // Numeric solve with the part of L that is known.
      for (let p = start[column]!; p < start[column + 1]!; p += 1) work[row[p]!]! += values[p]!;
      for (let t = top; t < size; t += 1) {
        const r = reach[t]!;
        const j = pivotOf[r]!;
        if (j < 0) continue;
        const x = work[r]!;
        const end = lower.start[j + 1]!;
        for (let q = lower.start[j]!; q < end; q += 1)
          work[lower.index[q]!]! -= lower.value[q]! * x;
        upper.push(j, x);
      }
      // Choose the pivot.
      let best = -1;
      let largest = 0;
      for (let t = top; t < size; t += 1) {
        const r = reach[t]!;
        if (pivotOf[r]! >= 0) continue;
        const magnitude = Math.abs(work[r]!);
        if (magnitude > largest) {
          largest = magnitude;
          best = r;
        }
      }
      if (best < 0 || !(largest > 1e-300)) return { column };
      if (
        mark[column] === k &&
        pivotOf[column]! < 0 &&
        Math.abs(work[column]!) >= largest * DIAGONAL_PREFERENCE
      )
        best = column;
      const pivot = work[best]!;
      this.diagonal[k] = pivot;
      pivotRow[k] = best;
      pivotOf[best] = k;
      for (let t = top; t < size; t += 1) {
        const r = reach[t]!;
        if (pivotOf[r]! < 0) lower.push(r, work[r]! / pivot);
        work[r] = 0;
      }
    }
    lower.start[size] = lower.count;
    upper.start[size] = upper.count;
    this.factored = true;
    return undefined;
  }

  /** Only columns with other values than last time, and those that build on them. */
  private refactor(values: Float64Array): boolean {
    const { size, start, row } = this.pattern;
    const { order, pivotRow, work, diagonal, last: known, changed } = this;
    // The arrays by themselves: this loop is where most of a diagnosis goes.
    const { start: lowerStart, index: lowerIndex, value: lowerValue } = this.lower;
    const { start: upperStart, index: upperIndex, value: upperValue } = this.upper;
    for (let k = 0; k < size; k += 1) {
      const column = order[k]!;
      const from = start[column]!;
      const to = start[column + 1]!;
      let same = true;
      for (let p = from; p < to; p += 1) {
        if (values[p] === known[p]) continue;
        known[p] = values[p]!;
        same = false;
      }
      for (let u = upperStart[k]!, end = upperStart[k + 1]!; same && u < end; u += 1)
        same = changed[upperIndex[u]!] === 0;
      changed[k] = 0;
      if (same) continue;
      for (let p = from; p < to; p += 1) {
        const r = row[p]!;
        work[r] = work[r]! + values[p]!;
      }
      for (let u = upperStart[k]!, end = upperStart[k + 1]!; u < end; u += 1) {
        const j = upperIndex[u]!;
        const r = pivotRow[j]!;
        const x = work[r]!;
        work[r] = 0;
        upperValue[u] = x;
        if (x === 0) continue;
        for (let q = lowerStart[j]!, last = lowerStart[j + 1]!; q < last; q += 1) {
          const below = lowerIndex[q]!;
          work[below] = work[below]! - lowerValue[q]! * x;
        }
      }
      const pivot = work[pivotRow[k]!]!;
      work[pivotRow[k]!] = 0;
      let largest = Math.abs(pivot);
      for (let q = lowerStart[k]!, end = lowerStart[k + 1]!; q < end; q += 1) {
        const r = lowerIndex[q]!;
        const value = work[r]!;
        work[r] = 0;
        const entry = value / pivot;
        if (entry !== lowerValue[q]) changed[k] = 1;
        lowerValue[q] = entry;
        if (Math.abs(value) > largest) largest = Math.abs(value);
      }
      if (!(Math.abs(pivot) > STALE_PIVOT * largest) || !(largest > 1e-300)) {
        work.fill(0);
        this.factored = false;
        return false;
      }
      diagonal[k] = pivot;
    }
    return true;
  }

  /** Solves A x = b. b, x: length size; x may be b. */
  solve(b: Float64Array, x: Float64Array): void {
    const { order, pivotRow, diagonal, work, half } = this;
    const { start: lowerStart, index: lowerIndex, value: lowerValue } = this.lower;
    const { start: upperStart, index: upperIndex, value: upperValue } = this.upper;
    const size = this.pattern.size;
    work.set(b);
    for (let k = 0; k < size; k += 1) {
      const y = work[pivotRow[k]!]!;
      half[k] = y;
      if (y === 0) continue;
      for (let q = lowerStart[k]!, end = lowerStart[k + 1]!; q < end; q += 1) {
        const r = lowerIndex[q]!;
        work[r] = work[r]! - lowerValue[q]! * y;
      }
    }
    for (let k = size - 1; k >= 0; k -= 1) {
      const z = half[k]! / diagonal[k]!;
      x[order[k]!] = z;
      if (z === 0) continue;
      for (let u = upperStart[k]!, end = upperStart[k + 1]!; u < end; u += 1) {
        const j = upperIndex[u]!;
        half[j] = half[j]! - upperValue[u]! * z;
      }
    }
    work.fill(0);
  }

  /** The solution for one at a place and nothing elsewhere: a column of the inverse. */
  column(place: number): Float64Array {
    const x = new Float64Array(this.pattern.size);
    x[place] = 1;
    this.solve(x, x);
    return x;
  }

  /**
   * Solves Aᵀ x = c: the adjoint system, which gives the sensitivity of one output to everything. x
   * may be c.
   */
  solveTransposed(c: Float64Array, x: Float64Array): void {
    const { order, lower, upper, pivotRow, diagonal, half } = this;
    const size = this.pattern.size;
    for (let k = 0; k < size; k += 1) {
      let sum = c[order[k]!]!;
      for (let u = upper.start[k]!; u < upper.start[k + 1]!; u += 1)
        sum -= upper.value[u]! * half[upper.index[u]!]!;
      half[k] = sum / diagonal[k]!;
    }
    for (let k = size - 1; k >= 0; k -= 1) {
      let sum = half[k]!;
      for (let q = lower.start[k]!; q < lower.start[k + 1]!; q += 1)
        sum -= lower.value[q]! * x[lower.index[q]!]!;
      x[pivotRow[k]!] = sum;
    }
  }
}
