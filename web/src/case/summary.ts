import { benchMinutes } from '@hanzai/core/bench';
import type { BoardIndex } from '@hanzai/core/board';
import { z } from 'zod';
import { isTimerDue, playJournal, timerEnd, type Journal } from './journal';
import type { Entry } from './entry';
import { caseProgress } from './progress';

/** A running timer as the docket shows it. endsAt: null where daylight decides. */
export const DocketTimer = z.object({
  title: z.string(),
  what: z.string(),
  hours: z.number(),
  daylightHours: z.number(),
  endsAt: z.string().nullable(),
  /** Whether the daylight it asked for is reached; a clock's is told by `endsAt`. */
  daylightReached: z.boolean(),
});
export type DocketTimer = z.infer<typeof DocketTimer>;

/**
 * What the docket shows of a case's journal. It is kept with the case, renewed with every entry,
 * and can be made anew from the journal at any time.
 */
export const CaseSummary = z.object({
  closed: z.boolean(),
  lastEntryAt: z.string().nullable(),
  /** Bench minutes so far. */
  minutes: z.number().int(),
  /** Where work was left. */
  pausedAt: z.string().nullable(),
  timers: z.array(DocketTimer),
  pads: z.record(z.string(), z.enum(['hollow', 'half', 'filled', 'crossed'])),
  nextAction: z.string(),
  nextStage: z.string(),
  minutesToGo: z.number().int(),
});
export type CaseSummary = z.infer<typeof CaseSummary>;

/** Makes the summary of a case. Solves circuits where something is to be proven. */
export function summaryOf(entries: readonly Entry[], index: BoardIndex | undefined): CaseSummary {
  const journal = playJournal(entries, index);
  const { pads, nextAction, nextStage, minutesToGo } = caseProgress(index, journal);
  return {
    closed: journal.closed,
    lastEntryAt: entries.at(-1)?.madeAt ?? null,
    minutes: Math.round(benchMinutes(journal.moments)),
    pausedAt: journal.pausedAt?.body.where ?? null,
    timers: timersOf(journal),
    pads,
    nextAction,
    nextStage,
    minutesToGo,
  };
}

function timersOf(journal: Journal): DocketTimer[] {
  return journal.timers
    .filter(({ done }) => !done)
    .map((timer) => {
      const end = timerEnd(timer);
      const { what, title, hours } = timer.entry.body;
      return {
        title,
        what,
        hours,
        daylightHours: timer.daylightHours,
        endsAt: end === undefined ? null : new Date(end).toISOString(),
        daylightReached: end === undefined && isTimerDue(timer, 0),
      };
    });
}
