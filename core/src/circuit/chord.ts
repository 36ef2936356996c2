import { jacobianValues } from './jacobian';
import type { Network } from './network';
import { nonlinearCurrent } from './nonlinear-current';
import { across } from './operating-point';
import { SparseLu } from './sparse';

/** A solution counts when the last step moved no node by more than this, volt, and when it came within so many steps. */
const SETTLED_VOLT = 2e-5;
const MOST_STEPS = 5;

/** One operating point with its Jacobian, from which the points of slightly different circuits are found by steps along the same Jacobian (chord Newton),
 *  the changed conductance taken in exactly. Cost of a change: a solve, and one more with an evaluation of the nonlinear elements for each step. */
export class Chord {
  private readonly lu: SparseLu;
  /** Jacobian of the nonlinear elements alone, in pattern order. */
  private readonly slopes: Float64Array;
  private readonly columns = new Map<number, Float64Array>();
  private readonly currentHere: Float64Array;
  private readonly current: Float64Array;
  private readonly residual: Float64Array;

  constructor(
    private readonly network: Network,
    private readonly drives: Uint8Array,
    readonly x: Float64Array,
  ) {
    const values = jacobianValues(network, x, drives);
    this.lu = new SparseLu(network.pattern, network.lu.order);
    this.lu.factor(values);
    this.slopes = values.map((value, i) => value - network.constant[i]!);
    this.currentHere = new Float64Array(network.size);
    this.current = new Float64Array(network.size);
    this.residual = new Float64Array(network.size);
    nonlinearCurrent(network, drives, x, this.currentHere);
  }

  /** Unknowns for one ampere into p and out of q, everything linear about this point. Do not change the result. */
  column(p: number, q: number): Float64Array {
    const key = (p + 1) * (this.network.nodeCount + 1) + q + 1;
    let known = this.columns.get(key);
    if (known) return known;
    known = new Float64Array(this.network.size);
    if (p >= 0) known[p]! += 1;
    if (q >= 0) known[q]! -= 1;
    this.lu.solve(known, known);
    this.columns.set(key, known);
    return known;
  }

  /** The adjoint of the output v(a) - v(b): the solution of the transposed system about this point. */
  adjoint(a: number, b: number): Float64Array {
    const output = new Float64Array(this.network.size);
    if (a >= 0) output[a]! += 1;
    if (b >= 0) output[b]! -= 1;
    this.lu.solveTransposed(output, output);
    return output;
  }

  /** The operating point with `siemens` more (negative: less) between p and q; undefined where the steps do not settle soon. */
  after(p: number, q: number, siemens: number): Float64Array | undefined {
    const { network, x, residual } = this;
    const column = this.column(p, q);
    const denominator = 1 + siemens * across(column, p, q);
    if (!(Math.abs(denominator) > 1e-9)) return undefined;
    const moved = new Float64Array(x.length);
    const share = (siemens * across(x, p, q)) / denominator;
    for (let i = 0; i < moved.length; i += 1) moved[i] = x[i]! - share * column[i]!;
    if (network.junctions.length + network.transistors.length + network.laws.length === 0) return moved;
    let before = x;
    let currentBefore = this.currentHere;
    for (let step = 0; step < MOST_STEPS; step += 1) {
      this.deviation(before, currentBefore, moved);
      this.lu.solve(residual, residual);
      const correction = (siemens * across(residual, p, q)) / denominator;
      let largest = 0;
      const from = Float64Array.from(moved);
      for (let i = 0; i < moved.length; i += 1) {
        const delta = residual[i]! - correction * column[i]!;
        moved[i]! -= delta;
        if (i < network.nodeCount) largest = Math.max(largest, Math.abs(delta));
      }
      if (!Number.isFinite(largest)) return undefined;
      if (largest < SETTLED_VOLT) return moved;
      before = from;
      currentBefore = Float64Array.from(this.current);
    }
    return undefined;
  }

  /** Into `residual`: by how much the nonlinear currents at `to` differ from what the slopes say of the way from `from`; into `current`: those currents. */
  private deviation(from: Float64Array, currentFrom: Float64Array, to: Float64Array): void {
    const { network: { pattern: { start, row } }, slopes, current, residual } = this; // prettier-ignore
    nonlinearCurrent(this.network, this.drives, to, current);
    for (let i = 0; i < residual.length; i += 1) residual[i] = current[i]! - currentFrom[i]!;
    for (let c = 0; c < to.length; c += 1) {
      const way = to[c]! - from[c]!;
      if (way === 0) continue;
      for (let k = start[c]!; k < start[c + 1]!; k += 1) residual[row[k]!]! -= slopes[k]! * way;
    }
  }
}
