import { z } from 'zod';
import type { UnitModel } from '@hanzai/core/block';
import { Figure } from '../form/Figure';
import { Button } from '../ui/Button';
import { AnyOf, OneOf } from '../ui/Choices';
import { EntryForm } from '../form/EntryForm';
import { chosen, countWithin, maybeNumber, maybeWords, typedNumber } from '../form/typed';
import { useEntryForm } from '../form/use-entry-form';
import { TextField } from '../ui/TextField';
import { FormRow } from '../ui/FormRow';
import type { CaseState } from './use-case';

/** Every stage worked. */
const THROUGH = '';

/** A start as it is typed. stages: names of those at which a unit of this kind can stop. */
const startTyped = (stages: readonly string[]) =>
  z.object({
    failedAt: chosen([...stages, THROUGH], 'say first which stage it does not reach'),
    known: z.array(z.string()),
    words: z
      .string()
      .transform((text) =>
        text
          .split(',')
          .map((word) => word.trim().toLowerCase())
          .filter(Boolean),
      )
      .refine(
        (words) => words.length <= 12 && words.every((word) => word.length <= 60),
        'at most 12 conditions of at most 60 characters',
      ),
    seconds: maybeNumber({
      fits: (value) => value >= 0 && value <= 86_400,
      words: 'no time; expected seconds such as 4 or 12.5',
    }),
    tries: typedNumber({
      fits: countWithin(1, 99),
      words: 'no number of tries; expected 1 to 99',
    }),
    sounds: maybeWords(200),
  });

/**
 * One start of the unit, written down: where it stopped, how long it took, what was heard, and
 * under which conditions.
 */
export function StartForm({ state, model }: { state: CaseState; model: UnitModel }) {
  const entry = useEntryForm(
    startTyped(model.stages.map(({ name }) => name)),
    { ...lastConditions(state, model), seconds: '', tries: '1', sounds: '' },
    {
      enter: ({ failedAt, known, words, seconds, tries, sounds }) =>
        known.length + words.length > 12
          ? 'at most 12 conditions of at most 60 characters'
          : state.append({
              kind: 'start',
              failedAt: failedAt === THROUGH ? null : failedAt,
              ...(seconds === undefined ? {} : { seconds }),
              tries,
              sounds,
              conditions: [...known, ...words],
            }),
      clears: ['failedAt', 'seconds', 'tries', 'sounds'],
      choices: ['failedAt', 'known'],
    },
  );
  const { field, choice } = entry;

  return (
    <EntryForm label="A start of the unit" entry={entry}>
      <OneOf
        name="failed-at"
        legend="Which of these is the first that it does not do?"
        {...choice('failedAt')}
        choices={[
          ...model.stages.map(({ name, title }) => ({ value: name, words: title })),
          { value: THROUGH, words: 'it does them all' },
        ]}
      />
      {(model.conditions ?? []).length > 0 && (
        <AnyOf
          legend="As it stood"
          {...choice('known')}
          choices={model.conditions!.map(({ name, title }) => ({ value: name, words: title }))}
        />
      )}
      <FormRow>
        <TextField
          id="start-words"
          label="Other conditions, by commas"
          placeholder="cold, lid off"
          {...field('words')}
        />
        <Figure id="start-seconds" label="Seconds" {...field('seconds')} />
        <Figure id="start-tries" label="Tries" whole {...field('tries')} />
        <TextField
          id="start-sounds"
          label="Sounds"
          placeholder="hum, whine, silence"
          {...field('sounds')}
        />
        <Button type="submit">Add the start</Button>
      </FormRow>
    </EntryForm>
  );
}

/** Conditions of the last start, to begin the next from: mostly they are the same. */
function lastConditions(
  { journal }: CaseState,
  model: UnitModel,
): { known: string[]; words: string } {
  const conditions = journal.starts.at(-1)?.body.conditions ?? [];
  const isKnown = (name: string): boolean =>
    model.conditions?.some((condition) => condition.name === name) === true;
  return {
    known: conditions.filter(isKnown),
    words: conditions.filter((name) => !isKnown(name)).join(', '),
  };
}
