import { Course, CourseResults } from '@hanzai/core/training';
import type { PracticeRun } from './run';

/** What a trainee handed back, in a line. */
export interface Handed {
  readonly who: string;
  readonly course: string;
  readonly words: string;
}

export type CourseFile =
  | { readonly ok: true; readonly what: 'course'; readonly course: Course }
  | { readonly ok: true; readonly what: 'results'; readonly handed: Handed }
  | { readonly ok: false; readonly why: string };

/** More than any course of whole boards has, characters. */
const MOST_CHARACTERS = 20_000_000;

/** Reads a file of a course or of results. */
export function readCourse(name: string, text: string): CourseFile {
  if (text.length > MOST_CHARACTERS) return { ok: false, why: `${name}: too large for a course` };
  let content: unknown;
  try {
    content = JSON.parse(text);
  } catch {
    return { ok: false, why: `${name}: no JSON; expected a course or results as they were saved` };
  }
  const course = Course.safeParse(content);
  if (course.success) return { ok: true, what: 'course', course: course.data };
  const results = CourseResults.safeParse(content);
  if (results.success) return { ok: true, what: 'results', handed: handedOf(results.data) };
  const isResults = (content as { format?: unknown } | null)?.format === 'hanzai course results';
  const [issue] = (isResults ? results : course).error!.issues;
  return {
    ok: false,
    why: `${name}: ${issue!.path.join('.') || 'the whole'}: ${issue!.message}; expected a course or results as they were saved`,
  };
}

function handedOf({ who, course, results }: CourseResults): Handed {
  const sound = results.filter(({ solved }) => solved).length;
  const unharmed = results.filter(({ score }) => score.safety === 1).length;
  return {
    who,
    course,
    words: `${results.length} done, ${sound} sound, ${unharmed} without harm`,
  };
}

/** What came of a course, as it is handed back. */
export function resultsOf(
  course: Course,
  runs: readonly PracticeRun[],
  who: string,
): CourseResults {
  return {
    format: 'hanzai course results',
    version: 1,
    course: course.title,
    who,
    results: runs.flatMap(({ course: of, result }) =>
      of === course.title && result ? [result] : [],
    ),
  };
}
