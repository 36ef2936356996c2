import { factorJacobian } from '../jacobian';
import { LowRankCorrection } from '../low-rank-correction';
import { looseDevices } from '../correction-devices';
import type { MixedSignalSolution } from '../mixed-signal-solution';
import type { ConductanceChange, Difference, NetlistChange } from './netlist-change';

/**
 * The one conductance by which two differences part, with what the second has more of it; undefined
 * where they part in other conductances, in branches or in nodes. Of the other elements that come
 * and go the caller has to know that they are the same.
 */
export function stepBetween(one: Difference, other: Difference): ConductanceChange | undefined {
  if (
    one.extra !== other.extra ||
    one.branches.length + other.branches.length > 0 ||
    one.conductances.length !== other.conductances.length
  )
    return undefined;
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

/**
 * What a node may move by for the circuit to count as linear on the way, volt: a junction leaves
 * its tangent by less than a tenth of a millivolt.
 */
const LINEAR_VOLT = 2e-3;
/**
 * Where nothing moves by more than this nothing has moved, volt or ampere: a tenth of what a
 * snapshot may be off by.
 */
const STILL = 1e-4;
/** As in `MixedSignalSolution.moved`, volt or ampere. */
const LEAST_MOVE = 1e-5;

/**
 * A settled board with so much more conductance in one place, where that moves so little that
 * everything is linear on the way and every chip sees what it saw: an open that leaks a hundredth
 * of a microampere, and one that does not. The board itself where next to nothing moves; undefined
 * where too much does. netlistChange: of which the board came.
 */
export function afterSmallStep(
  netlistChange: NetlistChange,
  settled: MixedSignalSolution,
  step: ConductanceChange,
): MixedSignalSolution | undefined {
  const { phases, moved } = settled;
  const shifts: Float64Array[] = [];
  let most = 0;
  for (const [phase, x] of phases.entries()) {
    const shift = responseIn(netlistChange, settled, phase, step);
    if (!shift) return undefined;
    toShift(shift, x, step);
    for (let unknown = 0; unknown < shift.length; unknown += 1)
      most = Math.max(most, Math.abs(shift[unknown]!));
    if (!(most <= LINEAR_VOLT)) return undefined;
    shifts.push(shift);
  }
  if (most <= STILL) return settled;
  return {
    ...settled,
    phases: phases.map((x, phase) => sum(x, shifts[phase]!)),
    moved: moved && withMoved(moved, shifts),
    near: undefined,
  };
}

/**
 * Makes of a response the shift of each unknown: rank-one update (Sherman & Morrison, Ann. Math.
 * Stat. 21, 1950).
 */
function toShift(
  response: Float64Array,
  x: Float64Array,
  { a, b, siemens }: ConductanceChange,
): void {
  const between = (vector: Float64Array): number =>
    (a < 0 ? 0 : vector[a]!) - (b < 0 ? 0 : vector[b]!);
  const ampere = (siemens * between(x)) / (1 + siemens * between(response));
  for (let unknown = 0; unknown < response.length; unknown += 1)
    response[unknown] = -ampere * response[unknown]!;
}

/** Unknowns for one ampere into a and out of b, in a phase; undefined where there is no answer. */
function responseIn(
  { inMatrix, correction }: NetlistChange,
  { near, phases, drives }: MixedSignalSolution,
  phase: number,
  { a, b }: ConductanceChange,
): Float64Array | undefined {
  const known = near?.[phase];
  if (known) return known.response(a, b);
  const [x, states] = [phases[phase]!, drives[phase]!];
  const { lu, size } = inMatrix;
  lu.owner = undefined;
  if (factorJacobian(inMatrix, x, states)) return undefined;
  const vector = new Float64Array(x.length);
  if (a >= 0) vector[a] = 1;
  if (b >= 0) vector[b] = -1;
  // Nodes that have no place in the matrix are at first tied to ground by one siemens: there an
  // ampere makes a volt.
  const placed = vector.subarray(0, size);
  lu.solve(placed, placed);
  const devices = new LowRankCorrection(size, (unknown) => x[unknown]!);
  for (const device of looseDevices(correction, states)) devices.add(device);
  if (devices.isEmpty) return vector;
  const column = (unknown: number): Float64Array => lu.column(unknown);
  if (devices.step(x, { values: x, column }, x) === undefined) return undefined;
  devices.correct(vector, false, column);
  return vector;
}

function sum(x: Float64Array, shift: Float64Array): Float64Array {
  const result = x.slice();
  for (let unknown = 0; unknown < x.length; unknown += 1)
    result[unknown] = x[unknown]! + shift[unknown]!;
  return result;
}

function withMoved(moved: Int32Array, shifts: readonly Float64Array[]): Int32Array {
  const is = new Uint8Array(shifts[0]!.length);
  for (const unknown of moved) is[unknown] = 1;
  for (const shift of shifts)
    for (let unknown = 0; unknown < is.length; unknown += 1)
      if (Math.abs(shift[unknown]!) > LEAST_MOVE) is[unknown] = 1;
  return Int32Array.from([...is.keys()].filter((unknown) => is[unknown] === 1));
}
