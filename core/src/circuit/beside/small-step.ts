import type { Settled } from '../settled';
import type { ConductanceChange, Difference } from './exchange';
import type { NearPoint } from './vicinity-search';

/** The one conductance by which two differences part, with what the second has more of it; undefined where they part in anything else, or where what comes in place of
 *  other elements cannot be compared. */
export function stepBetween(one: Difference, other: Difference): ConductanceChange | undefined {
  if (one.extra !== other.extra || one.branches.length + other.branches.length > 0 || one.conductances.length !== other.conductances.length) return undefined;
  let step: ConductanceChange | undefined;
  for (const [i, { a, b, siemens }] of one.conductances.entries()) {
    const now = other.conductances[i]!;
    if (now.a !== a || now.b !== b) return undefined;
    if (now.siemens === siemens) continue;
    if (step) return undefined;
    step = { a, b, siemens: now.siemens - siemens };
  }
  return step;
}

/** What a node may move by for the circuit to count as linear on the way, volt: a junction leaves its tangent by less than a tenth of a millivolt. */
const LINEAR_VOLT = 2e-3;
/** Where nothing moves by more than this nothing has moved, volt or ampere: a tenth of what a snapshot may be off by. */
const STILL = 1e-4;
/** As in `Settled.moved`, volt or ampere. */
const LEAST_MOVE = 1e-5;

/** A settled board with so much more conductance in one place, where that moves so little that everything is linear on the way and every chip sees what it saw: an open
 *  that leaks a hundredth of a microampere, and one that does not. The board itself where next to nothing moves; undefined where too much does. */
export function afterSmallStep(settled: Settled, step: ConductanceChange): Settled | undefined {
  const { near, moved } = settled;
  if (!near || !moved) return undefined;
  const shifts: Float64Array[] = [];
  let most = 0;
  for (const point of near) {
    const shift = shiftBy(point, step);
    for (let unknown = 0; unknown < shift.length; unknown += 1) most = Math.max(most, Math.abs(shift[unknown]!));
    if (!(most <= LINEAR_VOLT)) return undefined;
    shifts.push(shift);
  }
  if (most <= STILL) return settled;
  return { ...settled, phases: near.map(({ x }, phase) => sum(x, shifts[phase]!)), moved: withMoved(moved, shifts), near: undefined };
}

/** By how much each unknown moves: rank-one update (Sherman & Morrison, Ann. Math. Stat. 21, 1950). */
function shiftBy(point: NearPoint, { a, b, siemens }: ConductanceChange): Float64Array {
  const shift = point.response(a, b);
  const between = (vector: Float64Array): number => (a < 0 ? 0 : vector[a]!) - (b < 0 ? 0 : vector[b]!);
  const ampere = (siemens * between(point.x)) / (1 + siemens * between(shift));
  for (let unknown = 0; unknown < shift.length; unknown += 1) shift[unknown] = -ampere * shift[unknown]!;
  return shift;
}

function sum(x: Float64Array, shift: Float64Array): Float64Array {
  const result = x.slice();
  for (let unknown = 0; unknown < x.length; unknown += 1) result[unknown] = x[unknown]! + shift[unknown]!;
  return result;
}

function withMoved(moved: Int32Array, shifts: readonly Float64Array[]): Int32Array {
  const is = new Uint8Array(shifts[0]!.length);
  for (const unknown of moved) is[unknown] = 1;
  for (const shift of shifts) for (let unknown = 0; unknown < is.length; unknown += 1) if (Math.abs(shift[unknown]!) > LEAST_MOVE) is[unknown] = 1;
  return Int32Array.from([...is.keys()].filter((unknown) => is[unknown] === 1));
}
