import { useState } from 'react';
import { fatalFindings } from '@hanzai/core/block';
import { Button } from '../ui/Button';
import { OneOf } from '../ui/Choices';
import { TextField } from '../ui/TextField';
import { Notice } from '../ui/Notice';
import type { EntryBody } from './entry';
import type { CaseState } from './use-case';
import { COURSE_WORDS } from './wording';

type Course = Extract<EntryBody, { kind: 'decision' }>['course'];

/**
 * Something that can end the job was found: what is finished, what is worth saving, and the
 * decision that has to be made. Nothing where nothing was.
 */
export function Decision({ state }: { state: CaseState }) {
  const { journal, model } = state;
  const [course, setCourse] = useState<Course>();
  const [reason, setReason] = useState('');
  const [refusal, setRefusal] = useState<string>();
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
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (!course) return setRefusal('choose how it goes on');
          if (reason.trim().length < 3)
            return setRefusal('say why, for example: the owner has a second unit');
          setRefusal(state.append({ kind: 'decision', course, reason: reason.trim() }));
        }}
      >
        <OneOf
          name="course"
          legend="How it goes on"
          choices={(Object.keys(COURSE_WORDS) as Course[]).map((value) => ({
            value,
            words: COURSE_WORDS[value],
          }))}
          value={course}
          onChange={setCourse}
        />
        <TextField
          id="decision-reason"
          label="Why"
          error={refusal}
          value={reason}
          maxLength={500}
          onChange={(event) => setReason(event.target.value)}
        />
        <Button type="submit">Decide</Button>
      </form>
    </Notice>
  );
}
