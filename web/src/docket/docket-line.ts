import { z } from 'zod';
import { CaseSummary, DocketTimer } from '../case/summary';

/** One line of the docket. */
export const DocketLine = CaseSummary.pick({
  pads: true,
  nextAction: true,
  nextStage: true,
  minutes: true,
  pausedAt: true,
}).extend({
  number: z.number().int(),
  title: z.string(),
  owner: z.string(),
  batch: z.string(),
  openedAt: z.string(),
  promisedOn: z.string().nullable(),
  waitsFor: z.string(),
  waitsKind: z.string(),
  /** What came of it, and where it lies; empty: nothing yet. */
  arrived: z.string(),
  state: z.enum(['open', 'waiting', 'closed']),
  /** Promised for a day that is over. */
  late: z.boolean(),
  /** Why it stands where it stands. */
  reason: z.string(),
});
export type DocketLine = z.infer<typeof DocketLine>;

/** A timer that runs by itself, with its case. */
export const RunningTimer = DocketTimer.extend({
  number: z.number().int(),
  due: z.boolean(),
});
export type RunningTimer = z.infer<typeof RunningTimer>;

/** A page of the docket, the most urgent first. */
export const DocketPage = z.object({
  lines: z.array(DocketLine),
  /** Cases that were found, and all that there are. */
  found: z.number().int(),
  total: z.number().int(),
  timers: z.array(RunningTimer),
  /** When it was put together. */
  now: z.string(),
});
export type DocketPage = z.infer<typeof DocketPage>;
