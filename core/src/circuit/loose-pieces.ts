import type { LooseDifference } from './beside/exchange';
import { isOpen } from './law-stamp';
import {
  BranchPiece,
  ConductancePiece,
  JunctionPiece,
  lawPiece,
  TransistorPiece,
  type Piece,
} from './piece';

/** The pieces that a circuit has more than another, with its drivers in these states. */
export function loosePieces(
  { conductances, branches, come }: LooseDifference,
  drives: Uint8Array,
): Piece[] {
  return [
    ...conductances.map(({ a, b, siemens }) => new ConductancePiece(a, b, siemens)),
    ...branches.map(({ row, ohm, volt }) => new BranchPiece(row, ohm, volt)),
    ...come.junctions.map((stamp) => new JunctionPiece(stamp)),
    ...come.transistors.map((stamp) => new TransistorPiece(stamp)),
    ...come.laws.filter((stamp) => isOpen(stamp, drives)).map((stamp) => lawPiece(stamp)),
  ];
}

/**
 * Where a search begins at each unknown. start: of a circuit's `size` unknowns, and of what nodes
 * beyond them it may know; any other node begins at the level of what a conductance joins it to.
 */
export function looseNodeStart(
  start: Float64Array,
  size: number,
  { conductances }: Pick<LooseDifference, 'conductances'>,
): (unknown: number) => number {
  return (unknown) => {
    if (unknown < start.length) return start[unknown]!;
    const joint = conductances.find(
      ({ a, b }) => (a === unknown && b >= 0 && b < size) || (b === unknown && a >= 0 && a < size),
    );
    return joint ? start[joint.a === unknown ? joint.b : joint.a]! : 0;
  };
}
