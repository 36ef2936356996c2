import type { BoardIndex, Part } from '../board';
import { buildNetwork, settle, toleranceSpread, type NoOperatingPoint } from '../circuit';
import { stateElements, type BoardState } from '../fault';
import type { Measurement } from './measurement';
import type { Response } from './response';

/** Full scales, ampere. */
const RANGES = [0.4e-3, 4e-3, 40e-3, 0.4, 4, 40] as const;

/** Amperes through the two-pin part of a measurement, the ammeter being put in series with its first pin (no burden). */
export function ammeter(index: BoardIndex, state: BoardState, m: Measurement): Response | NoOperatingPoint {
  const pin = m.at.pin!;
  const net = pin.part.pins[0]!;
  const inner = `${pin.part.ref}#ammeter`;
  const cut = stateElements(index, state, (part) => (part === pin.part ? ({ ...part, pins: [inner, ...part.pins.slice(1)] } as Part) : part));
  const network = buildNetwork([...cut, { type: 'branch', a: net, b: inner, volt: 0, ohm: 0 }], index.nets);
  const result = settle(network);
  if (!result.ok) return result;
  const row = network.branches.find((branch) => branch.element.type === 'branch' && branch.element.b === inner)!.row;
  const x = result.phases.at(-1)!;
  const adjoint = new Float64Array(network.size);
  adjoint[row] = 1;
  network.lu.solveTransposed(adjoint, adjoint);
  const value = result.phases.reduce((sum, phase) => sum + phase[row]!, 0) / result.phases.length;
  const fullScale = RANGES.find((range) => Math.abs(value) <= range) ?? RANGES.at(-1)!;
  return { value, spread: toleranceSpread(network, x, adjoint, false, result.drives.at(-1)), fullScale };
}
