import { solveDense } from './dense';
import { MOST_PORTS, DeviceAnswer, readPorts, type Device } from './device';

/** What of a device a tangent has already: its current and slopes at the tangent's point. */
export interface InTangent {
  readonly ampere: Float64Array;
  readonly slope: Float64Array;
}

/**
 * known: what of the device the tangent has. present: whether the circuit has it; else it only has
 * to be taken out of the tangent.
 */
interface Part {
  readonly device: Device;
  readonly known: InTangent | undefined;
  readonly present: boolean;
  readonly places: Int32Array;
  readonly memory: Float64Array;
}

/**
 * A circuit that is linear but for what hangs on it: the values of its unknowns without that, and
 * how all unknowns respond to one ampere out of each.
 */
export interface Tangent {
  /** Length size. */
  readonly values: Float64Array;
  column(unknown: number): Float64Array;
}

/** Most unknowns that the devices may hang on. */
export const MOST_OWN = 24;

const answer = new DeviceAnswer();
const volts = new Float64Array(MOST_PORTS);
const matrix = new Float64Array(MOST_OWN * MOST_OWN);

/**
 * Devices that are not in a circuit's matrix and are solved beside it: the few unknowns on which
 * they hang by themselves, the rest from how it responds to them.
 * Unknowns from `size` on are nodes that only the devices have. Source: Woodbury's identity (Hager,
 * SIAM Review 31(2), 1989).
 */
export class LowRankCorrection {
  private readonly parts: Part[] = [];
  readonly unknowns: number[] = [];
  /** Slopes, rests (after a step: currents) and responses by place; the values of the next step. */
  private slopes = new Float64Array(0);
  private flow = new Float64Array(0);
  private next = new Float64Array(0);
  private response = new Float64Array(0);
  private columns: readonly (Float64Array | undefined)[] = [];
  private tangent: Tangent | undefined;

  /** size: unknowns of the circuit. start: where the search begins at an unknown. */
  constructor(
    private readonly size: number,
    readonly startOf: (unknown: number) => number,
  ) {}

  get isEmpty(): boolean {
    return this.parts.length === 0;
  }

  add(device: Device, known?: InTangent, present = true): void {
    const memory = new Float64Array(2);
    const { ports } = device;
    const places = new Int32Array(ports.length);
    for (let i = 0; i < ports.length; i += 1) {
      volts[i] = ports[i]! < 0 ? 0 : this.startOf(ports[i]!);
      places[i] = this.placeOf(ports[i]!);
    }
    device.remember(volts, memory);
    this.parts.push({ device, known, present, places, memory });
  }

  private placeOf(unknown: number): number {
    if (unknown < 0) return -1;
    const place = this.unknowns.indexOf(unknown);
    return place < 0 ? this.unknowns.push(unknown) - 1 : place;
  }

  /**
   * One step of Newton: tangents of the devices at x (length size and more), solved beside the
   * circuit. origin: the point of the tangent, for devices that are in it
   * already. Then `valueOf` gives the unknowns and `spread` all others. Returns whether a device was
   * held back; undefined where there is no solution.
   */
  step(x: Float64Array, tangent: Tangent, origin: Float64Array): boolean | undefined {
    this.prepare(tangent);
    const heldBack = this.tangents(x, origin);
    const { response, slopes, flow, next, unknowns, size } = this;
    const n = unknowns.length;
    // (1 + R S) v = v0 - R c: R responses, S and c slopes and rests of the devices.
    matrix.fill(0, 0, n * n);
    for (let k = 0; k < n; k += 1) {
      matrix[k * n + k] = 1;
      next[k] = unknowns[k]! < size ? tangent.values[unknowns[k]!]! : 0;
    }
    for (let r = 0; r < n; r += 1) {
      const rest = flow[r]!;
      for (let k = 0; k < n; k += 1) next[k] = next[k]! - response[k * n + r]! * rest;
      for (let c = 0; c < n; c += 1) {
        const slope = slopes[r * n + c]!;
        if (slope !== 0)
          for (let k = 0; k < n; k += 1)
            matrix[k * n + c] = matrix[k * n + c]! + response[k * n + r]! * slope;
      }
    }
    if (!solveDense(matrix, next, n)) return undefined;
    for (let r = 0; r < n; r += 1) {
      if (!Number.isFinite(next[r]!)) return undefined;
      for (let c = 0; c < n; c += 1) flow[r] = flow[r]! + slopes[r * n + c]! * next[c]!;
    }
    return heldBack;
  }

  /** Value of the k-th unknown after a step. */
  valueOf(k: number): number {
    return this.next[k]!;
  }

  /** What the devices draw from the k-th unknown after a step, ampere. */
  amperesAt(k: number): number {
    return this.flow[k]!;
  }

  /**
   * Takes out of the tangent's values what the devices draw after a step. x: those values, length
   * size and more; changed.
   */
  spread(x: Float64Array): void {
    const { unknowns, flow, columns, size, next } = this;
    for (let r = 0; r < unknowns.length; r += 1) {
      const [current, column] = [flow[r]!, columns[r]];
      if (column && current !== 0)
        for (let i = 0; i < size; i += 1) x[i] = x[i]! - current * column[i]!;
    }
    for (let k = 0; k < unknowns.length; k += 1)
      if (unknowns[k]! < x.length) x[unknowns[k]!] = next[k]!;
  }

  /**
   * Takes a response of the tangent (or of its adjoint, `transposed`) to that of the circuit with
   * the devices, linear about the last step. vector: length size or more, changed: what lies beyond
   * `size` are nodes that only the devices have. column: the tangent's response (or its adjoint's)
   * to an unknown.
   */
  correct(
    vector: Float64Array,
    transposed: boolean,
    column: (unknown: number) => Float64Array,
  ): void {
    const { response, slopes, unknowns, size } = this;
    const n = unknowns.length;
    const own = Float64Array.from(unknowns, (unknown) => vector[unknown] ?? 0);
    // (1 + R S) y = v, then the devices draw S y; for the adjoint both matrices are transposed.
    const at = (matrix: Float64Array, r: number, c: number): number =>
      transposed ? matrix[c * n + r]! : matrix[r * n + c]!;
    matrix.fill(0, 0, n * n);
    for (let k = 0; k < n; k += 1) {
      matrix[k * n + k] = 1;
      for (let r = 0; r < n; r += 1)
        for (let c = 0; c < n; c += 1)
          matrix[k * n + c] = matrix[k * n + c]! + at(response, k, r) * at(slopes, r, c);
    }
    if (!solveDense(matrix, own, n)) return;
    for (let r = 0; r < n; r += 1) {
      let drawn = 0;
      for (let c = 0; c < n; c += 1) drawn += at(slopes, r, c) * own[c]!;
      if (unknowns[r]! >= size || drawn === 0) continue;
      const back = column(unknowns[r]!);
      for (let i = 0; i < size; i += 1) vector[i] = vector[i]! - drawn * back[i]!;
    }
    for (let k = 0; k < n; k += 1)
      if (unknowns[k]! >= size && unknowns[k]! < vector.length) vector[unknowns[k]!] = own[k]!;
  }

  /**
   * Gathers how the unknowns respond to one another, anew where the tangent or the unknowns have
   * changed. A node that only the devices have responds to itself alone.
   */
  private prepare(tangent: Tangent): void {
    const { unknowns, size } = this;
    const n = unknowns.length;
    if (this.tangent === tangent && this.next.length === n) return;
    this.tangent = tangent;
    if (this.next.length !== n) {
      [this.slopes, this.response] = [new Float64Array(n * n), new Float64Array(n * n)];
      [this.flow, this.next] = [new Float64Array(n), new Float64Array(n)];
    }
    const { response } = this;
    response.fill(0);
    this.columns = unknowns.map((unknown) =>
      unknown < size ? tangent.column(unknown) : undefined,
    );
    for (let r = 0; r < n; r += 1) {
      const column = this.columns[r];
      if (!column) response[r * n + r] = 1;
      else
        for (let k = 0; k < n; k += 1)
          if (unknowns[k]! < size) response[k * n + r] = column[unknowns[k]!]!;
    }
  }

  /** Adds up slopes and rests of the devices less what the tangent has of them. */
  private tangents(x: Float64Array, origin: Float64Array): boolean {
    const { flow, slopes } = this;
    const n = this.unknowns.length;
    slopes.fill(0);
    flow.fill(0);
    let heldBack = false;
    for (const { device, known, present, places, memory } of this.parts) {
      const { ports } = device;
      const width = ports.length;
      if (present) {
        readPorts(device, x, volts);
        device.at(volts, answer, memory);
        if (answer.heldBack) heldBack = true;
      }
      for (let r = 0; r < width; r += 1) {
        if (places[r]! < 0) continue;
        let rest = (present ? answer.ampere[r]! : 0) - (known ? known.ampere[r]! : 0);
        for (let c = 0; c < width; c += 1) {
          if (places[c]! < 0) continue;
          const slope = present ? answer.slope[r * width + c]! : 0;
          const before = known ? known.slope[r * width + c]! : 0;
          if (slope === 0 && before === 0) continue;
          const at = places[r]! * n + places[c]!;
          slopes[at] = slopes[at]! + slope - before;
          rest -= slope * x[ports[c]!]! - (known ? before * origin[ports[c]!]! : 0);
        }
        flow[places[r]!] = flow[places[r]!]! + rest;
      }
    }
    return heldBack;
  }
}
