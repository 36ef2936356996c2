import { and, choose, HIGH, LOW, not, or, PULSE, UNKNOWN, xor, type Level } from './level';

/** Levels of everything a chip's function speaks of, one slot a name. */
export type Slots = Uint8Array;
export type Evaluate = (slots: Slots) => Level;

/**
 * Thrown at compile time for a function text that cannot be read: a mistake in the library, not in
 * a board.
 */
export class FunctionTextError extends Error {}

/**
 * Compiles a Boolean expression of names, 0, 1, `pulse`, `unknown` (a matter of a program that
 * nobody here knows), `!`, `&`, `^`, `|`, `a ? b : c` and brackets (binding in that order, tightest
 * first).
 * slotOf: where the level of a name stands; throws FunctionTextError for a name that it does not
 * know.
 */
export function compileExpression(text: string, slotOf: (name: string) => number): Evaluate {
  const tokens = text.match(/[A-Za-z_][A-Za-z0-9_]*|[01]|[!&^|?:()]/g) ?? [];
  if (tokens.join('') !== text.replace(/\s+/g, ''))
    throw new FunctionTextError(`cannot read "${text}"`);
  let at = 0;
  const expect = (token: string): void => {
    if (tokens[at++] !== token) throw new FunctionTextError(`expected "${token}" in "${text}"`);
  };

  function primary(): Evaluate {
    const token = tokens[at++];
    if (token === '!') {
      const inner = primary();
      return (s) => not(inner(s));
    }
    if (token === '(') {
      const inner = conditional();
      expect(')');
      return inner;
    }
    if (token === '0') return () => LOW;
    if (token === '1') return () => HIGH;
    if (token === 'pulse') return () => PULSE;
    if (token === 'unknown') return () => UNKNOWN;
    if (token === undefined || !/^[A-Za-z_]/.test(token))
      throw new FunctionTextError(`"${text}" ends too early or has "${token ?? ''}" out of place`);
    const slot = slotOf(token);
    return (s) => s[slot] as Level;
  }

  function chain(
    operator: string,
    apply: (a: Level, b: Level) => Level,
    tighter: () => Evaluate,
  ): () => Evaluate {
    return () => {
      let left = tighter();
      while (tokens[at] === operator) {
        at += 1;
        const [a, b] = [left, tighter()];
        left = (s) => apply(a(s), b(s));
      }
      return left;
    };
  }
  const alternatives = chain('|', or, chain('^', xor, chain('&', and, primary)));

  function conditional(): Evaluate {
    const select = alternatives();
    if (tokens[at] !== '?') return select;
    at += 1;
    const yes = conditional();
    expect(':');
    const no = conditional();
    return (s) => choose(select(s), yes(s), no(s));
  }

  const result = conditional();
  if (at !== tokens.length)
    throw new FunctionTextError(`"${tokens[at]}" out of place in "${text}"`);
  return result;
}
