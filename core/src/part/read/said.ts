import type { SpecKind, SpecOf } from '../spec';

/** What a reader makes of words, beside what every part may say. */
export type Fields<K extends SpecKind> = Omit<
  SpecOf<K>,
  'kind' | 'text' | 'size' | 'celsius' | 'lifeHours'
>;
/** Reads what one kind's words say. */
export type Reader<K extends SpecKind> = (text: string) => Fields<K>;

/** An object without what is undefined: what was not said is not there. */
export function said<T extends object>(fields: { readonly [P in keyof T]: T[P] | undefined }): T {
  return Object.fromEntries(Object.entries(fields).filter(([, value]) => value !== undefined)) as T;
}
export const flag = (is: boolean): true | undefined => (is ? true : undefined);
/** The first of several words that fits, by what it means. */
export function meant<T>(text: string, words: readonly (readonly [RegExp, T])[]): T | undefined {
  return words.find(([pattern]) => pattern.test(text))?.[1];
}
