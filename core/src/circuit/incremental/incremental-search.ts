import type { Difference } from './netlist-change';
import { conducts } from '../characteristic-stamp';
import { LowRankCorrection, MOST_OWN, type Tangent } from '../low-rank-correction';
import { looseNodeStart, looseDevices } from '../correction-devices';
import { across } from '../operating-point';
import { MOST_PORTS, DeviceAnswer, readPorts } from '../device';
import type { Known, BaseLinearisation } from './base-linearisation';

/**
 * A search settles when its last step moved no unknown of the base circuit by more than this: absolute
 * (volt or ampere) and as a share of itself. Newton converges quadratically: what is left is far
 * less.
 */
const SETTLED = { absolute: 1e-7, relative: 1e-6 } as const;
/**
 * While the base circuit grows so many times as much will do: a rough solution shows as well who else
 * takes part.
 */
const ROUGH = 1e3;
const MOST_STEPS = 40;
/** Steps after which every other one is only half taken. */
const UNDAMPED = 12;
/**
 * A device whose current leaves its tangent by so much that it moves a node further than this joins
 * the search, volt.
 */
const LEAVES_TANGENT_VOLT = 1e-4;
/**
 * What a node is at least taken to look into where the difference or a device of the base circuit may
 * have let go of it, ohm.
 */
const LEAST_SOURCE_OHM = 1e5;
/** The same for a node that is stiff by feedback. */
const LEAST_REGULATED_OHM = 100;

const answer = new DeviceAnswer();
const volts = new Float64Array(MOST_PORTS);

/**
 * The same where a meter drives a current through a board that is off and shows a fraction of a
 * volt.
 */
const LEAVES_TANGENT_DRIVEN = 1e-5;

/** An operating point found beside another, with the circuit linear about it. */
export interface NearPoint {
  /** Length size, then the nodes that only this circuit has. */
  readonly x: Float64Array;
  /**
   * The unknowns of the known circuit that are not where they were there, among others; undefined:
   * any may have moved.
   */
  readonly moved: Int32Array | undefined;
  /** Ohms between two nodes. */
  sourceOhm(a: number, b: number): number;
  /** Unknowns for one ampere into a and out of b. As long as x. */
  response(a: number, b: number): Float64Array;
  /** The adjoint of the output v(a) - v(b): the solution of the transposed system. As long as x. */
  adjoint(a: number, b: number): Float64Array;
}

const NOTHING = new Int32Array(0);
const NONE = { junctions: [], transistors: [], characteristics: [] } as const;
/** Nothing else. */
export const NO_DIFFERENCE: Difference = {
  conductances: [],
  gone: NONE,
  come: NONE,
  branches: [],
  extra: 0,
};

/**
 * The operating point of the circuit that differs so from the base's, with the chips' drivers
 * in these states. start: where to begin, default the base's point. Undefined where too much is
 * different for that.
 */
export function solveIncrementally(
  base: BaseLinearisation,
  difference: Difference,
  drives: Uint8Array,
  start?: Float64Array,
): NearPoint | undefined {
  const search = new IncrementalSearch(
    base,
    difference,
    drives,
    base.x,
    LEAVES_TANGENT_VOLT,
    start,
  );
  return search.run() ? search : undefined;
}

/**
 * The operating point with `siemens` more (negative: less) between p and q and nothing else;
 * undefined as for `solveIncrementally`.
 */
export function pointAfter(
  base: BaseLinearisation,
  p: number,
  q: number,
  siemens: number,
): NearPoint | undefined {
  return solveIncrementally(
    base,
    { ...NO_DIFFERENCE, conductances: [{ a: p, b: q, siemens }] },
    base.drives,
  );
}

/**
 * The operating point of the circuit that differs so from the base's, with a current driven
 * into p and out of q; undefined as for `solveIncrementally`.
 */
export function pointDriven(
  base: BaseLinearisation,
  difference: Difference,
  p: number,
  q: number,
  ampere: number,
): NearPoint | undefined {
  const values = base.x.slice();
  const driven = base.movement;
  driven.begin();
  if (p >= 0) driven.add(p, ampere, values);
  if (q >= 0) driven.add(q, -ampere, values);
  const search = new IncrementalSearch(
    base,
    difference,
    base.drives,
    values,
    LEAVES_TANGENT_DRIVEN,
    base.x,
    driven.moved.slice(0, driven.movedCount),
  );
  return search.run() ? search : undefined;
}

/**
 * The search for one operating point near a known one: Newton over the few unknowns on which active
 * devices hang, all else on its tangent. Lives as long as the search.
 */
class IncrementalSearch implements NearPoint {
  /** Where the search has come to; of all unknowns only after `widen`. */
  readonly x: Float64Array;
  moved: Int32Array | undefined;
  private readonly correction: LowRankCorrection;
  private readonly tangent: Tangent;
  /** Whether what is known of devices' ranges goes for this search. */
  private readonly asAlways: boolean;

  /**
   * values: the tangent's solution without any difference. driven: the unknowns that are not there
   * as at the base's point.
   * leavesVolt: a device that leaves its tangent by so much that it moves a node further joins the
   * search.
   */
  constructor(
    private readonly base: BaseLinearisation,
    private readonly difference: Difference,
    private readonly drives: Uint8Array,
    private readonly values: Float64Array,
    private readonly leavesVolt: number,
    start: Float64Array = base.x,
    private readonly driven: Int32Array = NOTHING,
  ) {
    const { size } = base.network;
    this.asAlways = leavesVolt === LEAVES_TANGENT_VOLT;
    this.tangent = { values, column: (unknown) => base.column(unknown) };
    this.x = difference.extra === 0 ? values.slice() : new Float64Array(size + difference.extra);
    if (difference.extra > 0) this.x.set(values);
    this.correction = new LowRankCorrection(size, looseNodeStart(start, size, difference));
    base.movement.begin();
  }

  /** Searches. False where too much takes part or the search does not settle. */
  run(): boolean {
    this.begin();
    const { correction, x, base } = this;
    let rough = true;
    for (let step = 1; step <= MOST_STEPS; step += 1) {
      if (correction.unknowns.length > MOST_OWN) return false;
      const heldBack = correction.step(x, this.tangent, base.x);
      if (heldBack === undefined) return false;
      if (!this.go(step, rough ? ROUGH : 1) || heldBack) continue;
      this.spread();
      const grew = this.widen();
      if (!grew && !rough) {
        const { moved, movedCount } = base.movement;
        this.moved = moved.slice(0, movedCount);
        return true;
      }
      rough = grew;
    }
    return false;
  }

  sourceOhm(a: number, b: number): number {
    return across(this.response(a, b), a, b);
  }

  response(a: number, b: number): Float64Array {
    return this.corrected(a, b, false);
  }

  adjoint(a: number, b: number): Float64Array {
    return this.corrected(a, b, true);
  }

  private corrected(a: number, b: number, transposed: boolean): Float64Array {
    const { base } = this;
    const { size } = base.network;
    const vector = new Float64Array(this.x.length);
    const known = (p: number, q: number): Float64Array =>
      transposed ? base.adjoint(p, q) : base.column(p, q);
    if (a < size && b < size) vector.set(known(a, b));
    else {
      // A node that only this circuit has is at first tied to ground by one siemens.
      const inside = (node: number): number => (node < size ? node : -1);
      vector.set(known(inside(a), inside(b)));
      if (a >= size) vector[a] = 1;
      if (b >= size) vector[b] = -1;
    }
    this.correction.correct(vector, transposed, (unknown) => known(unknown, -1));
    return vector;
  }

  /** Takes in what the difference and the drivers change. */
  private begin(): void {
    const { base, difference, drives, correction, x } = this;
    const { gone } = difference;
    base.marks.taken.begin();
    base.marks.loosened.begin();
    base.marks.unsure.begin();
    for (const device of looseDevices(difference, drives)) this.correction.add(device);
    for (const { a, b, siemens } of difference.conductances) if (siemens < 0) this.free([a, b]);
    for (const { row } of difference.branches) this.free([row]);
    for (const list of [gone.junctions, gone.transistors, gone.characteristics])
      for (const stamp of list) this.take(base.deviceOf(stamp), false);
    for (let driver = 0; drives !== base.drives && driver < drives.length; driver += 1) {
      if (drives[driver] === base.drives[driver]) continue;
      if (correction.unknowns.length > MOST_OWN) return;
      for (const i of base.switchedBy(driver)) {
        const { characteristic, open } = base.devices[i]!;
        if (conducts(characteristic!, drives) !== open) this.take(i, !open);
      }
    }
    for (const unknown of correction.unknowns) x[unknown] = correction.startOf(unknown);
  }

  private free(unknowns: Iterable<number>): void {
    const { network, marks, around } = this.base;
    for (const unknown of unknowns) {
      if (unknown < 0 || unknown >= network.size || !marks.loosened.add(unknown)) continue;
      for (const i of around[unknown]!) marks.unsure.add(i);
    }
  }

  private take(i: number, present: boolean): void {
    if (!this.base.marks.taken.add(i)) return;
    const known = this.base.devices[i]!;
    this.free(known.device.ports);
    if (known.open || present)
      this.correction.add(known.device, known.open ? known : undefined, present);
  }

  /** Goes to where the last step leads; returns whether that is where it was. */
  private go(step: number, rough: number): boolean {
    const { x, correction } = this;
    const share = step > UNDAMPED && step % 2 === 0 ? 0.5 : 1;
    let settled = share === 1;
    correction.unknowns.forEach((unknown, k) => {
      const to = correction.valueOf(k);
      const way = to - x[unknown]!;
      if (!(Math.abs(way) <= rough * (SETTLED.absolute + SETTLED.relative * Math.abs(to))))
        settled = false;
      x[unknown] = x[unknown]! + share * way;
    });
    return settled;
  }

  /** Works out where all unknowns are by what the devices draw now. */
  private spread(): void {
    const { correction, x, values, driven } = this;
    const { movement } = this.base;
    for (let k = 0; k < movement.touchedCount; k += 1)
      x[movement.touched[k]!] = values[movement.touched[k]!]!;
    movement.begin();
    for (const unknown of driven) movement.note(unknown);
    correction.unknowns.forEach((unknown, k) => {
      if (unknown >= values.length) return;
      movement.note(unknown);
      const ampere = correction.amperesAt(k);
      if (ampere !== 0) movement.add(unknown, -ampere, x);
    });
    correction.unknowns.forEach((unknown, k) => (x[unknown] = correction.valueOf(k)));
  }

  /** Takes in the devices that have left their tangent. Returns whether there were any. */
  private widen(): boolean {
    const { base, x } = this;
    const { moved, movedCount } = base.movement;
    const { slacks, around, x: before, marks } = base;
    const { nodeCount } = base.network;
    marks.asked.begin();
    let added = false;
    for (let m = 0; m < movedCount; m += 1) {
      const node = moved[m]!;
      if (node >= nodeCount) continue;
      const way = Math.abs(x[node]! - before[node]!);
      const places = around[node]!;
      for (let k = 0; k < places.length; k += 1) {
        const i = places[k]!;
        if (way <= slacks[i]!) break;
        if (marks.taken.has(i) || !marks.asked.add(i) || !this.leavesTangent(i, x)) continue;
        this.take(i, true);
        added = true;
        if (this.correction.unknowns.length > MOST_OWN) return true;
      }
    }
    return added;
  }

  private leavesTangent(i: number, x: Float64Array): boolean {
    const { devices, straight } = this.base;
    const known = devices[i]!;
    const { device } = known;
    const asAlways = this.asAlways && !this.base.marks.unsure.has(i);
    if (asAlways && straight.has(i, x)) return false;
    readPorts(device, x, volts);
    if (this.isOff(known, 1)) return true;
    if (asAlways) this.learn(i, x);
    return false;
  }

  /**
   * Notes that a device is on its tangent at x, where it surely is with each of its differences by
   * itself as well.
   */
  private learn(i: number, x: Float64Array): void {
    const { devices, straight, x: before } = this.base;
    const { device } = devices[i]!;
    const { ports, steady } = device;
    for (let k = 0; k < steady.length; k += 1) {
      const [plus, minus] = steady[k]!;
      readPorts(device, before, volts);
      volts[minus] = volts[plus]! - across(x, ports[plus]!, ports[minus]!);
      if (steady.length === 1 || !this.isOff(devices[i]!, 1 / steady.length))
        straight.widen(i, k, x);
    }
  }

  /**
   * Whether a device whose ports are at `volts` is off its tangent by more than such a share of what
   * it may be.
   */
  private isOff({ device, ampere, slope }: Known, share: number): boolean {
    const { ports } = device;
    const before = this.base.x;
    const width = ports.length;
    device.at(volts, answer);
    for (let r = 0; r < device.feeds; r += 1) {
      const row = ports[r]!;
      if (row < 0) continue;
      let off = answer.ampere[r]! - ampere[r]!;
      for (let c = 0; c < width; c += 1)
        off -= slope[r * width + c]! * (volts[c]! - (ports[c]! < 0 ? 0 : before[ports[c]!]!));
      if (off === 0) continue;
      const source = this.base.sourceOhm(row);
      const least = this.base.marks.loosened.has(row)
        ? LEAST_SOURCE_OHM
        : device.regulates
          ? LEAST_REGULATED_OHM
          : 0;
      if (Math.abs(off) * Math.max(source, least) > share * this.leavesVolt) return true;
    }
    return false;
  }
}
