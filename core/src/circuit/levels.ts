import type { ChipLogic } from '../device';
import { HIGH, LOW, PULSE, UNKNOWN, type Level } from '../logic';
import { drivenNodes } from './driven-nodes';
import { DRIVE, type LogicStamp, type Network } from './network';
import { across } from './operating-point';
import { oncePer } from '../once-per';

/** What a driver does: a level, or OFF. */
export const OFF = 4;
export type Driven = Level | typeof OFF;

/** The drivers that hang on each node, kept with the chips they come from. */
export const driversByNode = oncePer(
  ({ chips }: Network): ReadonlyMap<number, readonly number[]> => {
    const map = new Map<number, number[]>();
    for (const { outputs } of chips)
      for (const { node, driver } of outputs) push(map, node, driver);
    return map;
  },
  ({ chips }) => chips,
);

/** The chip inputs that look at each node, kept with the chips. */
export const readersByNode = oncePer(
  ({
    chips,
  }: Network): ReadonlyMap<number, readonly (readonly [chip: number, input: number])[]> => {
    const map = new Map<number, (readonly [number, number])[]>();
    chips.forEach(({ inputs }, chip) =>
      inputs.forEach(({ node }, input) => push(map, node, [chip, input] as const)),
    );
    return map;
  },
  ({ chips }) => chips,
);

/**
 * What each driver's stage can do, by the driver's number: pull both ways, low only or high only.
 */
const PULLS = { none: 0, both: 1, low: 2, high: 3 } as const;

const pullsByDriver = oncePer(
  ({ chips, drivers }: Network) => {
    const pulls = new Uint8Array(drivers.length);
    for (const { logic, outputs } of chips)
      for (let i = 0; i < outputs.length; i += 1)
        pulls[outputs[i]!.driver] = PULLS[logic.outputs[i]!.pulls];
    return pulls;
  },
  ({ chips }) => chips,
);

/** A test whether a node has its level from somewhere, worked out when first asked. */
export function holdTest(network: Network, drives: Uint8Array): (node: number) => boolean {
  let held: Uint8Array | undefined;
  return (node) => node < 0 || (held ??= drivenNodes(network, drives))[node] === 1;
}

export function isPowered(
  { logic, supply, ground }: LogicStamp,
  phases: readonly Float64Array[],
): boolean {
  return (
    !logic.dead &&
    (!logic.needsSupply ||
      phases.every((x) => across(x, supply, ground) >= logic.family.supplyLeastVolt))
  );
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
  if (against === undefined && chip.logic.family.input.type === 'mos' && !isHeld(node))
    return UNKNOWN;
  const level = (phase: number): Level => {
    const x = phases[phase]!;
    if (against !== undefined) return across(x, node, against) > 0 ? HIGH : LOW;
    return levelOf(
      chip.logic,
      input.schmitt,
      across(x, node, chip.ground),
      across(x, chip.supply, chip.ground),
      phases.length > 1 ? (phase as Level) : was,
    );
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
export function drivenLevel(
  { pulls, stuck }: { pulls: 'both' | 'low' | 'high'; stuck?: Level | undefined },
  level: Level,
  enable: Level,
): Driven {
  const wanted: Driven = stuck ?? (enable === LOW ? OFF : enable === HIGH ? level : enable);
  if ((pulls === 'low' && wanted === HIGH) || (pulls === 'high' && wanted === LOW)) return OFF;
  return wanted;
}

/**
 * States of all drivers in a phase: what pulses or is not known is low in the first and high in the
 * second.
 */
export function driveStates(network: Network, driven: Uint8Array, phase: 0 | 1): Uint8Array {
  const pulls = pullsByDriver(network);
  const drives = new Uint8Array(pulls.length);
  for (let driver = 0; driver < pulls.length; driver += 1) {
    const level = driven[driver]!;
    const stage = pulls[driver]!;
    if (level === OFF || stage === PULLS.none) continue;
    const high = level === HIGH || (level !== LOW && phase === HIGH);
    drives[driver] = high
      ? stage === PULLS.low
        ? DRIVE.off
        : DRIVE.high
      : stage === PULLS.high
        ? DRIVE.off
        : DRIVE.low;
  }
  return drives;
}

/** In how many places two rows of states, equally long, are not the same; counted up to `most`. */
export function differing(one: Uint8Array, other: Uint8Array, most = Infinity): number {
  let count = 0;
  for (let i = 0; one !== other && i < one.length && count < most; i += 1)
    if (one[i] !== other[i]) count += 1;
  return count;
}

/** Whether two rows of states, equally long, are the same. */
export function sameStates(one: Uint8Array, other: Uint8Array): boolean {
  return differing(one, other, 1) === 0;
}

/**
 * Where an input of this family turns, volt: a plain one at its threshold, a Schmitt input at one
 * of two.
 */
function thresholds(
  { family }: ChipLogic,
  supply: number,
): { readonly plain: number; readonly rise: number; readonly fall: number } {
  const scale = family.thresholdVolt === undefined ? supply : 1;
  const plain = family.thresholdVolt ?? (family.thresholdShare ?? 0.5) * supply;
  return { plain, rise: family.schmittRise * scale, fall: family.schmittFall * scale };
}

/**
 * Volts from where an input stands to where it would see another level; none where it hangs on what
 * it saw before.
 */
export function wayToThreshold(
  logic: ChipLogic,
  schmitt: boolean,
  volt: number,
  supply: number,
): number {
  const { plain, rise, fall } = thresholds(logic, supply);
  if (!schmitt) return Math.abs(volt - plain);
  return volt > rise ? volt - rise : volt < fall ? fall - volt : 0;
}

/**
 * How near a bipolar input comes to the level it floats at when nothing else is on its net, volt.
 */
const FLOATS_WITHIN_VOLT = 0.06;

/**
 * Whether a bipolar input is left to itself: it then counts as 1, with hysteresis too, whatever it
 * saw before.
 */
function floats({ family }: ChipLogic, volt: number): boolean {
  return (
    family.input.type === 'ttl' && Math.abs(volt - family.input.floatVolt) < FLOATS_WITHIN_VOLT
  );
}

/**
 * The level an input of this family sees. was: what it saw before, which a Schmitt input keeps
 * between its thresholds.
 */
function levelOf(
  logic: ChipLogic,
  schmitt: boolean,
  volt: number,
  supply: number,
  was: Level,
): Level {
  const { plain, rise, fall } = thresholds(logic, supply);
  if (!schmitt) return volt > plain ? HIGH : LOW;
  if (volt > rise) return HIGH;
  if (volt < fall) return LOW;
  if (floats(logic, volt)) return HIGH;
  return was === HIGH || was === LOW ? was : volt > plain ? HIGH : LOW;
}
