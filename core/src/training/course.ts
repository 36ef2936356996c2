import { z } from 'zod';
import { Board } from '../board';
import { Level, LEVELS } from './exercise';
import { Tried } from './skills';

/**
 * How much of the program's judgement an exercise shows: none, each piece for its minutes, or all.
 */
export const HelpGiven = z.enum(['none', 'priced', 'all']);
export type HelpGiven = z.infer<typeof HelpGiven>;

const ExerciseOfCourse = z.object({
  /** Which of the boards, counted from 0. */
  board: z.number().int().min(0),
  seed: z.number().int().min(1).max(50_000_000),
  level: Level,
  /** The net or section that it lies around; empty for the whole board. */
  within: z.string().max(80).default(''),
  /** What may be asked. */
  help: HelpGiven,
  note: z.string().max(500),
});

/** A set of exercises that a teacher hands out as a file. */
export const Course = z
  .object({
    format: z.literal('hanzai course'),
    version: z.literal(1),
    title: z.string().trim().min(1).max(120),
    boards: z.array(Board).min(1).max(20),
    exercises: z.array(ExerciseOfCourse).min(1).max(200),
  })
  .superRefine(({ boards, exercises }, context) => {
    exercises.forEach(({ board }, i) => {
      if (board >= boards.length)
        context.addIssue({
          code: 'custom',
          path: ['exercises', i, 'board'],
          message: `board ${board} of ${boards.length}`,
        });
    });
  });
export type Course = z.infer<typeof Course>;

/** What came of an exercise. */
export const ExerciseResult = z.object({
  board: z.string().max(200),
  seed: z.number().int(),
  level: z.number().int().min(1).max(LEVELS.length),
  help: HelpGiven,
  /** ISO 8601. */
  finishedAt: z.iso.datetime(),
  solved: z.boolean(),
  minutes: z.number().min(0).max(100_000),
  /** The planner's way; null where it did not come through. */
  bestMinutes: z.number().min(0).max(100_000).nullable(),
  score: z.object({
    /** Null where the planner's minutes are not known. */
    cost: z.number().min(0).max(1).nullable(),
    safety: z.number().min(0).max(1),
    attribution: z.number().min(0).max(1),
  }),
  tried: z.array(Tried).max(40),
});
export type ExerciseResult = z.infer<typeof ExerciseResult>;

/** What a trainee hands back. */
export const CourseResults = z.object({
  format: z.literal('hanzai course results'),
  version: z.literal(1),
  course: z.string().max(120),
  who: z.string().trim().min(1).max(80),
  results: z.array(ExerciseResult).max(1000),
});
export type CourseResults = z.infer<typeof CourseResults>;
