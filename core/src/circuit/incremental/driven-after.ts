import type { ConductanceChange, Difference } from './netlist-change';
import {
  FEEDING_SIEMENS,
  drivenNodes,
  HOLDING_SIEMENS,
  Joints,
  junctionHolds,
  characteristicHolds,
  transistorHolds,
} from '../driven-nodes';
import { conducts } from '../characteristic-stamp';
import { sameStates } from '../levels';
import type { Network } from '../network';
import type { BaseLinearisation } from './base-linearisation';
import { oncePer } from '../../once-per';

/** What holds nodes on a known board. */
interface Holding {
  /** Its nodes that have a level. */
  readonly held: Uint8Array;
  /** By place among the devices of the base: 1 where the device holds. */
  readonly devices: Uint8Array;
  /**
   * By place three times: the nodes that the device joins where it holds: of a transistor all three,
   * of anything else the two that it lies between and NO_NODE.
   */
  readonly ends: Int32Array;
  /** Pairs of nodes, and all that conducts between them, siemens. */
  readonly pairs: Int32Array;
  readonly siemens: Float64Array;
  readonly placeOfPair: ReadonlyMap<number, number>;
  /** What the pairs join, and what pairs and devices join. */
  readonly byPairs: Joints;
  readonly joints: Joints;
}

const NO_NODE = -2;

const holdingOf = oncePer((known: BaseLinearisation): Holding => {
  const { network, devices, x } = known;
  const pairs: number[] = [];
  const sums: number[] = [];
  const placeOfPair = new Map<number, number>();
  const put = (a: number, b: number, siemens: number): void => {
    const key = keyOf(network, a, b);
    const place = placeOfPair.get(key) ?? sums.push(0) - 1;
    if (!placeOfPair.has(key)) pairs.push(a, b);
    placeOfPair.set(key, place);
    sums[place]! += siemens;
  };
  for (const { a, b, siemens } of network.conductances) put(a, b, siemens);
  for (const { a, b, element } of network.branches)
    put(a, b, 'ohm' in element && element.ohm > 0 ? 1 / element.ohm : Infinity);
  const holds = Uint8Array.from(devices, ({ open }, place) =>
    open && deviceHolds(network, place, x) ? 1 : 0,
  );
  const ends = Int32Array.from(
    devices.flatMap(({ device: { ports, feeds } }) => [
      ports[0]!,
      ports[1]!,
      feeds > 2 ? ports[2]! : NO_NODE,
    ]),
  );
  const byPairs = joined(network.size, pairs, sums);
  const joints = byPairs.copy(network.size);
  for (let place = 0; place < holds.length; place += 1)
    if (holds[place] === 1) joinEnds(joints, ends, place);
  return {
    held: drivenNodes(network, known.drives, x),
    devices: holds,
    pairs: Int32Array.from(pairs),
    siemens: Float64Array.from(sums),
    placeOfPair,
    ends,
    byPairs,
    joints,
  };
});

/** What pairs of nodes join that conduct enough. */
function joined(
  size: number,
  pairs: ArrayLike<number>,
  siemens: ArrayLike<number>,
  without?: ReadonlySet<number>,
): Joints {
  const joints = new Joints(size);
  for (let place = 0; place < siemens.length; place += 1)
    if (siemens[place]! >= FEEDING_SIEMENS && !without?.has(place))
      joints.join(pairs[2 * place]!, pairs[2 * place + 1]!);
  return joints;
}

function joinEnds(joints: Joints, ends: Int32Array, place: number): void {
  const [a, b, c] = [ends[3 * place]!, ends[3 * place + 1]!, ends[3 * place + 2]!];
  joints.join(a, b);
  if (c !== NO_NODE) joints.join(b, c);
}

const keyOf = ({ size }: Network, a: number, b: number): number =>
  (Math.min(a, b) + 1) * (size + 1) + Math.max(a, b) + 1;

/**
 * Whether a device holds its nodes at x. A base linearisation has its devices in this order: junctions,
 * transistors, characteristics.
 */
function deviceHolds(
  { junctions, transistors, characteristics }: Network,
  place: number,
  x: Float64Array,
): boolean {
  if (place < junctions.length) return junctionHolds(junctions[place]!, x);
  if (place < junctions.length + transistors.length)
    return transistorHolds(transistors[place - junctions.length]!, x);
  const characteristic = characteristics[place - junctions.length - transistors.length]!;
  return characteristic.element.holds && characteristicHolds(characteristic, x);
}

/** Which nodes have a level on the known board itself. */
export function drivenThere(known: BaseLinearisation): Uint8Array {
  return holdingOf(known).held;
}

/**
 * `drivenNodes` of a circuit beside a known one, from what holds there: the known board's own list
 * where nothing of that is different.
 * network: the circuit itself. drives, x: states of its drivers and its point. moved: the unknowns
 * that are not where they were, among others; undefined: any may be.
 */
export function drivenAfter(
  known: BaseLinearisation,
  network: Network,
  difference: Difference,
  drives: Uint8Array,
  x: Float64Array,
  moved: Int32Array | undefined,
): Uint8Array {
  const { conductances, gone, come, branches, extra } = difference;
  if (!moved || branches.length > 0) return drivenNodes(network, drives, x);
  const {
    held,
    devices,
    pairs,
    siemens: sums,
    placeOfPair,
    ends,
    byPairs,
    joints: before,
  } = holdingOf(known);
  const now = devices.slice();
  const gained: number[] = [];
  let lost = false;
  let changed =
    come.junctions.length + come.transistors.length + come.characteristics.length + extra > 0;
  const set = (place: number, holds: boolean): void => {
    if (now[place] === (holds ? 1 : 0)) return;
    now[place] = holds ? 1 : 0;
    changed = true;
    if (holds) gained.push(place);
    else lost = true;
  };
  askMoved(known, x, moved, set);
  for (let driver = 0; drives !== known.drives && driver < drives.length; driver += 1) {
    if (drives[driver] === known.drives[driver]) continue;
    for (const place of known.switchedBy(driver))
      set(
        place,
        conducts(known.devices[place]!.characteristic!, drives) &&
          deviceHolds(known.network, place, x),
      );
  }
  for (const list of [gone.junctions, gone.transistors, gone.characteristics])
    for (const stamp of list) set(known.deviceOf(stamp), false);
  const others = new Map<
    number,
    { readonly a: number; readonly b: number; readonly siemens: number }
  >();
  for (const { a, b, siemens } of conductances) {
    const key = keyOf(known.network, a, b);
    const place = placeOfPair.get(key);
    const soFar = others.get(key)?.siemens ?? (place === undefined ? 0 : sums[place]!);
    if (soFar >= FEEDING_SIEMENS !== soFar + siemens >= FEEDING_SIEMENS) changed = true;
    others.set(key, { a, b, siemens: soFar + siemens });
  }
  if (!changed) return held;

  // Joints only grow: where a device or a pair no longer conducts they are made anew.
  const parted = new Set(
    [...others].flatMap(([key, { siemens }]) =>
      siemens < FEEDING_SIEMENS ? (placeOfPair.get(key) ?? []) : [],
    ),
  );
  const pairLost = [...parted].some((place) => sums[place]! >= FEEDING_SIEMENS);
  const size = known.network.size + extra;
  const joints = pairLost
    ? joined(size, pairs, sums, parted)
    : (lost ? byPairs : before).copy(size);
  for (const { a, b, siemens } of others.values())
    if (siemens >= FEEDING_SIEMENS) joints.join(a, b);
  if (!pairLost && !lost) for (const place of gained) joinEnds(joints, ends, place);
  else
    for (let place = 0; place < now.length; place += 1)
      if (now[place] === 1) joinEnds(joints, ends, place);
  for (const junction of come.junctions)
    if (junctionHolds(junction, x)) joints.join(junction.a, junction.b);
  for (const transistor of come.transistors)
    if (transistorHolds(transistor, x)) joints.joinAll(transistor.nodes);
  for (const characteristic of come.characteristics)
    if (
      characteristic.element.holds &&
      conducts(characteristic, drives) &&
      characteristicHolds(characteristic, x)
    )
      joints.join(characteristic.a, characteristic.b);
  return joints.grounded();
}

/** Asks every device on a node that moved whether it holds now. */
function askMoved(
  { network, slacks, around, marks, x: before }: BaseLinearisation,
  x: Float64Array,
  moved: Int32Array,
  tell: (place: number, holds: boolean) => void,
): void {
  marks.asked.begin();
  for (const node of moved) {
    if (node >= network.nodeCount) continue;
    const way = Math.abs(x[node]! - before[node]!);
    const places = around[node]!;
    for (let k = 0; k < places.length && way > slacks[places[k]!]!; k += 1)
      if (marks.asked.add(places[k]!)) tell(places[k]!, deviceHolds(network, places[k]!, x));
  }
}

/**
 * Whether the same nodes have a level as on the known board, whatever its volts: it has all its
 * conductors still, and its drivers are in the same states.
 */
export function holdsAlike(
  known: BaseLinearisation,
  { conductances, gone, come, branches, extra }: Difference,
  drives: Uint8Array,
): boolean {
  if (extra > 0 || branches.length > 0 || !sameStates(known.drives, drives)) return false;
  if (
    [gone, come].some(
      ({ junctions, transistors, characteristics }) =>
        junctions.length + transistors.length + characteristics.length > 0,
    )
  )
    return false;
  return conductances.every((change) => staysConductor(conductances, change));
}

/**
 * Whether what was taken out between two nodes and what was put in there both hold, or neither
 * does.
 */
function staysConductor(
  all: Difference['conductances'],
  { a, b, siemens }: ConductanceChange,
): boolean {
  if (Math.abs(siemens) < HOLDING_SIEMENS) return true;
  return all.some(
    (other) =>
      other.siemens * siemens < 0 &&
      Math.abs(other.siemens) >= HOLDING_SIEMENS &&
      ((other.a === a && other.b === b) || (other.a === b && other.b === a)),
  );
}
