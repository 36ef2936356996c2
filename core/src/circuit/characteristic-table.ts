import { evaluateCharacteristic, FLOAT_OHM, HIGH_SIEMENS } from '../device';
import { evaluateStep, conducts, characteristicMemory, limitFloat } from './characteristic-stamp';
import { ALWAYS, type CharacteristicStamp, type Network } from './network';
import { oncePer } from '../once-per';

/** Most nodes that one characteristic looks at. */
const MOST_CONTROLS = 6;
const volts = new Float64Array(MOST_CONTROLS);
const answer = new Float64Array(MOST_CONTROLS + 2);

/** Which kind of rows a characteristic has in a table. */
const KIND = { drop: 0, ttl: 1, other: 2 } as const;

/**
 * The common characteristics of a network in columns, because there are thousands and every step of every
 * search asks them all: drops (clamp diodes, output stages) and TTL inputs. Row i is the characteristic at
 * place i of `characteristics`; whatever is neither is left out.
 */
interface CharacteristicTable {
  readonly characteristics: readonly CharacteristicStamp[];
  readonly kind: Uint8Array;
  readonly driver: Int32Array;
  readonly when: Uint8Array;
  /**
   * Nodes: of a drop the two it lies between; of a TTL input supply, pin and ground. Four a row.
   */
  readonly nodes: Int32Array;
  /**
   * Places in the matrix. Of a drop aa, ab, ba, bb; of a TTL input supply-supply, supply-pin,
   * supply-ground, pin-supply, pin-pin, pin-ground. Six a row.
   */
  readonly slots: Int32Array;
  /** Volts at which a drop conducts, or between supply and base of a TTL input. */
  readonly dropVolt: Float64Array;
  /** Siemens of a drop beyond that, or of a TTL input's base resistor. */
  readonly siemens: Float64Array;
  /** Limit of a drop in ampere, or float voltage of a TTL input. */
  readonly bound: Float64Array;
  readonly twoWay: Uint8Array;
  /** Rows of the drops that a driver switches. */
  readonly switched: Int32Array;
}

/**
 * The table of a network, which the networks share that come from it by netlistChange: there a characteristic that
 * is not the same at its place is asked by itself.
 */
const tableOf = oncePer(
  ({ characteristics }: Network) => makeTable(characteristics),
  ({ nodeIndex }) => nodeIndex,
);

function makeTable(characteristics: readonly CharacteristicStamp[]): CharacteristicTable {
  const count = characteristics.length;
  const table: CharacteristicTable = {
    characteristics,
    kind: new Uint8Array(count),
    driver: Int32Array.from(characteristics, ({ driver }) => driver),
    when: Uint8Array.from(characteristics, ({ when }) => when),
    nodes: new Int32Array(4 * count).fill(-1),
    slots: new Int32Array(6 * count).fill(-1),
    dropVolt: new Float64Array(count),
    siemens: new Float64Array(count),
    bound: new Float64Array(count),
    twoWay: new Uint8Array(count),
    switched: Int32Array.from(
      [...characteristics.keys()].filter(
        (l) =>
          characteristics[l]!.driver >= 0 &&
          characteristics[l]!.element.characteristic.kind === 'drop',
      ),
    ),
  };
  characteristics.forEach(({ a, b, controls, slots, element: { characteristic } }, i) => {
    table.kind[i] = characteristic.kind === 'free' ? KIND.other : KIND[characteristic.kind];
    if (characteristic.kind === 'free') return;
    table.nodes.set(characteristic.kind === 'drop' ? [a, b] : controls, 4 * i);
    table.slots.set(slots, 6 * i);
    table.dropVolt[i] = characteristic.dropVolt;
    table.siemens[i] =
      characteristic.kind === 'drop' ? characteristic.siemens : 1 / characteristic.baseOhm;
    table.bound[i] =
      characteristic.kind === 'drop' ? characteristic.limitAmpere : characteristic.floatVolt;
    table.twoWay[i] = characteristic.kind === 'drop' && characteristic.twoWay ? 1 : 0;
  });
  return table;
}

/** The characteristics of a network that conduct while its drivers are in certain states. */
export interface OpenCharacteristics {
  readonly table: CharacteristicTable;
  /** Rows of the table, the first so many of each list. */
  readonly drops: Int32Array;
  readonly dropCount: number;
  readonly ttls: Int32Array;
  readonly ttlCount: number;
  /** All others. */
  readonly others: readonly CharacteristicStamp[];
  /** What the step before looked at, of ttls and then of others; zero until `rememberCharacteristics`. */
  readonly last: Float64Array;
}

export function enabledCharacteristics(network: Network, drives: Uint8Array): OpenCharacteristics {
  const { characteristics } = network;
  const table = tableOf(network);
  const { kind, driver, when } = table;
  const [drops, ttls] = [
    new Int32Array(characteristics.length),
    new Int32Array(characteristics.length),
  ];
  const others: CharacteristicStamp[] = [];
  let [dropCount, ttlCount] = [0, 0];
  for (let l = 0; l < characteristics.length; l += 1) {
    const stamp = characteristics[l]!;
    if (stamp !== table.characteristics[l] || kind[l] === KIND.other) {
      if (conducts(stamp, drives)) others.push(stamp);
    } else if (driver[l] === ALWAYS || drives[driver[l]!] === when[l]) {
      if (kind[l] === KIND.drop) drops[dropCount++] = l;
      else ttls[ttlCount++] = l;
    }
  }
  return {
    table,
    drops,
    dropCount,
    ttls,
    ttlCount,
    others,
    last: new Float64Array(ttlCount + others.length),
  };
}

/**
 * A drop that a driver switches: between which nodes, at how many volts it begins to conduct, which
 * driver has to be in which state for that, and whether it then conducts both ways (0 or 1).
 */
export type SwitchedDrop = (
  a: number,
  b: number,
  dropVolt: number,
  driver: number,
  when: number,
  twoWay: number,
) => void;

/** Tells of the drops that conduct while drivers are in these states and would not in others. */
export function switchedDrops(network: Network, drives: Uint8Array, tell: SwitchedDrop): void {
  const { characteristics } = network;
  const {
    characteristics: known,
    switched,
    driver,
    when,
    nodes,
    dropVolt,
    twoWay,
  } = tableOf(network);
  const tellOf = (stamp: CharacteristicStamp): void => {
    const { characteristic } = stamp.element;
    if (stamp.driver >= 0 && characteristic.kind === 'drop' && conducts(stamp, drives))
      tell(
        stamp.a,
        stamp.b,
        characteristic.dropVolt,
        stamp.driver,
        stamp.when,
        characteristic.twoWay ? 1 : 0,
      );
  };
  for (const l of switched) {
    if (characteristics[l] !== known[l]) tellOf(characteristics[l]!);
    else if (drives[driver[l]!] === when[l])
      tell(nodes[4 * l]!, nodes[4 * l + 1]!, dropVolt[l]!, driver[l]!, when[l]!, twoWay[l]!);
  }
  for (let l = known.length; l < characteristics.length; l += 1) tellOf(characteristics[l]!);
}

const CONDUCTING = new WeakMap<
  Float64Array,
  {
    readonly characteristics: Network['characteristics'];
    readonly drives: Uint8Array;
    readonly found: readonly CharacteristicStamp[];
  }
>();

/** A characteristic this close to conducting counts among those that do, volt. */
const ALMOST_VOLT = 2e-3;

/**
 * The characteristics of a network that may carry current at x or next to it; x is not to change any more.
 * Those of the last network asked about at this x are kept.
 */
export function conductingCharacteristics(
  network: Network,
  drives: Uint8Array,
  x: Float64Array,
): readonly CharacteristicStamp[] {
  const { characteristics } = network;
  const known = CONDUCTING.get(x);
  if (known?.characteristics === characteristics && known.drives === drives) return known.found;
  const table = tableOf(network);
  const { kind, nodes, dropVolt, bound, twoWay } = table;
  const found: CharacteristicStamp[] = [];
  for (let l = 0; l < characteristics.length; l += 1) {
    const stamp = characteristics[l]!;
    if (stamp === table.characteristics[l] && kind[l] !== KIND.other && twoWay[l] === 0) {
      // A drop that is not reached, or a TTL input that a supply above its pin neither feeds nor
      // the pin's own volts make leak.
      const a = nodes[4 * l]!;
      const b = nodes[4 * l + 1]!;
      const volt = b < 0 ? 0 : x[b]!;
      const g = nodes[4 * l + 2]!;
      const leaks = kind[l] === KIND.ttl && volt - (g < 0 ? 0 : x[g]!) > bound[l]! - ALMOST_VOLT;
      if (!leaks && (a < 0 ? 0 : x[a]!) - volt - dropVolt[l]! < -ALMOST_VOLT) continue;
    }
    if (conducts(stamp, drives)) found.push(stamp);
  }
  CONDUCTING.set(x, { characteristics, drives, found });
  return found;
}

/** Sets what the characteristics look at to where a search begins. */
export function rememberCharacteristics(
  { table: { nodes }, ttls, ttlCount, others, last }: OpenCharacteristics,
  x: Float64Array,
): void {
  for (let k = 0; k < ttlCount; k += 1) {
    const at = 4 * ttls[k]!;
    const pin = nodes[at + 1]!;
    const ground = nodes[at + 2]!;
    last[k] = (pin < 0 ? 0 : x[pin]!) - (ground < 0 ? 0 : x[ground]!);
  }
  others.forEach(({ controls, element }, l) => {
    for (let i = 0; i < controls.length; i += 1) volts[i] = controls[i]! < 0 ? 0 : x[controls[i]!]!;
    last[ttlCount + l] = characteristicMemory(element, volts);
  });
}

/**
 * Adds the characteristics' slopes at x to the matrix values and, where rhs is given, what remains of their
 * currents to the right-hand side. With rhs a step that would jump too far is held back. Returns
 * whether one was.
 */
export function stampCharacteristics(
  open: OpenCharacteristics,
  x: Float64Array,
  values: Float64Array,
  rhs?: Float64Array,
): boolean {
  stampDrops(open, x, values, rhs);
  let limited = stampTtls(open, x, values, rhs);
  const { others, ttlCount, last } = open;
  for (let l = 0; l < others.length; l += 1)
    if (stampOther(others[l]!, ttlCount + l, x, values, rhs, last)) limited = true;
  return limited;
}

/** The drops: most of them are clamps that do not conduct. */
function stampDrops(
  { table, drops, dropCount }: OpenCharacteristics,
  x: Float64Array,
  values: Float64Array,
  rhs: Float64Array | undefined,
): void {
  const { nodes, slots, dropVolt, siemens, bound, twoWay } = table;
  for (let k = 0; k < dropCount; k += 1) {
    const i = drops[k]!;
    const a = nodes[4 * i]!;
    const b = nodes[4 * i + 1]!;
    const volt = (a < 0 ? 0 : x[a]!) - (b < 0 ? 0 : x[b]!);
    const over = volt - dropVolt[i]!;
    if (over < 0 && twoWay[i] === 0) continue;
    let slope = siemens[i]!;
    let rest = -slope * dropVolt[i]!;
    if (Math.abs(over * slope) > bound[i]!) {
      // By the chord to zero current, as the characteristic itself does.
      slope = bound[i]! / Math.abs(over);
      rest = Math.sign(over) * bound[i]! - slope * volt;
    }
    const at = 6 * i;
    add(values, slots[at]!, slope);
    add(values, slots[at + 1]!, -slope);
    add(values, slots[at + 2]!, -slope);
    add(values, slots[at + 3]!, slope);
    if (!rhs) continue;
    if (a >= 0) rhs[a] = rhs[a]! - rest;
    if (b >= 0) rhs[b] = rhs[b]! + rest;
  }
}

/** The TTL inputs. */
function stampTtls(
  { table, ttls, ttlCount, last }: OpenCharacteristics,
  x: Float64Array,
  values: Float64Array,
  rhs: Float64Array | undefined,
): boolean {
  const { nodes, slots, dropVolt, siemens: base, bound } = table;
  let limited = false;
  for (let k = 0; k < ttlCount; k += 1) {
    const i = ttls[k]!;
    const a = nodes[4 * i]!;
    const b = nodes[4 * i + 1]!;
    const g = nodes[4 * i + 2]!;
    const ground = g < 0 ? 0 : x[g]!;
    const floatVolt = bound[i]!;
    const most = (a < 0 ? 0 : x[a]!) - dropVolt[i]! - ground;
    let over = (b < 0 ? 0 : x[b]!) - ground;
    if (rhs) {
      const held = limitFloat(over, last[k]!, floatVolt, most, 1 / base[i]!);
      if (Math.abs(over - held) > 1e-9) limited = true;
      last[k] = over = held;
    }
    const fed = (most - over) * base[i]!;
    const left = (floatVolt - over) / FLOAT_OHM;
    if (fed <= 0 && (left >= 0 || most <= floatVolt)) continue;
    // Either the base resistor feeds the pin from the supply, or what is left to the float voltage
    // does, to the ground.
    const byBase = fed < left;
    const siemens = byBase ? base[i]! : left >= 0 ? 1 / FLOAT_OHM : HIGH_SIEMENS;
    const rest = siemens * (byBase ? -dropVolt[i]! : floatVolt);
    const at = 6 * i;
    const other = byBase ? at : at + 2;
    add(values, slots[other]!, siemens);
    add(values, slots[at + 1]!, -siemens);
    add(values, slots[other + 3]!, -siemens);
    add(values, slots[at + 4]!, siemens);
    if (!rhs) continue;
    if (a >= 0) rhs[a] = rhs[a]! - rest;
    if (b >= 0) rhs[b] = rhs[b]! + rest;
  }
  return limited;
}

function add(values: Float64Array, slot: number, siemens: number): void {
  if (slot >= 0) values[slot] = values[slot]! + siemens;
}

function stampOther(
  stamp: CharacteristicStamp,
  l: number,
  x: Float64Array,
  values: Float64Array,
  rhs: Float64Array | undefined,
  last: Float64Array,
): boolean {
  const { a, b, controls, slots, element } = stamp;
  const count = controls.length;
  let limited = false;
  for (let i = 0; i < count; i += 1) volts[i] = controls[i]! < 0 ? 0 : x[controls[i]!]!;
  if (rhs) limited = evaluateStep(element, volts, answer, last, l);
  else evaluateCharacteristic(element.characteristic, volts, answer);
  let rest = answer[0]!;
  for (let i = 0; i < count; i += 1) {
    const slope = answer[2 + i]!;
    if (slope === 0) continue;
    if (slots[i]! >= 0) values[slots[i]!]! += slope;
    if (slots[count + i]! >= 0) values[slots[count + i]!]! -= slope;
    rest -= slope * volts[i]!;
  }
  if (rhs) {
    if (a >= 0) rhs[a]! -= rest;
    if (b >= 0) rhs[b]! += rest;
  }
  return limited;
}
