import { parseArgs, type ParseArgsConfig } from 'node:util';

/** A mistake in how the command was called: exit status 2. */
export class UsageError extends Error {}
/** A file or a name that could not be used: exit status 1. */
export class InputError extends Error {}

export interface Arguments {
  readonly positionals: readonly string[];
  readonly text: (name: string) => string | undefined;
  readonly list: (name: string) => readonly string[];
  readonly flag: (name: string) => boolean;
}

/** Splits the words after a verb. options: text options (may repeat) and flags, without dashes. */
export function readArguments(
  words: readonly string[],
  texts: readonly string[],
  flags: readonly string[] = [],
): Arguments {
  const options: ParseArgsConfig['options'] = {};
  for (const name of texts) options[name] = { type: 'string', multiple: true };
  for (const name of ['json', ...flags]) options[name] = { type: 'boolean' };
  try {
    const { values, positionals } = parseArgs({
      args: [...words],
      options,
      allowPositionals: true,
      strict: true,
    });
    const list = (name: string): readonly string[] => (values[name] as string[] | undefined) ?? [];
    return {
      positionals,
      text: (name) => list(name).at(-1),
      list,
      flag: (name) => values[name] === true,
    };
  } catch (error) {
    throw new UsageError((error as Error).message);
  }
}
