/**
 * What a figure is measured in. Electrical ones as `Unit` of quantity; the others in the size that
 * the trade writes them in: seconds, watts, millimetres, degrees Celsius, per cent; n is a count.
 */
export type FigureUnit =
  | ''
  | 'ohm'
  | 'V'
  | 'A'
  | 'F'
  | 'H'
  | 'Hz'
  | 's'
  | 'W'
  | 'mm'
  | 'degC'
  | '%'
  | 'J'
  | 'A2s'
  | 'rpm'
  | 'h'
  | 'dB'
  | 'n';

/** A number that is typed in bench notation: `4k7`, `.03`, `3V3 5%`. */
export interface FigureField {
  readonly kind: 'figure';
  readonly name: string;
  readonly label: string;
  readonly unit: FigureUnit;
  /** What stands in it at first; empty for one that may be left out. */
  readonly example: string;
  readonly optional?: true;
  readonly least?: number;
  readonly most?: number;
  /** A count: no decimals, no tolerance. */
  readonly whole?: true;
}
/** Several numbers, with blanks or commas between them. */
export interface ListField {
  readonly kind: 'list';
  readonly name: string;
  readonly label: string;
  readonly unit: FigureUnit;
  readonly example: string;
}
export interface WordsField {
  readonly kind: 'words';
  readonly name: string;
  readonly label: string;
  readonly example: string;
  readonly optional?: true;
  /** Several lines. */
  readonly lines?: true;
}
export interface ChoiceField {
  readonly kind: 'choice';
  readonly name: string;
  readonly label: string;
  readonly choices: readonly { readonly value: string; readonly words: string }[];
  readonly example: string;
}
export type Field = FigureField | ListField | WordsField | ChoiceField;

/** What was typed, read. A figure that was left out is undefined. */
export interface Values {
  readonly figure: (name: string) => number;
  readonly maybe: (name: string) => number | undefined;
  readonly list: (name: string) => readonly number[];
  readonly words: (name: string) => string;
}

/** One line of the answer: a number, or words. */
export type Result =
  | {
      readonly name: string;
      readonly label: string;
      readonly value: number;
      readonly unit: FigureUnit;
    }
  | { readonly name: string; readonly label: string; readonly text: string };

/** Thrown where what was typed has no answer; the words say what is expected. */
export class NoAnswer extends Error {}

export const GROUPS = {
  codes: 'Codes and values',
  networks: 'Networks and time',
  parts: 'Parts',
  logic: 'Logic and buses',
  power: 'Supply and safety',
  copper: 'Wire and copper',
  chance: 'Chance and proof',
  drive: 'Belts, speed, disks',
  bench: 'Bench',
} as const;
export type Group = keyof typeof GROUPS;

/** One calculator: what it asks, what it answers, and where its formula is from. */
export interface Calculator {
  readonly name: string;
  readonly title: string;
  readonly group: Group;
  readonly formula: string;
  readonly source: string;
  /** What of it can hurt somebody. */
  readonly caution?: string;
  readonly fields: readonly Field[];
  readonly reckon: (values: Values) => readonly Result[];
  /** The answer as a sentence. */
  readonly say: (values: Values, results: Found) => string;
}

/** Results by name, as words and as numbers. */
export interface Found {
  readonly text: (name: string) => string;
  readonly value: (name: string) => number;
}

export const number = (
  name: string,
  label: string,
  value: number,
  unit: FigureUnit = '',
): Result => ({ name, label, value, unit });
export const text = (name: string, label: string, words: string): Result => ({
  name,
  label,
  text: words,
});
export const figure = (
  name: string,
  label: string,
  unit: FigureUnit,
  example: string,
  more: Partial<FigureField> = {},
): FigureField => ({ kind: 'figure', name, label, unit, example, ...more });
export const count = (
  name: string,
  label: string,
  example: string,
  more: Partial<FigureField> = {},
): FigureField => ({
  kind: 'figure',
  name,
  label,
  unit: '',
  example,
  whole: true,
  least: 0,
  ...more,
});
export const choice = (
  name: string,
  label: string,
  choices: readonly (readonly [value: string, words: string])[],
  example = choices[0]![0],
): ChoiceField => ({
  kind: 'choice',
  name,
  label,
  choices: choices.map(([value, words]) => ({ value, words })),
  example,
});
