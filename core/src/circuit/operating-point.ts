import { criticalVolt, diodeCurrent, limitDiode, limitJunction, startOfJunction } from './junction';
import type { LowRankDifference } from './incremental/netlist-change';
import {
  enabledCharacteristics,
  rememberCharacteristics,
  stampCharacteristics,
  type OpenCharacteristics,
} from './characteristic-table';
import { LowRankCorrection, MOST_OWN } from './low-rank-correction';
import { looseNodeStart, looseDevices } from './correction-devices';
import type { JunctionStamp, Network, TransistorStamp } from './network';
import { addSiemens, addSlopes } from './stamp';
import { transistorAt } from './transistor';
import { oncePer } from '../once-per';

/**
 * Where the Newton iteration may stop: change of every unknown below absolute + relative * size.
 */
const TOLERANCE = { volt: 1e-9, ampere: 1e-10, relative: 1e-7 } as const;
/**
 * The same beside a known board. Newton's error is about the square of its last step over twice the
 * thermal voltage: a microvolt.
 */
const NEAR_TOLERANCE = { volt: 2e-4, ampere: 1e-4, relative: 2e-5 } as const;
type Tolerance = Readonly<Record<'volt' | 'ampere' | 'relative', number>>;
const MAX_ITERATIONS = 120;
/**
 * After this many iterations a thousand times the tolerance will do: a node held by picosiemens
 * alone jitters with the rounding of its neighbours.
 */
const PATIENCE = 60;
const SLACK = 1e3;
/**
 * After this many a node may jitter by this much, volt: one that only picosiemens hold beside a
 * fuse of twenty siemens cannot be known better in double precision.
 */
const LAST_PATIENCE = 90;
const JITTER_VOLT = 2e-4;
/** Iterations after which steps are damped. */
const UNDAMPED = 14;
const SHUNT_START_SIEMENS = 1e-2;

/**
 * A solved circuit. `x`: node volts then branch amperes; the network's LU holds the Jacobian at
 * this point.
 */
export interface OperatingPoint {
  readonly ok: true;
  readonly x: Float64Array;
  readonly iterations: number;
}

/** Why a circuit has no solution to show, named by the node or branch where it went wrong. */
export type NoOperatingPoint =
  | {
      readonly ok: false;
      readonly why: 'loop of ideal sources or an unconnected circuit';
      readonly at: string;
    }
  | { readonly ok: false; readonly why: 'not converged'; readonly at: string };

export interface SolveOptions {
  /** Where to start, length size. Default: all zero. */
  readonly start?: Float64Array;
  /** Currents injected beside the sources, length size. Default: none. */
  readonly injection?: Float64Array;
  /** States of the chips' drivers, length network.drivers. Default: all off. */
  readonly drives?: Uint8Array;
  /**
   * Whether this is a search beside a known board: the answer need only be known to some
   * microvolts, and where it is not found directly it is not searched for patiently. Default false.
   */
  readonly near?: boolean;
  /**
   * What hangs on the circuit without a place in its matrix, with its drivers in the same states.
   * Then unknowns beyond the circuit's follow in start and answer.
   */
  readonly correction?: LowRankDifference | undefined;
  /** Factor on all sources, 0 to 1. Default 1. */
  readonly sourceScale?: number;
}

/**
 * Finds the DC operating point: Newton with junction limiting, then shunt (gmin) stepping, then
 * source stepping.
 * A linear network takes one solve. Source: Ho, Ruehli & Brennan, IEEE Trans. CAS 22, 1975; Nagel,
 * SPICE2, 1975.
 */
export function operatingPoint(
  network: Network,
  options: SolveOptions = {},
): OperatingPoint | NoOperatingPoint {
  const solver = new Newton(
    network,
    options.drives ?? new Uint8Array(network.drivers.length),
    options.injection,
    options.correction,
    options.near ? NEAR_TOLERANCE : TOLERANCE,
  );
  const scale = options.sourceScale ?? 1;
  const start = options.start ?? new Float64Array(network.size);
  const direct = solver.run(start, scale, 0);
  if (direct.ok || options.near || direct.why !== 'not converged') return direct;
  const shunted = solver.step(start, (share) => [
    scale,
    SHUNT_START_SIEMENS * (share === 1 ? 0 : 1e-12 ** share),
  ]);
  if (shunted.ok) return shunted;
  return solver.step(new Float64Array(network.size), (share) => [scale * share, 0]);
}

/**
 * The critical voltage of every junction, or of the two of every transistor, kept with the list.
 */
const criticalOf = oncePer((stamps: readonly (JunctionStamp | TransistorStamp)[]) =>
  Float64Array.from(
    stamps.flatMap(({ element }) => {
      const { saturationCurrentAmpere: saturation } = element.model;
      if (element.type === 'junction')
        return [criticalVolt(saturation, element.model.emissionCoefficient)];
      return [
        criticalVolt(saturation, element.model.forwardEmission),
        criticalVolt(saturation, element.model.reverseEmission),
      ];
    }),
  ),
);

/** The iteration's working memory: lives as long as one search for an operating point. */
class Newton {
  private readonly values: Float64Array;
  private readonly rhs: Float64Array;
  private readonly next: Float64Array;
  private readonly junctionVolt: Float64Array;
  private readonly critical: Float64Array;
  private readonly transistorVolt: Float64Array;
  private readonly transistorCritical: Float64Array;
  private readonly out = new Float64Array(2);
  private readonly jacobian = new Float64Array(9);
  private readonly characteristics: OpenCharacteristics;
  // An exchanged network makes its lists when asked: once a search is enough.
  private readonly constant: Float64Array;
  private readonly drive: Float64Array;
  private readonly junctions: readonly JunctionStamp[];
  private readonly transistors: readonly TransistorStamp[];
  private limited = false;

  constructor(
    private readonly network: Network,
    private readonly drives: Uint8Array,
    private readonly injection?: Float64Array,
    private readonly difference?: LowRankDifference,
    private readonly tolerance: Tolerance = TOLERANCE,
  ) {
    ({
      constant: this.constant,
      drive: this.drive,
      junctions: this.junctions,
      transistors: this.transistors,
    } = network);
    this.values = new Float64Array(this.constant.length);
    this.rhs = new Float64Array(network.size);
    this.next = new Float64Array(network.size + (difference?.extra ?? 0));
    this.junctionVolt = new Float64Array(this.junctions.length);
    this.critical = criticalOf(this.junctions);
    this.transistorVolt = new Float64Array(this.transistors.length * 2);
    this.transistorCritical = criticalOf(this.transistors);
    this.characteristics = enabledCharacteristics(network, drives);
  }

  /**
   * One Newton search from `start` with the sources scaled and `shunt` siemens added across every
   * junction.
   */
  run(start: Float64Array, scale: number, shunt: number): OperatingPoint | NoOperatingPoint {
    const { network, next } = this;
    const correction = this.hangOn(start);
    let x = new Float64Array(next.length);
    x.set(start);
    for (const unknown of correction?.unknowns ?? [])
      if (unknown >= start.length) x[unknown] = correction!.startOf(unknown);
    const first = Float64Array.from(x);
    const linear =
      this.junctions.length === 0 &&
      this.transistors.length === 0 &&
      network.characteristics.length === 0;
    this.rememberVolts(x);
    rememberCharacteristics(this.characteristics, x);
    let worst = 0;
    for (let iteration = 1; iteration <= MAX_ITERATIONS; iteration += 1) {
      this.assemble(x, scale, shunt);
      const singular = network.lu.factor(this.values);
      if (singular)
        return {
          ok: false,
          why: 'loop of ideal sources or an unconnected circuit',
          at: unknownName(network, singular.column),
        };
      network.lu.solve(this.rhs, next);
      if (correction && !this.solveLoose(correction, x))
        return { ok: false, why: 'not converged', at: network.nodeNames[0] ?? '' };
      worst = this.worstChange(
        x,
        next,
        iteration > PATIENCE && this.tolerance === TOLERANCE ? SLACK : 1,
        iteration > LAST_PATIENCE ? JITTER_VOLT : 0,
      );
      // Characteristics with corners can send the search to and fro between two of them: from here on every
      // other step is only half taken.
      if (
        iteration > UNDAMPED &&
        iteration % 2 === 0 &&
        network.characteristics.length > 0 &&
        worst >= 0
      )
        for (let i = 0; i < x.length; i += 1) x[i] = (x[i]! + next[i]!) / 2;
      else x.set(next);
      if (linear || (worst < 0 && !this.limited)) return { ok: true, x, iterations: iteration };
      if (!Number.isFinite(next[0] ?? 0)) x = Float64Array.from(first);
    }
    return { ok: false, why: 'not converged', at: unknownName(network, Math.max(0, worst)) };
  }

  /**
   * Walks from an easy circuit to the real one; `at(share)` gives source scale and shunt for share
   * 0 to 1. Halves the step where a search fails.
   */
  step(
    start: Float64Array,
    at: (share: number) => readonly [number, number],
  ): OperatingPoint | NoOperatingPoint {
    let x = start;
    let share = 0;
    let step = 0.1;
    let last: OperatingPoint | NoOperatingPoint = this.run(x, ...at(0));
    if (!last.ok) return last;
    x = last.x;
    while (share < 1) {
      const wanted = Math.min(1, share + step);
      last = this.run(x, ...at(wanted));
      if (last.ok) {
        x = last.x;
        share = wanted;
        step *= 1.7;
      } else if ((step /= 3) < 1e-4) return last;
    }
    return last;
  }

  /** What has no place in the matrix, ready to be solved beside it. */
  private hangOn(start: Float64Array): LowRankCorrection | undefined {
    if (!this.difference) return undefined;
    const correction = new LowRankCorrection(
      this.network.size,
      looseNodeStart(start, this.network.size, this.difference),
    );
    for (const device of looseDevices(this.difference, this.drives)) correction.add(device);
    return correction.isEmpty ? undefined : correction;
  }

  /**
   * Corrects `next`, the step of the circuit in the matrix, by what hangs on it. False where that
   * leads nowhere.
   */
  private solveLoose(correction: LowRankCorrection, x: Float64Array): boolean {
    const { network, next } = this;
    const column = (unknown: number): Float64Array => network.lu.column(unknown);
    if (correction.unknowns.length > MOST_OWN) return false;
    const heldBack = correction.step(x, { values: next, column }, x);
    if (heldBack === undefined) return false;
    if (heldBack) this.limited = true;
    correction.spread(next);
    return true;
  }

  private rememberVolts(x: Float64Array): void {
    this.junctions.forEach(
      (j, i) => (this.junctionVolt[i] = startOfJunction(across(x, j.a, j.b), this.critical[i]!)),
    );
    this.transistors.forEach(({ nodes: [c, b, e], element: { model } }, i) => {
      const sign = model.polarity === 'npn' ? 1 : -1;
      this.transistorVolt[2 * i] = startOfJunction(
        sign * across(x, b, e),
        this.transistorCritical[2 * i]!,
      );
      this.transistorVolt[2 * i + 1] = startOfJunction(
        sign * across(x, b, c),
        this.transistorCritical[2 * i + 1]!,
      );
    });
  }

  private assemble(x: Float64Array, scale: number, shunt: number): void {
    const { values, rhs, drive, injection, junctions, transistors } = this;
    values.set(this.constant);
    for (let i = 0; i < rhs.length; i += 1) rhs[i] = drive[i]! * scale;
    if (injection) for (let i = 0; i < rhs.length; i += 1) rhs[i] = rhs[i]! + injection[i]!;
    this.limited = false;
    for (let i = 0; i < junctions.length; i += 1) this.stampJunction(junctions[i]!, i, x, shunt);
    for (let i = 0; i < transistors.length; i += 1)
      this.stampTransistor(transistors[i]!, i, x, shunt);
    if (stampCharacteristics(this.characteristics, x, values, rhs)) this.limited = true;
  }

  private stampJunction(junction: JunctionStamp, i: number, x: Float64Array, shunt: number): void {
    const { values, rhs, out } = this;
    const proposed = across(x, junction.a, junction.b);
    const volt = limitDiode(
      proposed,
      this.junctionVolt[i]!,
      junction.element.model,
      this.critical[i]!,
    );
    this.noteLimit(proposed, volt);
    this.junctionVolt[i] = volt;
    diodeCurrent(volt, junction.element.model, out);
    const siemens = out[1]! + shunt;
    const rest = out[0]! + shunt * volt - siemens * volt;
    addSiemens(values, junction, siemens);
    if (junction.a >= 0) rhs[junction.a]! -= rest;
    if (junction.b >= 0) rhs[junction.b]! += rest;
  }

  private stampTransistor(stamp: TransistorStamp, i: number, x: Float64Array, shunt: number): void {
    const { values, rhs, out, jacobian } = this;
    const { model } = stamp.element;
    const sign = model.polarity === 'npn' ? 1 : -1;
    const [c, b, e] = stamp.nodes;
    const forward = this.limitedVolt(2 * i, sign * across(x, b, e), model.forwardEmission);
    const reverse = this.limitedVolt(2 * i + 1, sign * across(x, b, c), model.reverseEmission);
    transistorAt(model, forward, reverse, shunt, out, jacobian);
    const [collector, base] = [out[0]!, out[1]!];
    addSlopes(values, stamp.slots, jacobian);
    // Linear part at the (limited) point: with vC = 0 as reference, vB = reverse, vE = reverse -
    // forward.
    const vB = sign * reverse;
    const vE = sign * (reverse - forward);
    const restC = sign * collector - (jacobian[1]! * vB + jacobian[2]! * vE);
    const restB = sign * base - (jacobian[4]! * vB + jacobian[5]! * vE);
    if (c >= 0) rhs[c]! -= restC;
    if (b >= 0) rhs[b]! -= restB;
    if (e >= 0) rhs[e]! += restC + restB;
  }

  private limitedVolt(slot: number, proposed: number, emission: number): number {
    const volt = limitJunction(
      proposed,
      this.transistorVolt[slot]!,
      emission,
      this.transistorCritical[slot]!,
    );
    this.noteLimit(proposed, volt);
    this.transistorVolt[slot] = volt;
    return volt;
  }

  private noteLimit(proposed: number, used: number): void {
    if (Math.abs(proposed - used) > TOLERANCE.volt + TOLERANCE.relative * Math.abs(proposed))
      this.limited = true;
  }

  /** Index of the unknown that still moves too much, or -1 when all have settled. */
  private worstChange(x: Float64Array, next: Float64Array, slack: number, jitter: number): number {
    const { nodeCount, size } = this.network;
    const { tolerance } = this;
    const volt = Math.max(tolerance.volt, jitter / slack);
    let worst = -1;
    let excess = slack;
    for (let i = 0; i < next.length; i += 1) {
      const floor = i < nodeCount || i >= size ? volt : tolerance.ampere;
      const room = floor + tolerance.relative * Math.abs(next[i]!);
      const way = Math.abs(next[i]! - x[i]!);
      if (way <= excess * room) continue;
      excess = way / room;
      worst = i;
    }
    return worst;
  }
}

/** Voltage from node a to node b; -1 is ground. */
export function across(x: Float64Array, a: number, b: number): number {
  return (a < 0 ? 0 : x[a]!) - (b < 0 ? 0 : x[b]!);
}

function unknownName(network: Network, unknown: number): string {
  if (unknown >= network.size) return 'a pin';
  if (unknown < network.nodeCount) return network.nodeNames[unknown]!;
  const element = network.branches[unknown - network.nodeCount]!.element;
  return element.type === 'branch' || element.type === 'coil'
    ? `${element.a} to ${element.b}`
    : 'a branch';
}
