import type { LowRankDifference } from './incremental/netlist-change';
import { conducts } from './characteristic-stamp';
import {
  BranchDevice,
  ConductanceDevice,
  JunctionDevice,
  characteristicDevice,
  TransistorDevice,
  type Device,
} from './device';

/** The devices that a circuit has more than another, with its drivers in these states. */
export function looseDevices(
  { conductances, branches, come }: LowRankDifference,
  drives: Uint8Array,
): Device[] {
  return [
    ...conductances.map(({ a, b, siemens }) => new ConductanceDevice(a, b, siemens)),
    ...branches.map(({ row, ohm, volt }) => new BranchDevice(row, ohm, volt)),
    ...come.junctions.map((stamp) => new JunctionDevice(stamp)),
    ...come.transistors.map((stamp) => new TransistorDevice(stamp)),
    ...come.characteristics
      .filter((stamp) => conducts(stamp, drives))
      .map((stamp) => characteristicDevice(stamp)),
  ];
}

/**
 * Where a search begins at each unknown. start: of a circuit's `size` unknowns, and of what nodes
 * beyond them it may know; any other node begins at the level of what a conductance joins it to.
 */
export function looseNodeStart(
  start: Float64Array,
  size: number,
  { conductances }: Pick<LowRankDifference, 'conductances'>,
): (unknown: number) => number {
  return (unknown) => {
    if (unknown < start.length) return start[unknown]!;
    const joint = conductances.find(
      ({ a, b }) => (a === unknown && b >= 0 && b < size) || (b === unknown && a >= 0 && a < size),
    );
    return joint ? start[joint.a === unknown ? joint.b : joint.a]! : 0;
  };
}
