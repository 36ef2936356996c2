import { useState } from 'react';
import { z } from 'zod';
import type { Course, CourseName } from '@hanzai/core/decide';
import type { CaseState } from '../../case/use-case';
import { COURSE_WORDS, minutesText, oddsWords, moneyText } from '../../case/wording';
import { EntryForm } from '../../form/EntryForm';
import { typedWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button } from '../../ui/Button';
import { Actions } from '../../ui/FormRow';
import { Panel } from '../../ui/Panel';
import { Table } from '../../ui/Table';
import { TextField } from '../../ui/TextField';
import { Small } from '../../ui/Words';

/** What a course tells, in words. */
export function teachesWords(share: number): string {
  if (share >= 0.9) return 'who it was';
  if (share >= 0.4) return 'much';
  return share >= 0.1 ? 'something' : 'little';
}

/** The courses side by side; one is chosen, and the reason stays in the case. */
export function CourseTable({ state, courses }: { state: CaseState; courses: readonly Course[] }) {
  const [chosen, setChosen] = useState<CourseName>();
  return (
    <Panel title="What to do about it" aside="least in all first; chances are the engine’s">
      <Table asCards>
        <thead>
          <tr>
            <th scope="col">course</th>
            <th scope="col">minutes</th>
            <th scope="col">price</th>
            <th scope="col">pads that lift</th>
            <th scope="col">cures it</th>
            <th scope="col">does harm or comes back</th>
            <th scope="col">it tells</th>
            <th scope="col">until it is gone</th>
            <th scope="col">
              <span className="visually-hidden">decide</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {courses.map((course, i) => (
            <tr key={course.name} aria-current={course.name === chosen || undefined}>
              <th scope="row">
                {COURSE_WORDS[course.name]}
                {course.refs.length > 0 && (
                  <Small as="span">
                    {' '}
                    {course.refs.slice(0, 6).join(', ')}
                    {course.refs.length > 6 ? ` and ${course.refs.length - 6} more` : ''}
                  </Small>
                )}
              </th>
              <td data-label="takes">
                {course.minutes > 0 ? minutesText(Math.ceil(course.minutes)) : ''}
              </td>
              <td data-label="price" className="mono">
                {course.name === 'give-up' ? '' : moneyText(course.price)}
              </td>
              <td data-label="pads that lift" className="mono">
                {course.padsLifted > 0 ? course.padsLifted.toFixed(2) : ''}
              </td>
              <td data-label="cures it">{course.cures > 0 ? oddsWords(course.cures) : 'no'}</td>
              <td data-label="harm or return">
                {course.returns > 0 ? oddsWords(course.returns) : ''}
              </td>
              <td data-label="tells">
                {course.name === 'give-up' ? '' : teachesWords(course.teaches)}
              </td>
              <td data-label="until it is gone" className="mono">
                {Number.isFinite(course.inAll) ? moneyText(course.inAll) : 'never'}{' '}
                {i === 0 && Number.isFinite(course.inAll) && <Small as="span">least</Small>}
              </td>
              <td>
                <Button
                  aria-label={`Choose: ${COURSE_WORDS[course.name]}`}
                  disabled={state.journal.closed}
                  onClick={() => setChosen(course.name)}
                >
                  Choose
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
      {chosen && (
        <ReasonForm
          key={chosen}
          state={state}
          course={chosen}
          onDone={() => setChosen(undefined)}
        />
      )}
    </Panel>
  );
}

const ReasonTyped = z.object({
  reason: typedWords(500, 'say why, for example: its brothers read half of it', 3),
});

function ReasonForm({
  state,
  course,
  onDone,
}: {
  state: CaseState;
  course: CourseName;
  onDone: () => void;
}) {
  const entry = useEntryForm(
    ReasonTyped,
    { reason: '' },
    {
      enter: ({ reason }) => {
        const objection = state.append({ kind: 'decision', course, reason });
        if (!objection) onDone();
        return objection;
      },
    },
  );
  return (
    <EntryForm label="The decision" entry={entry}>
      <TextField
        id="course-reason"
        label={`Why: ${COURSE_WORDS[course]}`}
        autoFocus
        {...entry.field('reason')}
      />
      <Actions>
        <Button look="main" type="submit">
          Decide
        </Button>
        <Button look="quiet" onClick={onDone}>
          Not yet
        </Button>
      </Actions>
    </EntryForm>
  );
}
