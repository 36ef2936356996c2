import { z } from 'zod';

/** The state a board is put in before measuring. `unloaded` is `on` with every part unplugged whose role starts with "load". */
export const Setup = z.enum(['on', 'off', 'unloaded']);
export type Setup = z.infer<typeof Setup>;
export type PowerState = 'on' | 'off';

export const SETUPS: readonly Setup[] = Setup.options;

const WORDS: Readonly<Record<Setup, string>> = {
  on: 'powered, everything plugged in',
  off: 'unplugged, stores discharged',
  unloaded: 'powered, loads unplugged',
};

/** A setup in words. */
export function describeSetup(setup: Setup): string {
  return WORDS[setup];
}
