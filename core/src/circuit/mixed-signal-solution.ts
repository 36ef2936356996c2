import { PULSE, UNKNOWN, type Level, type Memory } from '../logic';
import { driversByNode, holdTest, isPowered, levelAt, OFF } from './levels';
import { fanOut } from './fan-out';
import type { Network } from './network';
import type { NearPoint } from './incremental/incremental-search';

/**
 * A board with chips at rest. `phases`: the operating point; two where something pulses or is not
 * known, with those drivers low in the first and high in the second.
 */
export interface MixedSignalSolution {
  readonly ok: true;
  readonly phases: readonly Float64Array[];
  /** States of the drivers in each phase. */
  readonly drives: readonly Uint8Array[];
  /** Level of each driver, in network order. */
  readonly driven: Uint8Array;
  /** Levels that the chips see at their inputs, chip by chip. */
  readonly seen: readonly Uint8Array[];
  readonly memories: readonly Memory[];
  /** Drivers that never came to rest. */
  readonly oscillating: ReadonlySet<number>;
  /**
   * The unknowns that are not, in some phase, where they are on the board beside which this was
   * found, among others; undefined: any may have moved.
   */
  readonly moved?: Int32Array | undefined;
  /** The phases as they were found beside that board; undefined those that were not. */
  readonly near?: readonly (NearPoint | undefined)[] | undefined;
}

/**
 * What the chips of a settled board hold in their registers when it is switched on anew at the
 * levels it has, and which have their supply.
 */
export interface FreshChips {
  readonly memories: readonly Memory[];
  readonly powered: readonly boolean[];
}

/** A node that moves less than this between the phases has its level all the same, volt. */
const UNCERTAIN_VOLT = 0.1;

/**
 * Whether nobody can say which level a node has: a chip drives it with a level that is not known,
 * or the level comes from such a chip through other parts.
 */
export function isUnknown(
  network: Network,
  { phases, driven }: MixedSignalSolution,
  node: number,
): boolean {
  const [low, high] = phases;
  if (
    node < 0 ||
    !low ||
    !high ||
    Math.abs(low[node]! - high[node]!) < UNCERTAIN_VOLT ||
    !driven.includes(UNKNOWN)
  )
    return false;
  const own = (driversByNode(network).get(node) ?? []).map((driver) => driven[driver]!);
  return !own.includes(PULSE) || own.includes(UNKNOWN);
}

/** A point as far as chips have to do with it. */
type SeenPoint = Pick<NearPoint, 'x' | 'moved'>;

/**
 * Whether every chip of a settled network would still see the same levels and have its supply, were
 * the circuit at these points instead of its own.
 */
export function seesTheSame(
  network: Network,
  { driven, seen, drives }: MixedSignalSolution,
  points: readonly SeenPoint[],
): boolean {
  const isHeld = holdTest(network, drives[0]!);
  const driversOf = driversByNode(network);
  const phases = points.map(({ x }) => x);
  for (const c of mayNotice(network, points) ?? network.chips.keys()) {
    const chip = network.chips[c]!;
    if (!isPowered(chip, phases)) {
      if (chip.outputs.some(({ driver }) => driven[driver] !== OFF)) return false;
    } else if (
      chip.inputs.some(
        (_, i) =>
          levelAt(driven, driversOf, phases, chip, i, seen[c]![i] as Level, isHeld) !== seen[c]![i],
      )
    )
      return false;
  }
  return true;
}

/** The chips that look at anything that has moved; undefined: any may. */
function mayNotice(
  network: Network,
  points: readonly SeenPoint[],
): ReadonlySet<number> | undefined {
  const { at } = fanOut(network);
  const chips = new Set<number>();
  for (const { moved } of points) {
    if (!moved) return undefined;
    for (const node of moved) for (const chip of at[node] ?? []) chips.add(chip);
  }
  return chips;
}
