import { GROUND, indexBoard, nameKey, type BoardIndex, type Part } from '../board';

/** How many guesses at what hangs on the edges of a sheet stand for all of them. */
const GUESSES = 7;
/** Range of ohms that a guess draws from, evenly on a log scale, and the share of edges that carry nothing. From memory of bench practice. */
const EDGE_OHM = { low: 100, high: 1e6 } as const;
const NOTHING_SHARE = 0.3;

/** The board with what may hang on the edges of its sheet: first with nothing there, then with guesses at unknown loads to ground or to the highest supply.
 *  Averaging over them integrates the unknown circuit out. A board without edges comes back alone. Guesses repeat: they come from a fixed sequence. */
export function edgeVariants(index: BoardIndex): readonly BoardIndex[] {
  const edges = (index.board.edges ?? []).filter(({ net }) => index.netByKey.has(nameKey(net)));
  if (edges.length === 0) return [index];
  const supply = index.board.parts.reduce<{ volt: number; net: string } | undefined>((best, part) => (part.kind === 'voltageSource' && part.volt > (best?.volt ?? 0) ? { volt: part.volt, net: part.pins[0]! } : best), undefined); // prettier-ignore
  const guesses = Array.from({ length: GUESSES }, (_, guess) => {
    const loads = edges.flatMap(({ net }, i): Part[] => {
      const [there, size, side] = [sequence(3 * i, guess), sequence(3 * i + 1, guess), sequence(3 * i + 2, guess)];
      if (there < NOTHING_SHARE) return [];
      const resistanceOhm = EDGE_OHM.low * (EDGE_OHM.high / EDGE_OHM.low) ** size;
      const to = side < 0.5 || !supply ? GROUND : supply.net;
      return [{ kind: 'resistor', ref: `edge#${net}`, pins: [net, to], resistanceOhm, tolerance: 0.5 }];
    });
    return indexBoard({ ...index.board, parts: [...index.board.parts, ...loads] });
  });
  return [index, ...guesses];
}

/** The guess-th number of a low-discrepancy sequence for a dimension, 0 to 1. Source: the additive recurrence of the golden ratio, shifted by dimension. */
function sequence(dimension: number, guess: number): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  return (0.5 + (guess + 1) * golden + dimension * Math.SQRT2) % 1;
}
