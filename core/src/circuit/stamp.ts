import type { PairStamp } from './network';

/** Puts a conductance between the two nodes of a pair into the matrix's values, siemens. */
export function addSiemens(values: Float64Array, pair: PairStamp, siemens: number): void {
  const { aa, bb, ab, ba } = pair;
  if (aa >= 0) values[aa]! += siemens;
  if (bb >= 0) values[bb]! += siemens;
  if (ab < 0) return;
  values[ab]! -= siemens;
  values[ba]! -= siemens;
}

/** Puts the slopes of a device with several ports into the matrix's values, row by row. */
export function addSlopes(values: Float64Array, slots: Int32Array, slopes: Float64Array): void {
  for (let i = 0; i < slots.length; i += 1) {
    const slot = slots[i]!;
    if (slot >= 0) values[slot]! += slopes[i]!;
  }
}
