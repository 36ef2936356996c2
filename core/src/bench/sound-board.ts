import { GROUND, nameKey, type BoardIndex, type Part } from '../board';
import { BenchState } from '../instrument';
import { oncePer } from '../once-per';

/**
 * Volts of every net of the good board with the power on, by the net's own name; null where nothing
 * holds it, none at all where the board has no solution. Solved once a board.
 */
export const soundVolts = oncePer((index: BoardIndex): Readonly<Record<string, number | null>> => {
  const on = new BenchState(index, { setup: 'on', faults: [], absent: [] }).netVolts();
  return 'ok' in on ? {} : (on as Record<string, number | null>);
});

/** Volts of one net as a part's pin writes it; null where they are not known. */
export function soundVolt(index: BoardIndex, written: string): number | null {
  return nameKey(written) === GROUND
    ? 0
    : (soundVolts(index)[index.netByKey.get(nameKey(written))!] ?? null);
}

/** Volts across the first two pins of a part; undefined where they are not known. */
export function workingVolt(index: BoardIndex, part: Part): number | undefined {
  const [a, b] = part.pins.slice(0, 2).map((net) => soundVolt(index, net));
  return typeof a === 'number' && typeof b === 'number' ? Math.abs(a - b) : undefined;
}
