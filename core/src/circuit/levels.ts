import type { ChipLogic } from '../device';
import { HIGH, LOW, PULSE, UNKNOWN, type Level } from '../logic';
import { heldNodes } from './held';
import { DRIVE, type LogicStamp, type Network } from './network';
import { across } from './operating-point';

/** What a driver does: a level, or OFF. */
export const OFF = 4;
export type Driven = Level | typeof OFF;

const DRIVERS_BY_NODE = new WeakMap<readonly LogicStamp[], ReadonlyMap<number, readonly number[]>>();

/** The drivers that hang on each node, kept with the chips they come from. */
export function driversByNode({ chips }: Network): ReadonlyMap<number, readonly number[]> {
  let known = DRIVERS_BY_NODE.get(chips);
  if (!known) {
    const map = new Map<number, number[]>();
    for (const { outputs } of chips) for (const { node, driver } of outputs) push(map, node, driver);
    DRIVERS_BY_NODE.set(chips, (known = map));
  }
  return known;
}

const READERS_BY_NODE = new WeakMap<readonly LogicStamp[], ReadonlyMap<number, readonly (readonly [chip: number, input: number])[]>>();

/** The chip inputs that look at each node, kept with the chips. */
export function readersByNode({ chips }: Network): ReadonlyMap<number, readonly (readonly [chip: number, input: number])[]> {
  let known = READERS_BY_NODE.get(chips);
  if (!known) {
    const map = new Map<number, (readonly [number, number])[]>();
    chips.forEach(({ inputs }, chip) => inputs.forEach(({ node }, input) => push(map, node, [chip, input] as const)));
    READERS_BY_NODE.set(chips, (known = map));
  }
  return known;
}

/** The chips that look at each node, as an input or for their supply, by node; and those whose inputs look for a level on a node that nothing may hold. */
export interface Watchers {
  readonly at: readonly (readonly number[] | undefined)[];
  readonly openInputs: ReadonlyMap<number, readonly number[]>;
}

const WATCHERS = new WeakMap<readonly LogicStamp[], Watchers>();

/** Who looks at what, kept with the chips. */
export function watchers({ chips }: Network): Watchers {
  let known = WATCHERS.get(chips);
  if (known) return known;
  const at: number[][] = [];
  const openInputs = new Map<number, number[]>();
  chips.forEach((chip, c) => {
    for (const node of new Set(watchedBy(chip))) if (node >= 0) (at[node] ??= []).push(c);
    if (chip.logic.family.input.type === 'mos') for (const node of new Set(chip.inputs.map((input) => input.node))) push(openInputs, node, c);
  });
  WATCHERS.set(chips, (known = { at, openInputs }));
  return known;
}

function watchedBy({ supply, ground, inputs }: LogicStamp): readonly number[] {
  return [supply, ground, ...inputs.flatMap(({ node, against }) => (against === undefined ? [node] : [node, against]))];
}

/** How far each node may move from this point, all at once, with no chip that looks at it seeing anything else. Unit: volt; infinite where none looks. */
export function levelSlacks(network: Network, x: Float64Array): Float64Array {
  const slacks = new Float64Array(network.size).fill(Infinity);
  const allow = (node: number, volt: number): void => {
    if (node >= 0) slacks[node] = Math.min(slacks[node]!, volt);
  };
  for (const chip of network.chips) {
    const { logic, supply, ground, inputs } = chip;
    const fed = across(x, supply, ground);
    let least = Math.abs(fed - logic.family.supplyLeastVolt) / 2;
    inputs.forEach(({ node, against }, i) => {
      const { stuck, schmitt } = logic.inputs[i]!;
      if (stuck !== undefined) return;
      const way = against === undefined ? wayToThreshold(logic, schmitt, across(x, node, ground), fed) : Math.abs(across(x, node, against));
      // The node, the ground twice over and the supply have a part in it.
      allow(node, way / 4);
      if (against === undefined) least = Math.min(least, way / 4);
      else allow(against, way / 4);
    });
    allow(supply, least);
    allow(ground, least);
  }
  return slacks;
}

/** What each driver's stage can do, by the driver's number: pull both ways, low only or high only. */
const PULLS = { none: 0, both: 1, low: 2, high: 3 } as const;
const PULLS_BY_DRIVER = new WeakMap<readonly LogicStamp[], Uint8Array>();

function pullsByDriver({ chips, drivers }: Network): Uint8Array {
  let known = PULLS_BY_DRIVER.get(chips);
  if (!known) {
    known = new Uint8Array(drivers.length);
    for (const { logic, outputs } of chips) for (let i = 0; i < outputs.length; i += 1) known[outputs[i]!.driver] = PULLS[logic.outputs[i]!.pulls];
    PULLS_BY_DRIVER.set(chips, known);
  }
  return known;
}

/** A test whether a node has its level from somewhere, worked out when first asked. */
export function holdTest(network: Network, drives: Uint8Array): (node: number) => boolean {
  let held: Uint8Array | undefined;
  return (node) => node < 0 || (held ??= heldNodes(network, drives))[node] === 1;
}

export function isPowered({ logic, supply, ground }: LogicStamp, phases: readonly Float64Array[]): boolean {
  return !logic.dead && phases.every((x) => across(x, supply, ground) >= logic.family.supplyLeastVolt);
}

/** What a chip sees at its i-th input. was: what it saw before, which a Schmitt input may keep. */
export function levelAt(
  driven: Uint8Array,
  driversOf: ReadonlyMap<number, readonly number[]>,
  phases: readonly Float64Array[],
  chip: LogicStamp,
  i: number,
  was: Level,
  isHeld: (node: number) => boolean,
): Level {
  const input = chip.logic.inputs[i]!;
  if (input.stuck !== undefined) return input.stuck;
  const { node, against } = chip.inputs[i]!;
  if (against === undefined && chip.logic.family.input.type === 'mos' && !isHeld(node)) return UNKNOWN;
  const level = (phase: number): Level => {
    const x = phases[phase]!;
    if (against !== undefined) return across(x, node, against) > 0 ? HIGH : LOW;
    return levelOf(chip.logic, input.schmitt, across(x, node, chip.ground), across(x, chip.supply, chip.ground), phases.length > 1 ? (phase as Level) : was);
  };
  const low = level(0);
  if (phases.length === 1 || level(1) === low) return low;
  let unknown = false;
  let moving = false;
  for (const driver of driversOf.get(node) ?? []) {
    unknown ||= driven[driver] === UNKNOWN;
    moving ||= driven[driver] === PULSE;
  }
  return unknown || (!moving && driven.includes(UNKNOWN)) ? UNKNOWN : PULSE;
}

export function push<T>(map: Map<number, T[]>, key: number, value: T): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}

/** What an output stage makes of a level and its enable. */
export function drivenLevel({ pulls, stuck }: { pulls: 'both' | 'low' | 'high'; stuck?: Level | undefined }, level: Level, enable: Level): Driven {
  const wanted: Driven = stuck ?? (enable === LOW ? OFF : enable === HIGH ? level : enable);
  if ((pulls === 'low' && wanted === HIGH) || (pulls === 'high' && wanted === LOW)) return OFF;
  return wanted;
}

/** States of all drivers in a phase: what pulses or is not known is low in the first and high in the second. */
export function driveStates(network: Network, driven: Uint8Array, phase: 0 | 1): Uint8Array {
  const pulls = pullsByDriver(network);
  const drives = new Uint8Array(pulls.length);
  for (let driver = 0; driver < pulls.length; driver += 1) {
    const level = driven[driver]!;
    const stage = pulls[driver]!;
    if (level === OFF || stage === PULLS.none) continue;
    const high = level === HIGH || (level !== LOW && phase === HIGH);
    drives[driver] = high ? (stage === PULLS.low ? DRIVE.off : DRIVE.high) : stage === PULLS.high ? DRIVE.off : DRIVE.low;
  }
  return drives;
}

/** Whether two rows of states, equally long, are the same. */
export function sameStates(a: Uint8Array, b: Uint8Array): boolean {
  if (a === b) return true;
  for (let i = 0; i < a.length; i += 1) if (a[i] !== b[i]) return false;
  return true;
}

/** Volts from where an input stands to where it would see another level; none where it hangs on what it saw before. */
function wayToThreshold({ family }: ChipLogic, schmitt: boolean, volt: number, supply: number): number {
  const scale = family.thresholdVolt === undefined ? supply : 1;
  if (!schmitt) return Math.abs(volt - (family.thresholdVolt ?? (family.thresholdShare ?? 0.5) * supply));
  const [rise, fall] = [family.schmittRise * scale, family.schmittFall * scale];
  return volt > rise ? volt - rise : volt < fall ? fall - volt : 0;
}

/** The level an input of this family sees. was: what it saw before, which a Schmitt input keeps between its thresholds. */
function levelOf({ family }: ChipLogic, schmitt: boolean, volt: number, supply: number, was: Level): Level {
  const scale = family.thresholdVolt === undefined ? supply : 1;
  const threshold = family.thresholdVolt ?? (family.thresholdShare ?? 0.5) * supply;
  if (!schmitt) return volt > threshold ? HIGH : LOW;
  const [rise, fall] = [family.schmittRise * scale, family.schmittFall * scale];
  if (volt > rise) return HIGH;
  if (volt < fall) return LOW;
  return was === HIGH || was === LOW ? was : volt > threshold ? HIGH : LOW;
}
