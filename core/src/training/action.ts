import { z } from 'zod';
import { Setup } from '../board';
import { ReadingKind } from '../instrument';

/** What a colleague can be asked. */
export const Help = z.enum(['next', 'suspects', 'net', 'reading']);
export type Help = z.infer<typeof Help>;

/**
 * What costs minutes at the bench of an exercise, as it is kept: played again, it gives the same
 * session.
 */
export const Action = z.discriminatedUnion('do', [
  z.object({
    do: z.literal('take'),
    setup: Setup,
    kind: ReadingKind,
    at: z.string().max(80),
    to: z.string().max(80),
  }),
  /** Takes a part off, puts the same one back, or a good one in its place. */
  z.object({ do: z.literal('off'), ref: z.string().min(1).max(80) }),
  z.object({ do: z.literal('back'), ref: z.string().min(1).max(80) }),
  z.object({ do: z.literal('replace'), ref: z.string().min(1).max(80) }),
  /** Two of a kind change places, to see whether the fault goes with one of them. */
  z.object({
    do: z.literal('swap'),
    ref: z.string().min(1).max(80),
    with: z.string().min(1).max(80),
  }),
  /** Writes down how a trimmer stands, before it is touched. */
  z.object({ do: z.literal('mark'), ref: z.string().min(1).max(80) }),
  /** Touches the leads together and takes what they read off. */
  z.object({ do: z.literal('zero') }),
  /** Leaves it on. */
  z.object({ do: z.literal('wait'), minutes: z.number().int().min(1).max(60) }),
  /** Sprays a part cold; presses on one (empty: flexes the board) until it is let go. */
  z.object({ do: z.literal('chill'), ref: z.string().min(1).max(80) }),
  z.object({ do: z.literal('press'), ref: z.string().max(80) }),
  z.object({ do: z.literal('release') }),
  z.object({
    do: z.literal('help'),
    help: Help,
    net: z.string().max(80),
  }),
  /** Something that has to be held to was passed over; in words. */
  z.object({ do: z.literal('pass'), words: z.string().min(1).max(300) }),
]);
export type Action = z.infer<typeof Action>;

/** The small things that are done at a bench beside readings and the iron. */
export type Attention = Extract<
  Action,
  { do: 'swap' | 'mark' | 'zero' | 'wait' | 'chill' | 'press' | 'release' }
>;
