import { useEffect } from 'react';
import { z } from 'zod';
import { nameKey } from '@hanzai/core/board';
import { STEP_DEGREES } from '@hanzai/core/adjust';
import { parseQuantity } from '@hanzai/core/quantity';
import { READS_WORDS } from '../../case/kind/adjusting';
import type { CaseState } from '../../case/use-case';
import { Figure } from '../../form/Figure';
import { EntryForm } from '../../form/EntryForm';
import { countWithin, maybeNumber, maybeWords, typedNumber, within } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button } from '../../ui/Button';
import { OneOf } from '../../ui/Choices';
import choices from '../../ui/Choices.module.css';
import { Field } from '../../ui/Field';
import { Actions, FormRow, Narrow } from '../../ui/FormRow';
import { Panel } from '../../ui/Panel';
import { TextField } from '../../ui/TextField';

const TurnTyped = z.object({
  ref: z.string().min(1, 'choose what was turned'),
  degrees: typedNumber({
    fits: (value) => value !== 0 && Math.abs(value) <= 3600,
    words: 'no turn; expected degrees, for example 20, and −20 for counter-clockwise',
  }),
  reading: z.string().transform((text, context) => {
    if (text.trim() === '') return undefined;
    const read = parseQuantity(text);
    if (read.ok && read.value !== 'OL') return read.value;
    context.addIssue(`“${text}” is no reading; expected 200R or 0.48V`);
    return z.NEVER;
  }),
  reads: z.enum(['', '0', '1', '2', '3']),
  errors: maybeNumber({
    fits: countWithin(0, 1_000_000),
    words: 'no count; expected a whole number',
  }),
  seconds: maybeNumber({ fits: within(-1e-9, 86_400), words: 'no time; expected seconds' }),
  live: z.boolean(),
  reason: maybeWords(300),
});

/** A turn that the search proposes; a person makes it. */
export interface ProposedTurn {
  readonly ref: string;
  readonly degrees: number;
}

/** One touch, and how the unit did after it. proposed: fills the form, to be made by hand. */
export function TurnForm({
  state,
  proposed,
}: {
  state: CaseState;
  proposed: ProposedTurn | undefined;
}) {
  const { journal } = state;
  const names = journal.asFound.map(({ body }) => body.ref);
  const entry = useEntryForm(
    TurnTyped,
    {
      ref: names.at(-1) ?? '',
      degrees: '',
      reading: '',
      reads: '',
      errors: '',
      seconds: '',
      live: true,
      reason: '',
    },
    {
      enter: ({ ref, degrees, reading, reads, errors, seconds, live, reason }) =>
        state.append({
          kind: 'turned',
          ref,
          degrees,
          ...(reading === undefined ? {} : { reading }),
          ...(reads === '' ? {} : { reads: Number(reads) as 0 | 1 | 2 | 3 }),
          ...(errors === undefined ? {} : { errors }),
          ...(seconds === undefined ? {} : { seconds }),
          live,
          reason,
        }),
      clears: ['degrees', 'reading', 'reads', 'errors', 'seconds', 'reason'],
    },
  );
  const { form, field, choice } = entry;
  useEffect(() => {
    if (!proposed) return;
    form.setValue('ref', proposed.ref);
    form.setValue('degrees', String(Math.round(proposed.degrees)));
    document.getElementById('turn-reading')?.focus();
  }, [form, proposed]);
  const ref = form.watch('ref');
  const unit = journal.asFound.find(({ body }) => nameKey(body.ref) === nameKey(ref))?.body.unit;
  return (
    <Panel title="A turn" aside={`at most ${STEP_DEGREES}° or a tenth at a time`} framed>
      <EntryForm label="A turn" entry={entry}>
        <FormRow>
          <Narrow>
            <Field id="turn-ref" label="What">
              <select id="turn-ref" {...form.register('ref')}>
                {names.map((name) => (
                  <option key={name}>{name}</option>
                ))}
              </select>
            </Field>
          </Narrow>
          <Figure
            id="turn-degrees"
            label="Degrees"
            className="mono"
            placeholder="20, −20"
            {...field('degrees')}
          />
          <Narrow>
            <TextField
              id="turn-reading"
              label={`Reading now${unit ? ` (${unit})` : ''}`}
              className="mono"
              {...field('reading')}
            />
          </Narrow>
          <Figure id="turn-errors" label="Errors" whole {...field('errors')} />
          <Figure id="turn-seconds" label="Seconds" {...field('seconds')} />
        </FormRow>
        <OneOf
          name="reads"
          legend="How it does now"
          choices={[
            { value: '', words: 'not tried' },
            ...READS_WORDS.map((words, i) => ({
              value: String(i) as '0' | '1' | '2' | '3',
              words,
            })),
          ]}
          {...choice('reads')}
        />
        <TextField
          id="turn-reason"
          label="Why all the same"
          placeholder="only where something stands against it"
          {...field('reason')}
        />
        <Actions>
          <label className={choices.choice}>
            <input type="checkbox" {...form.register('live')} />
            with the unit running
          </label>
          <Button look="main" type="submit" disabled={journal.closed}>
            Enter the turn
          </Button>
        </Actions>
      </EntryForm>
    </Panel>
  );
}
