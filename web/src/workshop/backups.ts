import { z } from 'zod';

/** Older than this the newest backup is called old: the schedule makes one a day. */
export const OLD_HOURS = 72;

export const Backups = z.object({
  /** Whether backups are made here at all. */
  isScheduled: z.boolean(),
  /** Pictures lie in a store of their own, and in no backup. */
  picturesElsewhere: z.boolean(),
  /** The newest first. */
  backups: z.array(
    z.object({ name: z.string(), madeAt: z.iso.datetime(), bytes: z.number().int() }),
  ),
  /** Whether the newest is too old, or there is none although there should be. */
  isOld: z.boolean(),
});
export type Backups = z.infer<typeof Backups>;
