import { checkBoard, type Board } from '@hanzai/core/board';
import { ReadingKind } from '@hanzai/core/instrument';
import { Action, ExerciseResult, HelpGiven, Level, type Debrief } from '@hanzai/core/training';
import { z } from 'zod';
import { Entry } from '../case/entry';

/** Readings of a closed case that is gone through once more, as they were written. */
const RealReading = z.object({
  setup: z.string().max(40),
  kind: ReadingKind,
  at: z.string().max(80),
  to: z.string().max(80),
  value: z.union([z.number(), z.string()]),
});
export type RealReading = z.infer<typeof RealReading>;

/** A closed case behind an exercise. */
export const ClosedSource = z.object({
  number: z.number().int(),
  parts: z.array(z.string().max(80)).max(40),
  readings: z.array(RealReading).max(2000),
  complaint: z.string().max(2000),
});
export type ClosedSource = z.infer<typeof ClosedSource>;

/**
 * Written and read by this browser alone: that it is one at all is enough. One of an earlier version
 * is worked out again.
 */
function isDebrief(value: unknown): boolean {
  const { moves, notes, score } = (value ?? {}) as Partial<Debrief>;
  return Array.isArray(moves) && Array.isArray(notes) && typeof score?.safety === 'number';
}

/** An exercise that was begun, as this browser keeps it: all that is needed to go on with it. */
export const PracticeRun = z.object({
  id: z.uuid(),
  startedAt: z.iso.datetime(),
  board: z.unknown().transform((value, context): Board => {
    const checked = checkBoard(value);
    if (checked.ok) return checked.value;
    context.addIssue({ code: 'custom', message: 'not a board sheet of this version' });
    return z.NEVER;
  }),
  seed: z.number().int().min(1),
  level: Level,
  within: z.string().max(80).default(''),
  help: HelpGiven,
  /** The title of the course it belongs to; empty for none. */
  course: z.string().max(120),
  closed: ClosedSource.optional(),
  /** Whether it teaches the reading line step by step; it counts for no skill. */
  tour: z.boolean().default(false),
  /** What was done at the bench, in order, each with what was said where it was a question. */
  actions: z.array(z.object({ action: Action, words: z.string().optional() })),
  entries: z.array(Entry),
  result: ExerciseResult.optional(),
  /** What was said when it was over: it takes a while to work out, and does not change. */
  said: z.custom<Debrief>(isDebrief).optional().catch(undefined),
});
export type PracticeRun = z.infer<typeof PracticeRun>;

/** What tells one exercise from another, for repeats. */
export const exerciseKey = ({ board, seed, level, within, closed }: PracticeRun): string =>
  closed
    ? `case ${closed.number}`
    : [board.title, seed, level, ...(within ? [within] : [])].join(' ');
