import { across } from './operating-point';
import type { BaseLinearisation } from './incremental/base-linearisation';

/**
 * Effects of changing one conductance of a circuit linearised about a point, from its responses to
 * unit currents: additions instead of a factorisation. The circuit must be symmetric there (no
 * transistor conducting), as it is with the board off.
 */
export class RankOne {
  constructor(private readonly base: BaseLinearisation) {}

  /**
   * Volts of every unknown for one ampere into a and out of b. Nodes: -1 is ground. Do not change
   * the result.
   */
  response(a: number, b: number): Float64Array {
    return this.base.column(a, b);
  }

  /** By what share the ohms between a and b change after `siemens` more between p and q. */
  shareMoved(a: number, b: number, p: number, q: number, siemens: number): number {
    const own = across(this.response(a, b), a, b);
    const change = this.response(p, q);
    const coupling = across(change, a, b);
    return (
      Math.abs((siemens * coupling * coupling) / (1 + siemens * across(change, p, q))) /
      Math.max(Math.abs(own), 1e-12)
    );
  }

  /**
   * `response(a, b)` after a conductance of `siemens` more (negative: less) between p and q.
   * Returns the unchanged response itself
   * where p and q are not coupled to a and b. Source: Sherman & Morrison, Ann. Math. Stat. 21,
   * 1950.
   */
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
