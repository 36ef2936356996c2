import { z } from 'zod';
import { nameKey } from './nets';
import type { Board, NamedSetup } from './schema';

/**
 * The states that every board has: `unloaded` is `on` with every part unplugged whose role starts
 * with "load".
 */
export const COMMON_SETUPS = ['on', 'off', 'unloaded'] as const;

/**
 * The state a board is put in before measuring: one of the common ones, or one that the board names
 * itself.
 */
export const Setup = z.string().regex(/^[a-z][a-z0-9-]{0,39}$/);
export type Setup = z.infer<typeof Setup>;
export type PowerState = 'on' | 'off';

/** Whether a board in this setup is powered: all but `off` are. */
export function powerOf(setup: Setup): PowerState {
  return setup === 'off' ? 'off' : 'on';
}

/** The names of the setups a board can be put in. */
export function setupNames(board: Board): readonly string[] {
  return [...COMMON_SETUPS, ...(board.setups ?? []).map(({ name }) => name)];
}

/** What is different in a setup that the board names itself; undefined for the common ones. */
export function namedSetup(board: Board, setup: Setup): NamedSetup | undefined {
  return board.setups?.find(({ name }) => nameKey(name) === nameKey(setup));
}
