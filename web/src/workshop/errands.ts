import { z } from 'zod';

/** Work too long for a request: the whole workshop as one archive, and one taken in. */
export const ErrandKind = z.enum(['archive', 'take-in']);
export type ErrandKind = z.infer<typeof ErrandKind>;

/** coming: its file is still being sent. waiting: nobody began yet, or who did is gone. */
export const ErrandState = z.enum(['coming', 'waiting', 'working', 'done', 'failed', 'stopped']);
export type ErrandState = z.infer<typeof ErrandState>;

export const Errand = z.object({
  id: z.uuid(),
  what: ErrandKind,
  state: ErrandState,
  name: z.string(),
  askedBy: z.string(),
  askedAt: z.iso.datetime(),
  bytes: z.number(),
  worked: z.number(),
  said: z.string(),
});
export type Errand = z.infer<typeof Errand>;

/** Whether something may still happen to it. */
export const goesOn = ({ state }: Pick<Errand, 'state'>): boolean =>
  state === 'coming' || state === 'waiting' || state === 'working';
