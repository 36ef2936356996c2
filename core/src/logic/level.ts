/**
 * Levels inside a chip's function, as small numbers so that tables can be indexed: 0, 1, X (not
 * known) and P (pulsing). Z is a matter of nets: a chip's input sees a floating net as 1 (TTL) or X
 * (MOS).
 */
export const LOW = 0;
export const HIGH = 1;
export const UNKNOWN = 2;
export const PULSE = 3;
export type Level = 0 | 1 | 2 | 3;

/** The level as people write it. */
export const LEVEL_NAME = ['0', '1', 'X', 'P'] as const;

const NOT: readonly Level[] = [1, 0, 2, 3];
// Rows and columns in the order 0, 1, X, P. Two pulsing lines together are taken as pulsing: which
// of them is early is not known at the bench.
const AND: readonly (readonly Level[])[] = [
  [0, 0, 0, 0],
  [0, 1, 2, 3],
  [0, 2, 2, 2],
  [0, 3, 2, 3],
];
const XOR: readonly (readonly Level[])[] = [
  [0, 1, 2, 3],
  [1, 0, 2, 3],
  [2, 2, 2, 2],
  [3, 3, 2, 3],
];

/**
 * Three-valued logic with a fourth value for pulsing. Source of the three-valued part: Kleene,
 * Introduction to Metamathematics, 1952, section 64.
 */
export const not = (a: Level): Level => NOT[a]!;
export const and = (a: Level, b: Level): Level => AND[a]![b]!;
export const or = (a: Level, b: Level): Level => NOT[AND[NOT[a]!]![NOT[b]!]!]!;
export const xor = (a: Level, b: Level): Level => XOR[a]![b]!;
/** `select ? a : b`; an unknown select does not matter where both ways say the same. */
export function choose(select: Level, a: Level, b: Level): Level {
  if (select === HIGH) return a;
  if (select === LOW) return b;
  if (a === b) return a;
  return select === PULSE && a !== UNKNOWN && b !== UNKNOWN ? PULSE : UNKNOWN;
}
