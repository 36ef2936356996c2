import { z } from 'zod';

/**
 * How far a cure is known to be of one change: whole, one change between two tests; shared, several
 * at once; unproven, nobody showed that it is one.
 */
export const LESSON_GRADES = ['whole', 'shared', 'unproven'] as const;
export type LessonGrade = (typeof LESSON_GRADES)[number];

/** What one closed case tells, free of owner and serial number. */
export const Lesson = z.object({
  /** Name of the unit model; empty where none was chosen. */
  unit: z.string().max(60),
  /** Title of the sheet; empty without one. All versions of a sheet are one board. */
  board: z.string().max(200),
  /** Names of the patterns that were seen. */
  patterns: z.array(z.string().max(60)).max(20),
  grade: z.enum(LESSON_GRADES),
  /** Changes any of which may have been the cure. */
  changes: z
    .array(
      z.object({
        /** As it is replaced; empty for what is no part. */
        ref: z.string().max(80),
        /** Class of the part as the rate table has it; for what is no part, what was done. */
        of: z.string().max(160),
        role: z.string().max(200),
        /** How it was bad, where that was found; empty where not. */
        mode: z.string().max(40),
        /** Blocks of the unit that it belongs to. */
        blocks: z.array(z.string().max(60)).max(20),
      }),
    )
    .max(60),
  /** Years that the unit is old; left out where nobody knows. */
  years: z.number().positive().max(200).optional(),
  /** Hours that it has run; left out where nobody knows. */
  hours: z.number().positive().max(1e6).optional(),
});
export type Lesson = z.infer<typeof Lesson>;

/**
 * Parts of one class and role on a board, and how many failures a case of it is to be expected to
 * have.
 */
export interface Exposure {
  readonly of: string;
  readonly role: string;
  readonly parts: number;
  readonly expected: number;
}

/** What each board exposes, by its title. */
export type Exposures = ReadonlyMap<string, readonly Exposure[]>;
