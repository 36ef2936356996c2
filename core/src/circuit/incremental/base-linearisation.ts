import { jacobianValues } from '../jacobian';
import { conducts } from '../characteristic-stamp';
import { levelSlacks } from '../fan-out';
import type { InTangent } from '../low-rank-correction';
import type { CharacteristicStamp, Network } from '../network';
import {
  JunctionDevice,
  characteristicDevice,
  MOST_PORTS,
  DeviceAnswer,
  readPorts,
  TransistorDevice,
  type Device,
} from '../device';
import { Marks } from './marks';
import { FALL, Movement } from './movement';
import { StraightRanges } from './straight-ranges';
import { SparseLu } from '../sparse';

/**
 * A device of the unchanged circuit with its current and slopes at the operating point. characteristic: its
 * stamp, where a driver may switch it.
 */
export interface Known extends InTangent {
  readonly device: Device;
  readonly characteristic: CharacteristicStamp | undefined;
  /** How far its ports may move before it has to be asked, volt. */
  readonly slack: number;
  /** Whether it conducts at this point, as far as drivers have a say. */
  readonly open: boolean;
}

/**
 * One operating point of a circuit, from which the operating points of slightly different circuits
 * are found where they differ: what stays on its tangent is taken from one factorisation, and only
 * the few unknowns of the rest are worked out anew, whatever the size of the board. The answer is
 * that of the whole circuit within some tenths of a millivolt.
 * Sources: Woodbury's identity (Hager, SIAM Review 31(2), 1989) for what changes; that parts at
 * rest are not worked out again is common practice in circuit simulation.
 */
export class BaseLinearisation {
  /**
   * Devices of the circuit, and the positions of the open ones that look at each unknown, those with
   * the least slack first.
   */
  readonly devices: readonly Known[];
  readonly around: readonly Int32Array[];
  /** Ohms that each node looks into, worked out when first asked for; NaN till then. */
  private readonly sources: Float64Array;
  /** Slack of each device. */
  readonly slacks: Float64Array;
  private ownLevelSlacks: Float64Array | undefined;
  /**
   * Where each device is known to be on its tangent by `LEAVES_TANGENT_VOLT`, as long as nothing is
   * let go of.
   */
  readonly straight: StraightRanges;
  /**
   * Working memory of the search that is under way: devices taken and asked, unknowns let go of with
   * the devices on them, and what moved.
   */
  readonly marks: SearchMarks;
  readonly movement: Movement;
  private readonly lu: SparseLu;
  /** Responses by unknown, then by pairs of unknowns. */
  private readonly columns: (Float64Array | undefined)[] = [];
  private readonly adjoints: (Float64Array | undefined)[] = [];
  private readonly pairColumns = new Map<number, Float64Array>();
  private readonly pairAdjoints = new Map<number, Float64Array>();
  private readonly reaches: (Int32Array | undefined)[] = [];
  private readonly positions = new Map<object, number>();
  private readonly lawsOf = new Map<number, number[]>();

  /** drives, x: states of the chips' drivers and the operating point of the network with them. */
  constructor(
    readonly network: Network,
    readonly drives: Uint8Array,
    readonly x: Float64Array,
  ) {
    this.lu = new SparseLu(network.pattern, network.lu.order);
    this.lu.factor(jacobianValues(network, x, drives));
    const devices: Known[] = [];
    const learn = (stamp: object, device: Device, characteristic?: CharacteristicStamp): void => {
      this.positions.set(stamp, devices.length);
      devices.push({
        ...knownAt(device, x, characteristic?.element.linearVolt ?? MOVED_VOLT),
        characteristic,
        open: !characteristic || conducts(characteristic, drives),
      });
    };
    for (const stamp of network.junctions) learn(stamp, new JunctionDevice(stamp));
    for (const stamp of network.transistors) learn(stamp, new TransistorDevice(stamp));
    for (const stamp of network.characteristics) {
      if (stamp.driver >= 0)
        this.lawsOf.set(stamp.driver, [...(this.lawsOf.get(stamp.driver) ?? []), devices.length]);
      learn(stamp, characteristicDevice(stamp), stamp);
    }
    const around: number[][] = Array.from({ length: network.size }, () => []);
    devices.forEach(
      ({ device, open }, i) =>
        open && device.ports.forEach((node) => node >= 0 && around[node]!.push(i)),
    );
    this.devices = devices;
    this.slacks = Float64Array.from(devices, ({ slack }) => slack);
    this.around = around.map((places) =>
      Int32Array.from(places.sort((one, other) => this.slacks[one]! - this.slacks[other]!)),
    );
    this.straight = new StraightRanges(
      devices.map(({ device }) => device),
      (device) => readPorts(device, x, volts),
    );
    this.sources = new Float64Array(network.size).fill(NaN);
    this.marks = {
      taken: new Marks(devices.length),
      asked: new Marks(devices.length),
      loosened: new Marks(network.size),
      unsure: new Marks(devices.length),
    };
    this.movement = new Movement(this, network.size);
  }

  /** How far each node may move, all at once, before a chip may see anything else there, volt. */
  get levelSlacks(): Float64Array {
    return (this.ownLevelSlacks ??= levelSlacks(this.network, this.x));
  }

  /** The place among the devices of what a stamp of this network stands for. */
  deviceOf(stamp: object): number {
    return this.positions.get(stamp)!;
  }

  /** Places of the characteristics that a driver switches. */
  switchedBy(driver: number): readonly number[] {
    return this.lawsOf.get(driver) ?? [];
  }

  /**
   * Unknowns for one ampere into p and out of q, everything linear about this point. Do not change
   * the result.
   */
  column(p: number, q = -1): Float64Array {
    if (q < 0 && p >= 0) return (this.columns[p] ??= this.solved(p, q, false));
    return this.ofPair(this.pairColumns, p, q, false);
  }

  /**
   * The adjoint of the output v(a) - v(b): the solution of the transposed system about this point.
   * Do not change the result.
   */
  adjoint(a: number, b: number): Float64Array {
    if (b < 0 && a >= 0) return (this.adjoints[a] ??= this.solved(a, b, true));
    return this.ofPair(this.pairAdjoints, a, b, true);
  }

  /**
   * Which unknowns one ampere into an unknown moves: those it moves most first, none by more than
   * FALL times one before it; what it hardly moves is left out.
   */
  reach(unknown: number): Int32Array {
    return (this.reaches[unknown] ??= byMagnitude(this.column(unknown)));
  }

  /** Ohms that a node looks into on the tangent. */
  sourceOhm(node: number): number {
    const known = this.sources[node]!;
    return Number.isNaN(known) ? (this.sources[node] = Math.abs(this.column(node)[node]!)) : known;
  }

  private ofPair(
    known: Map<number, Float64Array>,
    p: number,
    q: number,
    transposed: boolean,
  ): Float64Array {
    const key = (p + 1) * (this.network.size + 1) + q + 1;
    let vector = known.get(key);
    if (!vector) known.set(key, (vector = this.solved(p, q, transposed)));
    return vector;
  }

  private solved(p: number, q: number, transposed: boolean): Float64Array {
    const vector = new Float64Array(this.network.size);
    if (p >= 0) vector[p]! += 1;
    if (q >= 0) vector[q]! -= 1;
    if (transposed) this.lu.solveTransposed(vector, vector);
    else this.lu.solve(vector, vector);
    return vector;
  }
}

interface SearchMarks {
  readonly taken: Marks;
  readonly asked: Marks;
  readonly loosened: Marks;
  readonly unsure: Marks;
}

/** What one ampere moves by less than this is left out of a reach, volt or ampere. */
const LEAST_RESPONSE = 1e-10;
const CLASSES = 48;
const LEAST_CLASS = Math.floor(Math.log2(LEAST_RESPONSE) / Math.log2(FALL));

const classes = { of: new Int8Array(0), ends: new Int32Array(CLASSES + 1) };

/** Positions of a vector's values by magnitude, the largest first, in steps of FALL. */
function byMagnitude(vector: Float64Array): Int32Array {
  if (classes.of.length < vector.length) classes.of = new Int8Array(vector.length);
  const { of, ends } = classes;
  ends.fill(0);
  let count = 0;
  for (let i = 0; i < vector.length; i += 1) {
    const size = Math.abs(vector[i]!);
    of[i] =
      size < LEAST_RESPONSE
        ? -1
        : Math.min(CLASSES - 1, Math.floor(Math.log2(size) / Math.log2(FALL)) - LEAST_CLASS);
    if (of[i]! < 0) continue;
    ends[of[i]!]! += 1;
    count += 1;
  }
  for (let k = CLASSES - 1; k >= 0; k -= 1) ends[k]! += ends[k + 1]!;
  const order = new Int32Array(count);
  for (let i = vector.length - 1; i >= 0; i -= 1) if (of[i]! >= 0) order[(ends[of[i]!]! -= 1)] = i;
  return order;
}

/**
 * A node that moved by less than this asks nothing of the devices on it, volt: what a junction then
 * leaves its tangent by is below a microvolt.
 */
export const MOVED_VOLT = 1e-4;

const answer = new DeviceAnswer();
const volts = new Float64Array(MOST_PORTS);

/**
 * leastSlack: a move that asks nothing of it. An amplifier multiplies what its inputs move by: for
 * it that is a share of its linear range.
 */
function knownAt(
  device: Device,
  x: Float64Array,
  leastSlack: number,
): Pick<Known, 'device' | 'ampere' | 'slope' | 'slack'> {
  const { ports } = device;
  readPorts(device, x, volts);
  device.at(volts, answer);
  const slack = Math.max(leastSlack, device.slack(volts));
  return {
    device,
    slack,
    ampere: answer.ampere.slice(0, ports.length),
    slope: answer.slope.slice(0, ports.length ** 2),
  };
}
