import { z } from 'zod';
import { fatalFindings } from '@hanzai/core/block';
import { Button } from '../ui/Button';
import { OneOf } from '../ui/Choices';
import { TextField } from '../ui/TextField';
import { Notice } from '../ui/Notice';
import { Refused } from '../form/EntryForm';
import { chosen, typedWords } from '../form/typed';
import { useEntryForm } from '../form/use-entry-form';
import type { EntryBody } from './entry';
import type { CaseState } from './use-case';
import { COURSE_WORDS } from './wording';

type Course = Extract<EntryBody, { kind: 'decision' }>['course'];

/** How it can go on after something that may end it. */
const COURSES = ['go-on', 'donor', 'give-up'] as const satisfies readonly Course[];

const DecisionTyped = z.object({
  course: chosen(COURSES, 'choose how it goes on'),
  reason: typedWords(500, 'say why, for example: the owner has a second unit', 3),
});

/**
 * Something that can end the job was found: what is finished, what is worth saving, and the
 * decision that has to be made. Nothing where nothing was.
 */
export function Decision({ state }: { state: CaseState }) {
  const { journal, model } = state;
  const { field, choice, onSubmit, refusal } = useEntryForm(
    DecisionTyped,
    { reason: '' },
    {
      enter: (typed) => state.append({ kind: 'decision', ...typed }),
      clears: ['course', 'reason'],
      choices: ['course'],
    },
  );
  const made = journal.blockEvents.flatMap(({ body }) =>
    body.kind === 'check' ? [{ title: body.title, good: body.good }] : [],
  );
  if (journal.decision && journal.undecided.length === 0) {
    const { id, body } = journal.decision;
    return (
      <Notice look="attention" title="Decided:">
        {COURSE_WORDS[body.course]}. “{body.reason}”{' '}
        <Button look="quiet" onClick={() => state.append({ kind: 'retract', entry: id })}>
          Take back
        </Button>
      </Notice>
    );
  }
  if (journal.undecided.length === 0) return null;
  const fatal = model ? fatalFindings(model, made) : [];
  return (
    <Notice look="attention" title="This can end the job." live>
      {journal.undecided.map(({ id, body: { title, block } }) => {
        const confirmed = fatal.some(
          ({ check, confirmed: twice }) => check.title === title && twice,
        );
        const check =
          model?.killChecks.find((one) => one.title === title) ??
          model?.killChecks.find((one) => one.block === block);
        return (
          <p key={id}>
            <b>{title}</b>: bad
            {confirmed ? ', twice' : '. Repeat it once with firm contact before you believe it'}.
            {check && ` Finished: ${check.finished}. Worth saving: ${check.worthSaving}.`}{' '}
            <Button
              look="quiet"
              onClick={() => state.append({ kind: 'retract', entry: id })}
              aria-label={`Take back: ${title}`}
            >
              Take back
            </Button>
          </p>
        );
      })}
      <form noValidate onSubmit={onSubmit}>
        <OneOf
          name="course"
          legend="How it goes on"
          choices={COURSES.map((value) => ({ value, words: COURSE_WORDS[value] }))}
          {...choice('course')}
        />
        <TextField id="decision-reason" label="Why" maxLength={500} {...field('reason')} />
        <Refused words={refusal} />
        <Button type="submit">Decide</Button>
      </form>
    </Notice>
  );
}
