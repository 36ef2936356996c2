import { z } from 'zod';
import { wholeCharacters } from '../case/wording';

/** The number that a text means: a comma is a point. NaN where it means none. */
function numberOf(text: string): number {
  const written = text.trim().replace(',', '.');
  return /^[-+]?(\d+\.?\d*|\.\d+)$/.test(written) ? Number(written) : Number.NaN;
}

interface NumberRule {
  readonly fits: (value: number) => boolean;
  /** What a text that does not fit is, and what was expected: `no time; expected seconds such as 4`. */
  readonly words: string;
}

/** A number as it is typed. */
export function typedNumber({ fits, words }: NumberRule) {
  return z.string().transform((text, context) => {
    const value = numberOf(text);
    if (fits(value)) return value;
    context.addIssue(`“${text}” is ${words}`);
    return z.NEVER;
  });
}

/** A number that may be left out: undefined then. */
export function maybeNumber(rule: NumberRule) {
  const needed = typedNumber(rule);
  return z.string().transform((text, context) => {
    if (text.trim() === '') return undefined;
    const { data, error } = needed.safeParse(text);
    if (error) context.addIssue(error.issues[0]!.message);
    return data;
  });
}

/** Words that have to be there. need: what is asked for where there are none. */
export function typedWords(most: number, need: string, least = 1) {
  return z
    .string()
    .transform((text) => wholeCharacters(text.trim(), most))
    .refine((text) => text.length >= least, need);
}

/** Words that may be left out: an empty text then. */
export function maybeWords(most: number) {
  return z.string().transform((text) => wholeCharacters(text.trim(), most));
}

/** One of a few that have to be chosen among; undefined until one is. need: what is asked for then. */
export function chosen<T extends string>(values: readonly T[], need: string) {
  return z
    .enum(values)
    .optional()
    .transform((value, context) => {
      if (value !== undefined) return value;
      context.addIssue(need);
      return z.NEVER;
    });
}

/** Fits a number above `over` and up to `most`. */
export const within =
  (over: number, most: number) =>
  (value: number): boolean =>
    value > over && value <= most;

/** Fits a whole number from `least` to `most`. */
export const countWithin =
  (least: number, most: number) =>
  (value: number): boolean =>
    Number.isInteger(value) && value >= least && value <= most;
