import { Course } from '@hanzai/core/training';
import { openDB, type IDBPDatabase } from 'idb';
import { PracticeRun } from './run';

const [RUNS, COURSES] = ['runs', 'courses'];

/**
 * Exercises and courses, kept in the browser apart from everything of the workshop. Each of these
 * fails where the browser lets nothing be kept.
 */
export class PracticeStorage {
  private db: Promise<IDBPDatabase> | undefined;

  private open(): Promise<IDBPDatabase> {
    this.db ??= openDB('hanzai-practice', 1, {
      upgrade(db) {
        db.createObjectStore(RUNS!, { keyPath: 'id' });
        db.createObjectStore(COURSES!, { keyPath: 'title' });
      },
    });
    return this.db;
  }

  /** Those that this version can read, the newest first. */
  async runs(): Promise<readonly PracticeRun[]> {
    const all = (await (await this.open()).getAll(RUNS!)) as unknown[];
    return all
      .flatMap((one) => {
        const read = PracticeRun.safeParse(one);
        return read.success ? [read.data] : [];
      })
      .sort((a, b) => (a.startedAt < b.startedAt ? 1 : -1));
  }

  async run(id: string): Promise<PracticeRun | undefined> {
    const read = PracticeRun.safeParse(await (await this.open()).get(RUNS!, id));
    return read.success ? read.data : undefined;
  }

  async put(run: PracticeRun): Promise<void> {
    await (await this.open()).put(RUNS!, run);
  }

  async remove(id: string): Promise<void> {
    await (await this.open()).delete(RUNS!, id);
  }

  async courses(): Promise<readonly Course[]> {
    const all = (await (await this.open()).getAll(COURSES!)) as unknown[];
    return all.flatMap((one) => {
      const read = Course.safeParse(one);
      return read.success ? [read.data] : [];
    });
  }

  async putCourse(course: Course): Promise<void> {
    await (await this.open()).put(COURSES!, course);
  }

  async removeCourse(title: string): Promise<void> {
    await (await this.open()).delete(COURSES!, title);
  }
}
