import { LEAK_SIEMENS } from '../device';
import type { LawStamp, Network } from './network';

/** Most nodes that one law looks at. */
const MOST_CONTROLS = 6;
const volts = new Float64Array(MOST_CONTROLS);
const answer = new Float64Array(MOST_CONTROLS + 2);

/** Whether a law conducts while the drivers are in these states. */
export function isOpen(law: LawStamp, drives: Uint8Array): boolean {
  return law.driver < 0 || drives[law.driver] === law.when;
}

/** Works out a law at x. Returns [ampere, spread, slopes …], valid until the next call. */
export function lawAt({ controls, element }: LawStamp, x: Float64Array): Float64Array {
  for (let i = 0; i < controls.length; i += 1) volts[i] = controls[i]! < 0 ? 0 : x[controls[i]!]!;
  element.law(volts, answer);
  return answer;
}

/** Adds the laws' slopes at x to the matrix values and, where rhs is given, what remains of their currents to the right-hand side. */
export function stampLaws({ laws }: Network, drives: Uint8Array, x: Float64Array, values: Float64Array, rhs?: Float64Array): void {
  for (const stamp of laws) {
    if (!isOpen(stamp, drives)) {
      const { aa, bb, ab, ba } = stamp.leak;
      if (aa >= 0) values[aa]! += LEAK_SIEMENS;
      if (bb >= 0) values[bb]! += LEAK_SIEMENS;
      if (ab >= 0) {
        values[ab]! -= LEAK_SIEMENS;
        values[ba]! -= LEAK_SIEMENS;
      }
      continue;
    }
    const { a, b, controls, slots } = stamp;
    const out = lawAt(stamp, x);
    const count = controls.length;
    let rest = out[0]!;
    for (let i = 0; i < count; i += 1) {
      const slope = out[2 + i]!;
      if (slots[i]! >= 0) values[slots[i]!]! += slope;
      if (slots[count + i]! >= 0) values[slots[count + i]!]! -= slope;
      if (controls[i]! >= 0) rest -= slope * x[controls[i]!]!;
    }
    if (!rhs) continue;
    if (a >= 0) rhs[a]! -= rest;
    if (b >= 0) rhs[b]! += rest;
  }
}
