import { benchMinutes } from '@hanzai/core/bench';
import type { BoardIndex } from '@hanzai/core/board';
import type { UnitModel } from '@hanzai/core/block';
import { Lesson } from '@hanzai/core/learn';
import { z } from 'zod';
import { boardValue } from './board-value';
import { caseFigures, CaseFigures } from './case-figures';
import { isTimerDue, playJournal, timerEnd, type Journal } from './journal';
import type { Entry } from './entry';
import { lessonOf } from './lesson';
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
  /** Parts that are off or condemned, with nothing on in their place: what the sheet says they are. */
  needs: z.array(z.object({ ref: z.string(), text: z.string() })).default([]),
  /** The day on which somebody asks how it runs; null where nobody has to. */
  followUpOn: z.string().nullable().default(null),
  /** What it teaches, once it is closed; null where it teaches nothing. */
  lesson: Lesson.nullable().default(null),
  /** What it gives to the shop's own figures, once it is closed. */
  figures: CaseFigures.nullable().default(null),
});
export type CaseSummary = z.infer<typeof CaseSummary>;

/** Makes the summary of a case. Solves circuits where something is to be proven. */
export function summaryOf(
  entries: readonly Entry[],
  index: BoardIndex | undefined,
  model?: UnitModel,
): CaseSummary {
  const journal = playJournal(entries, index);
  const { pads, nextAction, nextStage, minutesToGo, proven } = caseProgress(index, journal);
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
    needs: needsOf(journal, index),
    followUpOn: journal.followUpOn ?? null,
    lesson: lessonOf(journal, index, model, proven) ?? null,
    figures: caseFigures(entries, journal, index) ?? null,
  };
}

function needsOf(journal: Journal, index: BoardIndex | undefined): CaseSummary['needs'] {
  if (journal.closed || journal.decision?.body.course === 'give-up') return [];
  const untouched = journal.condemned
    .map(({ body }) => body.ref)
    .filter((ref) => !journal.ledger.some((line) => line.ref === ref && line.action === 'fitted'));
  return [...new Set([...journal.missing, ...untouched])].flatMap((ref) => {
    const [part] = index?.replaceable.get(ref) ?? [];
    const kind = part?.kind === 'capacitor' ? (part.dielectric ?? '') : '';
    const text = index
      ? [boardValue(index, ref), kind].filter(Boolean).join(' ')
      : (journal.ledger.findLast((line) => line.ref === ref && line.action === 'removed')?.value ??
        '');
    return text === '' ? [] : [{ ref, text }];
  });
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
