import { GROUND, indexBoard, nameKey, pinsOn, type BoardIndex, type Part } from '../board';

/**
 * How many guesses at what hangs on the edges of a sheet stand for all of them: fewer on large
 * boards, where each costs as much as the board as drawn.
 */
const GUESSES = { small: 12, large: 6, largeFromParts: 60 } as const;
/**
 * Range of ohms that guesses are spread over, evenly on a log scale, and every how many guesses an
 * edge carries nothing. From memory of bench practice.
 */
const EDGE_OHM = { low: 100, high: 1e6 } as const;
const NOTHING_EVERY = 4;

/** Each guess stands for the whole factor of e about it: its spread reaches to the next one. */
const GUESS_TOLERANCE = 2;

/**
 * The board with what may hang on the edges of its sheet: first with nothing there, then with
 * guesses at unknown loads to ground or to the highest supply.
 * Averaging over them integrates the unknown circuit out. A board without edges comes back alone.
 * Guesses repeat: they come from a fixed sequence.
 */
export function edgeVariants(index: BoardIndex): readonly BoardIndex[] {
  const edges = (index.board.edges ?? []).filter(({ net }) => index.netByKey.has(nameKey(net)));
  if (edges.length === 0) return [index];
  const highest = index.board.parts.reduce<{ volt: number; net: string } | undefined>(
    (best, part) =>
      part.kind === 'voltageSource' && part.volt > (best?.volt ?? 0)
        ? { volt: part.volt, net: part.pins[0]! }
        : best,
    undefined,
  )?.net;
  const supplies = new Map(edges.map(({ net }) => [net, railBeside(index, net) ?? highest]));
  const count = index.board.parts.length < GUESSES.largeFromParts ? GUESSES.small : GUESSES.large;
  const guesses = Array.from({ length: count }, (_, guess) => {
    const loads = edges.flatMap(({ net }, i): Part[] => {
      if ((guess + i) % NOTHING_EVERY === 0) return [];
      const resistanceOhm = EDGE_OHM.low * (EDGE_OHM.high / EDGE_OHM.low) ** spreadOut(i, guess);
      const to = (guess + i) % 2 === 1 ? GROUND : (supplies.get(net) ?? GROUND);
      return [
        {
          kind: 'resistor',
          ref: `edge#${net}`,
          pins: [net, to],
          resistanceOhm,
          tolerance: GUESS_TOLERANCE,
        },
      ];
    });
    return indexBoard({ ...index.board, parts: [...index.board.parts, ...loads] });
  });
  return [index, ...guesses];
}

/** A net with at least so many pins is a rail. */
const RAIL_PINS = 5;

/**
 * The rail that a pull-up or a clamp ties a net to: what hangs on the same line outside is fed by
 * the like of it. Undefined where nothing does.
 */
function railBeside(index: BoardIndex, net: string): string | undefined {
  const beside = pinsOn(index, net).flatMap(({ part }) =>
    part.pins.length === 2 ? part.pins : [],
  );
  const pinCount = (other: string): number => pinsOn(index, other).length;
  const rails = beside.filter(
    (other) =>
      nameKey(other) !== GROUND && nameKey(other) !== nameKey(net) && pinCount(other) >= RAIL_PINS,
  );
  return rails.sort((a, b) => pinCount(b) - pinCount(a))[0];
}

/**
 * The guess-th number for an edge, 0 to 1, spread out evenly. Source: the additive recurrence of
 * the golden ratio, shifted from edge to edge.
 */
function spreadOut(edge: number, guess: number): number {
  const golden = (Math.sqrt(5) - 1) / 2;
  return (0.5 + guess * golden + edge * Math.SQRT2) % 1;
}
