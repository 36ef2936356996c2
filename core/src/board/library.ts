import type { Part } from './schema';

/**
 * What the reader of a deck needs to know of the packages that a deck names: how many pins they
 * have and which part they are.
 */
export interface DeviceLibrary {
  /** The package of this name, or undefined. Names compare without regard to case. */
  readonly find: (
    name: string,
  ) => { readonly pins: number; readonly make: (ref: string, pins: string[]) => Part } | undefined;
  /** Some of the names, for messages. */
  readonly examples: readonly string[];
}

export const NO_LIBRARY: DeviceLibrary = { find: () => undefined, examples: [] };
