import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Course, CourseResults, LEVELS, type Level } from '@hanzai/core/training';
import { whyNot } from '../store/answers';
import { boardChoicesQuery, fetchBoard } from '../store/case-query';
import { keep, readKept } from '../store/kept';
import { Button } from '../ui/Button';
import { AnyOf } from '../ui/Choices';
import { Fold } from '../ui/Fold';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { saveFile } from '../ui/save-file';
import { TextField } from '../ui/TextField';
import { readCourse, resultsOf, type Handed } from './course-file';
import type { Begin } from './PracticePlace';
import type { Runs } from './use-runs';
import style from './Practice.module.css';

const fileName = (title: string, what: string): string =>
  `${title.toLowerCase().replace(/[^a-z0-9]+/g, '-')}-${what}.json`;

/** Sets of exercises as files: taken in, gone through, handed back, made. */
export function Courses({
  runs,
  onBegin,
}: {
  runs: Runs;
  onBegin: (what: Begin) => Promise<void>;
}) {
  const [said, setSaid] = useState<string>();
  const [handed, setHanded] = useState<readonly Handed[]>([]);
  const [who, setWho] = useState(() => readKept('who') ?? '');
  const all = runs.runs ?? [];

  async function take(file: File): Promise<void> {
    const read = readCourse(file.name, await file.text());
    if (!read.ok) return setSaid(read.why);
    setSaid(undefined);
    if (read.what === 'course') await runs.takeCourse(read.course);
    else setHanded((was) => [...was, read.handed]);
  }

  function handBack(course: Course): void {
    if (who.trim() === '') return setSaid('say first whose results they are');
    keep('who', who.trim());
    setSaid(undefined);
    const results = CourseResults.parse(resultsOf(course, all, who.trim()));
    saveFile(
      fileName(course.title, 'results'),
      'application/json',
      `${JSON.stringify(results, null, 2)}\n`,
    );
  }

  return (
    <div className={style.whole}>
      <Panel title="Courses">
        <p>
          A course is a file: boards, and what is hidden on them by number. A teacher makes one;
          what came of it goes back as a file.
        </p>
        {said && (
          <Notice look="attention" live>
            {said}
          </Notice>
        )}
        {runs.courses.map((course) => {
          const own = all.filter((run) => run.course === course.title);
          const isDone = (i: number): boolean => {
            const { board, seed, level, within } = course.exercises[i]!;
            return own.some(
              (run) =>
                run.result &&
                run.seed === seed &&
                run.level === level &&
                run.within === within &&
                run.board.title === course.boards[board]!.title,
            );
          };
          const next = course.exercises.findIndex((_, i) => !isDone(i));
          const count = course.exercises.filter((_, i) => isDone(i)).length;
          return (
            <div key={course.title} className={style.line}>
              <b>{course.title}</b>
              <span>
                {count} of {course.exercises.length} done
                {next >= 0 &&
                  course.exercises[next]!.note &&
                  `; next: ${course.exercises[next]!.note}`}
              </span>
              <span className={style.row}>
                {next >= 0 && (
                  <Button
                    onClick={() => {
                      const { board, seed, level, within, help } = course.exercises[next]!;
                      void onBegin({
                        board: course.boards[board]!,
                        seed,
                        level,
                        within,
                        help,
                        course: course.title,
                      });
                    }}
                  >
                    Begin the next
                  </Button>
                )}
                <Button look="quiet" disabled={count === 0} onClick={() => handBack(course)}>
                  Save the results
                </Button>
                <Button look="quiet" onClick={() => void runs.removeCourse(course.title)}>
                  Put away
                </Button>
              </span>
            </div>
          );
        })}
        {handed.map(({ who: whose, course, words }, i) => (
          <p key={i}>
            <b>{whose}</b>, {course}: {words}
          </p>
        ))}
        <div className={style.row}>
          <label>
            Take in a course, or results{' '}
            <input
              type="file"
              accept=".json,application/json"
              onChange={({ target }) => {
                const [file] = target.files ?? [];
                target.value = '';
                if (file) void take(file);
              }}
            />
          </label>
          {runs.courses.length > 0 && (
            <TextField
              id="course-who"
              label="Results are of"
              value={who}
              maxLength={80}
              onChange={({ target }) => setWho(target.value)}
            />
          )}
        </div>
        <MakeCourse />
      </Panel>
    </div>
  );
}

/**
 * A course out of the workshop's boards: so many exercises on each, at the levels that are chosen.
 */
function MakeCourse() {
  const { data: boards = [] } = useQuery(boardChoicesQuery);
  const [title, setTitle] = useState('');
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [levels, setLevels] = useState<readonly string[]>(['1', '2']);
  const [each, setEach] = useState('3');
  const [wrong, setWrong] = useState<string>();

  async function make(): Promise<void> {
    const count = Number(each);
    if (title.trim() === '') return setWrong('a course needs a title');
    if (chosen.length === 0 || levels.length === 0) return setWrong('choose boards and levels');
    if (!Number.isInteger(count) || count < 1 || count > 20)
      return setWrong('from 1 to 20 exercises of a level on a board');
    try {
      const contents = await Promise.all(chosen.map(fetchBoard));
      const exercises = contents.flatMap((_, board) =>
        levels.flatMap((level) =>
          Array.from({ length: count }, (__, i) => ({
            board,
            seed: 1 + Math.floor(Math.random() * 1_000_000) + i,
            level: Number(level) as Level,
            help: 'priced' as const,
            note: '',
          })),
        ),
      );
      const course = Course.safeParse({
        format: 'hanzai course',
        version: 1,
        title: title.trim(),
        boards: contents,
        exercises,
      });
      if (!course.success) return setWrong('at most 20 boards and 200 exercises');
      setWrong(undefined);
      saveFile(
        fileName(title, 'course'),
        'application/json',
        `${JSON.stringify(course.data, null, 2)}\n`,
      );
    } catch (error) {
      setWrong(whyNot(error));
    }
  }

  return (
    <Fold>
      <summary>Make a course</summary>
      <form
        className={style.form}
        onSubmit={(event) => {
          event.preventDefault();
          void make();
        }}
      >
        <TextField
          id="course-title"
          label="Title"
          value={title}
          maxLength={120}
          error={wrong}
          onChange={({ target }) => setTitle(target.value)}
        />
        <AnyOf
          legend="Boards"
          choices={boards.map(({ id, title: words }) => ({ value: id, words }))}
          value={chosen}
          onChange={setChosen}
        />
        <AnyOf
          legend="Levels"
          choices={LEVELS.map(({ level, words }) => ({
            value: String(level),
            words: `${level}: ${words}`,
          }))}
          value={levels}
          onChange={setLevels}
        />
        <TextField
          id="course-each"
          label="Exercises of each level on each board"
          inputMode="numeric"
          value={each}
          onChange={({ target }) => setEach(target.value)}
        />
        <p className={style.row}>
          <Button type="submit">Save the course as a file</Button>
        </p>
      </form>
    </Fold>
  );
}
