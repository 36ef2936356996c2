import type { ConductanceChange, Difference } from './exchange';
import { diodeCurrent, junctionCurrent } from './junction';
import { isOpen, lawAt } from './law-stamp';
import { conductingLaws } from './law-table';
import type { JunctionStamp, LawStamp, Network, TransistorStamp } from './network';
import { across } from './operating-point';
import type { Vicinity } from './vicinity';

/** What lies below this conductance does not give a net its level, siemens: a lifted leg, a dirty open switch. */
const HOLDING_SIEMENS = 2e-8;

/** What a junction or a law has to conduct at a given point to hold a node against a voltmeter of 10 MΩ, siemens. */
const FEEDING_SIEMENS = 5e-6;

const out = new Float64Array(2);

/** Whether a transistor's base current holds its base: the least that it does when it conducts. */
function conducts(x: Float64Array, { nodes: [c, b, e], element: { model } }: TransistorStamp): boolean {
  const sign = model.polarity === 'npn' ? 1 : -1;
  junctionCurrent(Math.max(sign * across(x, b, e), sign * across(x, b, c)), model.saturationCurrentAmpere, 1, out);
  return out[1]! / model.forwardGain >= FEEDING_SIEMENS;
}

function junctionHolds({ a, b, element }: JunctionStamp, x: Float64Array): boolean {
  diodeCurrent(across(x, a, b), element.model, out);
  return out[1]! >= FEEDING_SIEMENS;
}

/** A TTL input that nothing drives and an output that nothing loads rest at the very corner of their laws: within this of it they are still held, volt. */
const CORNER_VOLT = 1e-3;

/** Whether a law conducts enough at x to hold its nodes. */
function lawHolds(law: LawStamp, x: Float64Array): boolean {
  const answer = lawAt(law, x, law.element.law.kind === 'free' ? 0 : CORNER_VOLT);
  for (let i = 0; i < law.controls.length; i += 1) if (Math.abs(answer[2 + i]!) >= FEEDING_SIEMENS) return true;
  return false;
}

/** Which nodes something gives a level to, in these driver states: 1 a node that conducts to ground through parts, inputs or active outputs; 0 a floating one.
 *  x: volts at which a junction has to conduct to hold anything; without them every junction does. Length nodeCount at least. */
export function heldNodes(network: Network, drives: Uint8Array, x?: Float64Array): Uint8Array {
  const size = network.size + network.extra;
  const parent = new Int32Array(size + 1);
  for (let i = 0; i <= size; i += 1) parent[i] = i;
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]!]!;
    return i;
  };
  const least = x ? FEEDING_SIEMENS : HOLDING_SIEMENS;
  const join = (a: number, b: number): void => void (parent[root(a + 1)] = root(b + 1));
  for (const { a, b, siemens } of network.conductances) if (siemens >= least) join(a, b);
  for (const { a, b, element } of network.branches) if (!('ohm' in element) || element.ohm * least <= 1) join(a, b);
  for (const junction of network.junctions) if (!x || junctionHolds(junction, x)) join(junction.a, junction.b);
  for (const transistor of network.transistors) if (!x || conducts(x, transistor)) transistor.nodes.forEach((node) => join(node, transistor.nodes[1]));
  if (x) for (const law of conductingLaws(network, drives, x)) if (law.element.holds && lawHolds(law, x)) join(law.a, law.b);
  if (!x) for (const law of network.laws) if (law.element.holds && isOpen(law, drives)) join(law.a, law.b);
  const held = new Uint8Array(size);
  const ground = root(0);
  for (let node = 0; node < size; node += 1) if (root(node + 1) === ground) held[node] = 1;
  return held;
}

/** Whether a circuit beside a known one has all its conductors still, and its drivers in the same states: then what holds nodes can only differ in pieces that moved.
 *  least: what counts as a conductor, siemens. */
function keepsConductors(known: Vicinity, { conductances, gone, come, branches, extra }: Difference, drives: Uint8Array, least: number): boolean {
  if (extra > 0 || branches.length > 0 || !sameStates(known.drives, drives)) return false;
  if ([gone, come].some(({ junctions, transistors, laws }) => junctions.length + transistors.length + laws.length > 0)) return false;
  return conductances.every((change) => staysConductor(conductances, change, least));
}

/** Whether the same nodes have a level as on the known board, whatever its volts. */
export function holdsAlike(known: Vicinity, difference: Difference, drives: Uint8Array): boolean {
  return keepsConductors(known, difference, drives, HOLDING_SIEMENS);
}

/** Whether every piece of a circuit beside a known one holds at x what it holds there: then the same nodes have a level. Where it cannot be told quickly, false.
 *  drives: states of the chips' drivers now. moved: the nodes that are not where they were, among others; undefined: any may be. */
export function holdsTheSame(known: Vicinity, difference: Difference, drives: Uint8Array, x: Float64Array, moved: readonly number[] | undefined): boolean {
  if (!keepsConductors(known, difference, drives, FEEDING_SIEMENS)) return false;
  const { network, slacks, around, marks } = known;
  const { nodeCount } = network;
  marks.asked.begin();
  for (let m = 0; m < (moved ? moved.length : nodeCount); m += 1) {
    const node = moved ? moved[m]! : m;
    if (node >= nodeCount) continue;
    const way = Math.abs(x[node]! - known.x[node]!);
    for (const place of around[node]!) {
      if (way <= slacks[place]!) break;
      if (marks.asked.add(place) && pieceHolds(network, place, x) !== pieceHolds(network, place, known.x)) return false;
    }
  }
  return true;
}

/** Whether a piece of a vicinity holds its nodes at x. A vicinity has its pieces in this order: junctions, transistors, laws. */
function pieceHolds({ junctions, transistors, laws }: Network, place: number, x: Float64Array): boolean {
  if (place < junctions.length) return junctionHolds(junctions[place]!, x);
  if (place < junctions.length + transistors.length) return conducts(x, transistors[place - junctions.length]!);
  const law = laws[place - junctions.length - transistors.length]!;
  return law.element.holds && lawHolds(law, x);
}

function sameStates(a: Uint8Array, b: Uint8Array): boolean {
  if (a === b) return true;
  for (let i = 0; i < a.length; i += 1) if (a[i] !== b[i]) return false;
  return true;
}

/** Whether what was taken out between two nodes and what was put in there both hold, or neither does. */
function staysConductor(all: Difference['conductances'], { a, b, siemens }: ConductanceChange, least: number): boolean {
  if (Math.abs(siemens) < least) return true;
  return all.some(
    (other) => other.siemens * siemens < 0 && Math.abs(other.siemens) >= least && ((other.a === a && other.b === b) || (other.a === b && other.b === a)),
  );
}
