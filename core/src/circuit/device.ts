import {
  evaluateCharacteristic,
  characteristicSlack,
  characteristicStraight,
  type DropCharacteristic,
  type Straight,
} from '../device';
import { criticalVolt, diodeCurrent, limitDiode, limitJunction, startOfJunction } from './junction';
import { evaluateStep, characteristicMemory } from './characteristic-stamp';
import type { JunctionStamp, CharacteristicStamp, TransistorStamp } from './network';
import { transistorAt } from './transistor';

/** Most unknowns that one device looks at. */
export const MOST_PORTS = 8;
/** A step held back by less than this does not count, volt. */
const HELD_BACK_VOLT = 1e-9;

/**
 * What a device answers, overwritten by the next: the current out of each of its ports, the slopes
 * row by row, and whether a step was held back.
 */
export class DeviceAnswer {
  readonly ampere = new Float64Array(MOST_PORTS);
  readonly slope = new Float64Array(MOST_PORTS * MOST_PORTS);
  heldBack = false;
}

/**
 * A device of the circuit as its neighbours see it: currents out of a few unknowns that depend on
 * those alone.
 */
export interface Device {
  /** The unknowns; -1 is ground. Rows and columns of its slopes and its volts follow this order. */
  readonly ports: Int32Array;
  /** Of its ports the first so many carry current. */
  readonly feeds: number;
  /**
   * Whether it may regulate a node by feedback, which makes the node look stiff only as long as it
   * does.
   */
  readonly regulates: boolean;
  /**
   * Works out currents and slopes at these port volts. memory (length 2): where the last step of a
   * search stood; with it a step that would be thrown too far is
   * held back, and the answer is the tangent there, taken on to `volts`. Without it the answer is
   * exact.
   */
  at(volts: Float64Array, answer: DeviceAnswer, memory?: Float64Array): void;
  /** Sets `memory` to where a search begins. */
  remember(volts: Float64Array, memory: Float64Array): void;
  /**
   * How far every port may move from these volts with the device surely on its tangent; 0 where that
   * cannot be told. Unit: volt.
   */
  slack(volts: Float64Array): number;
  /**
   * Ranges of the differences of two ports with which the device stays on its tangent at these volts
   * while all of them are kept; none where that cannot be told.
   */
  straight(volts: Float64Array): readonly Straight[];
  /**
   * The differences of two ports (plus, minus) that act each by itself, and the more the further
   * they go, on what the device is off its tangent by: how far they may go can be found out by
   * trying. None where nothing of the kind is known.
   */
  readonly steady: readonly (readonly [plus: number, minus: number])[];
}

/** Reads a device's ports at x into `volts` and returns them; ground is at zero. */
export function readPorts({ ports }: Device, x: Float64Array, volts: Float64Array): Float64Array {
  for (let i = 0; i < ports.length; i += 1) volts[i] = ports[i]! < 0 ? 0 : x[ports[i]!]!;
  return volts;
}

/** Writes a current from the first port to the second with its slope. */
function between(answer: DeviceAnswer, ampere: number, siemens: number): void {
  answer.ampere[0] = ampere;
  answer.ampere[1] = -ampere;
  answer.slope[0] = answer.slope[3] = siemens;
  answer.slope[1] = answer.slope[2] = -siemens;
}

/** A device that is its own tangent. */
abstract class LinearDevice implements Device {
  abstract readonly ports: Int32Array;
  abstract readonly feeds: number;
  readonly regulates = false;
  readonly steady = [];

  abstract at(volts: Float64Array, answer: DeviceAnswer): void;

  remember(): void {
    // There is nothing to remember.
  }

  slack(): number {
    return Infinity;
  }

  straight(): readonly Straight[] {
    return [];
  }
}

/** A conductance. Unit: siemens. */
export class ConductanceDevice extends LinearDevice {
  readonly ports: Int32Array;
  readonly feeds = 2;

  constructor(
    a: number,
    b: number,
    private readonly siemens: number,
  ) {
    super();
    this.ports = Int32Array.of(a, b);
  }

  at(volts: Float64Array, answer: DeviceAnswer): void {
    answer.heldBack = false;
    between(answer, this.siemens * (volts[0]! - volts[1]!), this.siemens);
  }
}

/** More ohms and volts in the equation of a branch, whose current is the unknown `row`. */
export class BranchDevice extends LinearDevice {
  readonly ports: Int32Array;
  readonly feeds = 1;

  constructor(
    row: number,
    private readonly ohm: number,
    private readonly volt: number,
  ) {
    super();
    this.ports = Int32Array.of(row);
  }

  at(values: Float64Array, answer: DeviceAnswer): void {
    answer.heldBack = false;
    answer.ampere[0] = -this.ohm * values[0]! - this.volt;
    answer.slope[0] = -this.ohm;
  }
}

const out = new Float64Array(2);

/** A difference of two ports as it is. */
function just(volts: Float64Array, [plus, minus]: readonly [number, number]): Straight {
  const volt = volts[plus]! - volts[minus]!;
  return { plus, minus, low: volt, high: volt };
}

export class JunctionDevice implements Device {
  readonly ports: Int32Array;
  readonly feeds = 2;
  readonly regulates = false;
  readonly steady = [[0, 1]] as const;
  private readonly critical: number;

  constructor(private readonly stamp: JunctionStamp) {
    const { model } = stamp.element;
    this.ports = Int32Array.of(stamp.a, stamp.b);
    this.critical = criticalVolt(model.saturationCurrentAmpere, model.emissionCoefficient);
  }

  at(volts: Float64Array, answer: DeviceAnswer, memory?: Float64Array): void {
    const { model } = this.stamp.element;
    const proposed = volts[0]! - volts[1]!;
    const volt = memory ? limitDiode(proposed, memory[0]!, model, this.critical) : proposed;
    if (memory) memory[0] = volt;
    diodeCurrent(volt, model, out);
    answer.heldBack = Math.abs(proposed - volt) > HELD_BACK_VOLT;
    between(answer, out[0]! + out[1]! * (proposed - volt), out[1]!);
  }

  remember(volts: Float64Array, memory: Float64Array): void {
    memory[0] = startOfJunction(volts[0]! - volts[1]!, this.critical);
  }

  slack(): number {
    return 0;
  }

  straight(volts: Float64Array): readonly Straight[] {
    return this.steady.map((pair) => just(volts, pair));
  }
}

/** Ports: collector, base, emitter. */
export class TransistorDevice implements Device {
  readonly ports: Int32Array;
  readonly feeds = 3;
  readonly regulates = false;
  readonly steady = [
    [1, 2],
    [1, 0],
  ] as const;
  private readonly sign: 1 | -1;
  private readonly critical: readonly [number, number];

  constructor(private readonly stamp: TransistorStamp) {
    const { model } = stamp.element;
    this.ports = Int32Array.from(stamp.nodes);
    this.sign = model.polarity === 'npn' ? 1 : -1;
    this.critical = [
      criticalVolt(model.saturationCurrentAmpere, model.forwardEmission),
      criticalVolt(model.saturationCurrentAmpere, model.reverseEmission),
    ];
  }

  at(volts: Float64Array, answer: DeviceAnswer, memory?: Float64Array): void {
    const { sign, critical } = this;
    const { model } = this.stamp.element;
    const [c, b, e] = [volts[0]!, volts[1]!, volts[2]!];
    const proposed = [sign * (b - e), sign * (b - c)] as const;
    let [forward, reverse] = proposed;
    if (memory) {
      memory[0] = forward = limitJunction(forward, memory[0]!, model.forwardEmission, critical[0]);
      memory[1] = reverse = limitJunction(reverse, memory[1]!, model.reverseEmission, critical[1]);
    }
    const { ampere, slope } = answer;
    transistorAt(model, forward, reverse, 0, ampere, slope);
    answer.heldBack =
      Math.abs(proposed[0] - forward) > HELD_BACK_VOLT ||
      Math.abs(proposed[1] - reverse) > HELD_BACK_VOLT;
    // The tangent: by how much each junction's own volts fall short of what was asked, with the
    // base as reference.
    const shortC = -sign * (proposed[1] - reverse);
    const shortE = -sign * (proposed[0] - forward);
    const collector = sign * ampere[0]! + slope[0]! * shortC + slope[2]! * shortE;
    const base = sign * ampere[1]! + slope[3]! * shortC + slope[5]! * shortE;
    ampere[0] = collector;
    ampere[1] = base;
    ampere[2] = -collector - base;
  }

  remember(volts: Float64Array, memory: Float64Array): void {
    memory[0] = startOfJunction(this.sign * (volts[1]! - volts[2]!), this.critical[0]);
    memory[1] = startOfJunction(this.sign * (volts[1]! - volts[0]!), this.critical[1]);
  }

  slack(): number {
    return 0;
  }

  straight(volts: Float64Array): readonly Straight[] {
    return this.steady.map((pair) => just(volts, pair));
  }
}

const characteristicAnswer = new Float64Array(MOST_PORTS + 2);
const controls = new Float64Array(MOST_PORTS);

/**
 * The common characteristic by itself, because there are many: clamp diodes and output stages. Ports: the two
 * nodes it lies between.
 */
class DropDevice implements Device {
  readonly ports: Int32Array;
  readonly feeds = 2;
  readonly regulates = false;
  readonly steady = [];

  constructor(
    { a, b }: CharacteristicStamp,
    private readonly characteristic: DropCharacteristic,
  ) {
    this.ports = Int32Array.of(a, b);
  }

  at(volts: Float64Array, answer: DeviceAnswer): void {
    const { dropVolt, siemens, limitAmpere, twoWay } = this.characteristic;
    const over = volts[0]! - volts[1]! - dropVolt;
    answer.heldBack = false;
    if (over < 0 && !twoWay) return between(answer, 0, 0);
    const ampere = over * siemens;
    if (Math.abs(ampere) <= limitAmpere) return between(answer, ampere, siemens);
    between(answer, Math.sign(ampere) * limitAmpere, limitAmpere / Math.abs(over));
  }

  remember(): void {
    // A search may step over its corners.
  }

  slack(volts: Float64Array): number {
    return characteristicSlack(this.characteristic, volts);
  }

  straight(volts: Float64Array): readonly Straight[] {
    return characteristicStraight(this.characteristic, volts);
  }
}

/** The device that a characteristic's stamp stands for. */
export function characteristicDevice(stamp: CharacteristicStamp): Device {
  const { characteristic } = stamp.element;
  return characteristic.kind === 'drop'
    ? new DropDevice(stamp, characteristic)
    : new CharacteristicDevice(stamp);
}

/** Any other characteristic. Ports: the two nodes it feeds, then whatever else it looks at. */
class CharacteristicDevice implements Device {
  readonly ports: Int32Array;
  readonly feeds = 2;
  readonly regulates: boolean;
  readonly steady = [];
  /** Place of each control among the ports. */
  private readonly place: Int32Array;

  constructor(private readonly stamp: CharacteristicStamp) {
    const ports = [stamp.a, stamp.b];
    this.place = stamp.controls.map((node) => {
      if (!ports.includes(node)) ports.push(node);
      return ports.indexOf(node);
    });
    this.ports = Int32Array.from(ports);
    this.regulates = stamp.element.characteristic.kind === 'free';
  }

  at(volts: Float64Array, answer: DeviceAnswer, memory?: Float64Array): void {
    const { place, ports } = this;
    const { element } = this.stamp;
    const count = place.length;
    for (let i = 0; i < count; i += 1) controls[i] = volts[place[i]!]!;
    answer.heldBack =
      memory !== undefined && evaluateStep(element, controls, characteristicAnswer, memory, 0);
    if (!memory) evaluateCharacteristic(element.characteristic, controls, characteristicAnswer);
    const { ampere, slope } = answer;
    const width = ports.length;
    ampere.fill(0, 0, width);
    slope.fill(0, 0, width * width);
    let flow = characteristicAnswer[0]!;
    for (let i = 0; i < count; i += 1) {
      const siemens = characteristicAnswer[2 + i]!;
      const p = place[i]!;
      flow += siemens * (volts[p]! - controls[i]!);
      slope[p]! += siemens;
      slope[width + p]! -= siemens;
    }
    ampere[0] = flow;
    ampere[1] = -flow;
  }

  remember(volts: Float64Array, memory: Float64Array): void {
    memory[0] = characteristicMemory(this.stamp.element, this.controlsAt(volts));
  }

  slack(volts: Float64Array): number {
    return characteristicSlack(this.stamp.element.characteristic, this.controlsAt(volts));
  }

  straight(volts: Float64Array): readonly Straight[] {
    const { place } = this;
    const ranges = characteristicStraight(
      this.stamp.element.characteristic,
      this.controlsAt(volts),
    );
    return ranges.map(({ plus, minus, low, high }) => ({
      plus: place[plus]!,
      minus: place[minus]!,
      low,
      high,
    }));
  }

  /** Volts of its controls, valid until the next call. */
  private controlsAt(volts: Float64Array): Float64Array {
    for (let i = 0; i < this.place.length; i += 1) controls[i] = volts[this.place[i]!]!;
    return controls;
  }
}
