import type { BoardIndex, Part } from '../board';
import { buildNetwork, solveMixedSignal, toleranceSpread, type NoOperatingPoint } from '../circuit';
import { stateElements, type BoardState } from '../fault';
import type { Measurement } from './measurement';
import type { Response } from './response';

/** Full scales, ampere. */
const RANGES = [0.4e-3, 4e-3, 40e-3, 0.4, 4, 40] as const;

/**
 * What an ammeter takes for itself at full scale, volt: between 0.2 and 0.5. Common practice, no
 * published source. The value that is predicted is without it, the band allows for it.
 */
const BURDEN_VOLT = 0.5;

/**
 * Amperes through the two-pin part of a measurement, the ammeter being put in series with its first
 * pin. The standard meter has no burden; the spread allows for that of a real one.
 */
export function ammeter(
  index: BoardIndex,
  state: BoardState,
  m: Measurement,
): Response | NoOperatingPoint {
  const pin = m.at.pin!;
  const net = pin.part.pins[0]!;
  const inner = `${pin.part.ref}#ammeter`;
  const cut = stateElements(index, state, (part) =>
    part === pin.part ? ({ ...part, pins: [inner, ...part.pins.slice(1)] } as Part) : part,
  );
  const network = buildNetwork(
    [...cut, { type: 'branch', a: net, b: inner, volt: 0, ohm: 0 }],
    index.nets,
  );
  const result = solveMixedSignal(network);
  if (!result.ok) return result;
  const row = network.branches.find(
    (branch) => branch.element.type === 'branch' && branch.element.b === inner,
  )!.row;
  const x = result.phases.at(-1)!;
  const adjoint = new Float64Array(network.size);
  adjoint[row] = 1;
  network.lu.solveTransposed(adjoint, adjoint);
  const value = result.phases.reduce((sum, phase) => sum + phase[row]!, 0) / result.phases.length;
  const fullScale = RANGES.find((range) => Math.abs(value) <= range) ?? RANGES.at(-1)!;
  // The adjoint at the meter's own row is what a volt in series with it takes off the current.
  const burden = (Math.abs(adjoint[row]!) * BURDEN_VOLT * Math.abs(value)) / fullScale;
  const spread = Math.hypot(
    toleranceSpread(network, x, adjoint, false, result.drives.at(-1)),
    burden / Math.sqrt(3),
  );
  return { value, spread, fullScale };
}
