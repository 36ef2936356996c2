import type { ChipModel } from '@hanzai/core/board';

/** One gate of a package: what it does to its inputs, with the places of its pins from 0. */
export interface Gate {
  /** The sign in its symbol: `&`, `≥1`, `=1`, `1`; a step for one with hysteresis. */
  readonly sign: string;
  readonly inverted: boolean;
  readonly hysteresis: boolean;
  readonly inputs: readonly number[];
  readonly output: number;
}

const STATEMENT = /^\s*(\w+)\s*=\s*(!?)\s*\(?\s*(\w+(?:\s*[&|^]\s*\w+)*)\s*\)?\s*$/;
const SIGNS: Readonly<Record<string, string>> = { '&': '&', '|': '≥1', '^': '=1' };

/**
 * The gates that a chip consists of; undefined where it is anything but gates that have nothing in
 * common. Signs: IEC 60617-12, from memory.
 */
export function gatesOf({
  function: statements,
  pins,
  blackBox,
}: ChipModel): readonly Gate[] | undefined {
  if (blackBox || statements.length === 0) return undefined;
  const place = new Map(pins.map(({ name }, i) => [name, i]));
  const gates: Gate[] = [];
  for (const text of statements) {
    const [, out, not, terms] = STATEMENT.exec(text) ?? [];
    const output = place.get(out ?? '');
    if (output === undefined || terms === undefined) return undefined;
    const signs = new Set(terms.match(/[&|^]/g) ?? []);
    const inputs = terms.split(/[&|^]/).map((name) => place.get(name.trim()));
    if (signs.size > 1 || inputs.some((input) => input === undefined)) return undefined;
    const [sign] = signs;
    // `!A & B` negates one input and not the whole: no plain gate.
    if (not && signs.size > 0 && !text.includes('(')) return undefined;
    gates.push({
      sign: sign ? SIGNS[sign]! : '1',
      inverted: not === '!',
      hysteresis: inputs.some((input) => pins[input!]!.schmitt === true),
      inputs: inputs as number[],
      output,
    });
  }
  const outputs = new Set(gates.map(({ output }) => output));
  const used = gates.flatMap(({ inputs }) => inputs);
  // An input that several gates share, or that another's output feeds, belongs to one symbol.
  return used.some((input) => outputs.has(input)) || new Set(used).size !== used.length
    ? undefined
    : gates;
}
