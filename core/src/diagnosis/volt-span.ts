import type { BoardIndex } from '../board';

/** Width of the range of volts that can occur on a board: what "anything" means for a voltage. */
export function voltSpanOf({ board }: BoardIndex): number {
  const supplies = board.parts.map((part) =>
    part.kind === 'voltageSource' ? Math.abs(part.volt) : 0,
  );
  return Math.max(10, 2 * supplies.reduce((most, volt) => Math.max(most, volt), 0));
}
