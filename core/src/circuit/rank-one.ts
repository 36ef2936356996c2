import { factorJacobian } from './jacobian';
import type { Network } from './network';
import { across } from './operating-point';

/** Responses of one linearised network to unit currents, each solved once, so that the effect of changing one conductance costs additions
 *  instead of a factorisation. The network is linearised at x and must be symmetric there (no transistor conducting), as it is with the board off. */
export class RankOne {
  private readonly columns = new Map<number, Float64Array>();

  constructor(
    private readonly network: Network,
    private readonly x: Float64Array,
  ) {}

  /** Volts of every unknown for one ampere driven out of b and into a. Nodes: -1 is ground. Do not change the result. */
  response(a: number, b: number): Float64Array {
    const key = (a + 1) * (this.network.nodeCount + 1) + b + 1;
    const known = this.columns.get(key);
    if (known) return known;
    if (this.network.lu.owner !== this) {
      factorJacobian(this.network, this.x);
      this.network.lu.owner = this;
    }
    const column = new Float64Array(this.network.size);
    if (a >= 0) column[a]! += 1;
    if (b >= 0) column[b]! -= 1;
    this.network.lu.solve(column, column);
    this.columns.set(key, column);
    return column;
  }

  /** By what share the ohms between a and b change after `siemens` more between p and q. */
  shareMoved(a: number, b: number, p: number, q: number, siemens: number): number {
    const own = across(this.response(a, b), a, b);
    const change = this.response(p, q);
    const coupling = across(change, a, b);
    return Math.abs((siemens * coupling * coupling) / (1 + siemens * across(change, p, q))) / Math.max(Math.abs(own), 1e-12);
  }

  /** `response(a, b)` after a conductance of `siemens` more (negative: less) between p and q. Returns the unchanged response itself
   *  where p and q are not coupled to a and b. Source: Sherman & Morrison, Ann. Math. Stat. 21, 1950. */
  responseAfter(a: number, b: number, p: number, q: number, siemens: number): Float64Array {
    const base = this.response(a, b);
    const coupling = across(base, p, q);
    if (Math.abs(coupling) <= 1e-12 * Math.abs(across(base, a, b))) return base;
    const change = this.response(p, q);
    const factor = (siemens * coupling) / (1 + siemens * across(change, p, q));
    const updated = new Float64Array(base.length);
    for (let i = 0; i < base.length; i += 1) updated[i] = base[i]! - factor * change[i]!;
    return updated;
  }
}
