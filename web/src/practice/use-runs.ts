import type { Course } from '@hanzai/core/training';
import { useCallback, useEffect, useState } from 'react';
import type { PracticeRun } from './run';
import { PracticeStorage } from './storage';

const storage = new PracticeStorage();

/** What this browser keeps of practice. */
export interface Runs {
  /** The newest first; undefined while they are being read. */
  readonly runs: readonly PracticeRun[] | undefined;
  readonly courses: readonly Course[];
  /** Why nothing is kept. */
  readonly failure: string | undefined;
  readonly begin: (run: PracticeRun) => Promise<void>;
  readonly remove: (id: string) => Promise<void>;
  readonly takeCourse: (course: Course) => Promise<void>;
  readonly removeCourse: (title: string) => Promise<void>;
}

export function useRuns(): Runs {
  const [runs, setRuns] = useState<readonly PracticeRun[]>();
  const [courses, setCourses] = useState<readonly Course[]>([]);
  const [failure, setFailure] = useState<string>();
  const read = useCallback(async (): Promise<void> => {
    try {
      const [own, taken] = await Promise.all([storage.runs(), storage.courses()]);
      setRuns(own);
      setCourses(taken);
    } catch {
      setRuns([]);
      setFailure(
        'This browser keeps nothing (private window, or storage denied): no exercise can be begun.',
      );
    }
  }, []);
  useEffect(() => void read(), [read]);
  const then = (work: Promise<void>): Promise<void> => work.then(read);
  return {
    runs,
    courses,
    failure,
    begin: (run) => storage.put(run),
    remove: (id) => then(storage.remove(id)),
    takeCourse: (course) => then(storage.putCourse(course)),
    removeCourse: (title) => then(storage.removeCourse(title)),
  };
}
