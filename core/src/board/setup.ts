import { z } from 'zod';

/** The state a board is put in before measuring. `unloaded` is `on` with every part unplugged whose role starts with "load". */
export const Setup = z.enum(['on', 'off', 'unloaded']);
export type Setup = z.infer<typeof Setup>;
export type PowerState = 'on' | 'off';
