import { diodeCurrent, junctionCurrent } from './junction';
import { conducts, characteristicAt } from './characteristic-stamp';
import { conductingCharacteristics } from './characteristic-table';
import type { JunctionStamp, CharacteristicStamp, Network, TransistorStamp } from './network';
import { across } from './operating-point';

/**
 * What lies below this conductance does not give a net its level, siemens: a lifted leg, a dirty
 * open switch.
 */
export const HOLDING_SIEMENS = 2e-8;

/**
 * What a junction or a characteristic has to conduct at a given point to hold a node against a voltmeter of 10
 * MΩ, siemens.
 */
export const FEEDING_SIEMENS = 5e-6;

const out = new Float64Array(2);

/** Whether a transistor's base current holds its base: the least that it does when it conducts. */
export function transistorHolds(
  { nodes: [c, b, e], element: { model } }: TransistorStamp,
  x: Float64Array,
): boolean {
  const sign = model.polarity === 'npn' ? 1 : -1;
  junctionCurrent(
    Math.max(sign * across(x, b, e), sign * across(x, b, c)),
    model.saturationCurrentAmpere,
    1,
    out,
  );
  return out[1]! / model.forwardGain >= FEEDING_SIEMENS;
}

export function junctionHolds({ a, b, element }: JunctionStamp, x: Float64Array): boolean {
  diodeCurrent(across(x, a, b), element.model, out);
  return out[1]! >= FEEDING_SIEMENS;
}

/**
 * A TTL input that nothing drives and an output that nothing loads rest at the very corner of their
 * characteristics: within this of it they are still held, volt.
 */
const CORNER_VOLT = 1e-3;

/** Whether a characteristic conducts enough at x to hold its nodes. */
export function characteristicHolds(characteristic: CharacteristicStamp, x: Float64Array): boolean {
  const answer = characteristicAt(
    characteristic,
    x,
    characteristic.element.characteristic.kind === 'free' ? 0 : CORNER_VOLT,
  );
  for (let i = 0; i < characteristic.controls.length; i += 1)
    if (Math.abs(answer[2 + i]!) >= FEEDING_SIEMENS) return true;
  return false;
}

/** Nodes joined with one another and with ground. */
export class Joints {
  /** By node + 1; ground is 0. */
  private readonly parent: Int32Array;

  constructor(private readonly size: number) {
    this.parent = new Int32Array(size + 1);
    for (let i = 0; i <= size; i += 1) this.parent[i] = i;
  }

  /** The same joints, among so many nodes or more. */
  copy(size: number): Joints {
    const copy = new Joints(size);
    copy.parent.set(this.parent);
    return copy;
  }

  join(a: number, b: number): void {
    this.parent[this.root(a + 1)] = this.root(b + 1);
  }

  joinAll(nodes: readonly number[]): void {
    for (const node of nodes) this.join(node, nodes[0]!);
  }

  /** 1 for every node that is joined with ground. */
  grounded(): Uint8Array {
    const found = new Uint8Array(this.size);
    const ground = this.root(0);
    for (let node = 0; node < this.size; node += 1)
      if (this.root(node + 1) === ground) found[node] = 1;
    return found;
  }

  private root(i: number): number {
    const { parent } = this;
    while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
    return i;
  }
}

/**
 * Which nodes something gives a level to, in these driver states: 1 a node that conducts to ground
 * through parts, inputs or active outputs; 0 a floating one.
 * x: volts at which a junction has to conduct to hold anything; without them every junction does.
 * Length nodeCount at least.
 */
export function drivenNodes(network: Network, drives: Uint8Array, x?: Float64Array): Uint8Array {
  const joints = new Joints(network.size + network.extra);
  const least = x ? FEEDING_SIEMENS : HOLDING_SIEMENS;
  for (const { a, b, siemens } of network.conductances) if (siemens >= least) joints.join(a, b);
  for (const { a, b, element } of network.branches)
    if (!('ohm' in element) || element.ohm * least <= 1) joints.join(a, b);
  for (const junction of network.junctions)
    if (!x || junctionHolds(junction, x)) joints.join(junction.a, junction.b);
  for (const transistor of network.transistors)
    if (!x || transistorHolds(transistor, x)) joints.joinAll(transistor.nodes);
  if (x)
    for (const characteristic of conductingCharacteristics(network, drives, x))
      if (characteristic.element.holds && characteristicHolds(characteristic, x))
        joints.join(characteristic.a, characteristic.b);
  if (!x)
    for (const characteristic of network.characteristics)
      if (characteristic.element.holds && conducts(characteristic, drives))
        joints.join(characteristic.a, characteristic.b);
  return joints.grounded();
}
