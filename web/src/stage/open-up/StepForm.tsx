import { useState } from 'react';
import { z } from 'zod';
import { OpenUpStep } from '@hanzai/core/bench';
import { PictureBoard } from '../../case/PictureBoard';
import type { CaseState } from '../../case/use-case';
import { Figure } from '../../form/Figure';
import { Button } from '../../ui/Button';
import { OneOf } from '../../ui/Choices';
import { EntryForm } from '../../form/EntryForm';
import {
  countWithin,
  maybeNumber,
  maybeWords,
  typedNumber,
  typedWords,
  within,
} from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { TextField } from '../../ui/TextField';
import { Actions, FormRow } from '../../ui/FormRow';
import { Fold } from '../../ui/Fold';
import choices from '../../ui/Choices.module.css';

type What = OpenUpStep['what'];

// prettier-ignore
const WHAT: readonly { value: What; words: string }[] = [
  { value: 'fastener', words: 'screw' }, { value: 'plug', words: 'plug' }, { value: 'flex', words: 'flex' }, { value: 'tab', words: 'tab' },
  { value: 'lift', words: 'lift off' }, { value: 'glue', words: 'glue' }, { value: 'seal', words: 'seal' }, { value: 'empty-hole', words: 'empty hole' },
];

/** What most lids of this trade are held by. */
const SCREW = 'M3 pan';

const WAYS = [
  'pull straight, by the moving half',
  'lift the bail',
  'slide the latch',
  'press the tab, then pull',
] as const;

const StepTyped = z.object({
  what: OpenUpStep.shape.what,
  of: typedWords(60, 'say of what it came off, for example lid'),
  name: maybeWords(60),
  length: maybeNumber({
    fits: within(0, 200),
    words: 'no length; expected millimetres above 0 and up to 200',
  }),
  count: typedNumber({ fits: countWithin(1, 60), words: 'no count; expected 1 to 60' }),
  way: maybeWords(120),
  frees: z
    .string()
    .transform((text) => text.split(/[\s,]+/).filter(Boolean))
    .refine((names) => names.length <= 60, 'at most 60 names of parts or nets'),
  forTest: z.boolean(),
  note: maybeWords(300),
});

/**
 * One step of the way in. What was typed last stays, so that the next screw of the same lid is one
 * press.
 */
export function StepForm({ state, locked }: { state: CaseState; locked: boolean }) {
  const [place, setPlace] = useState<{ x: number; y: number }>();
  const picture =
    state.journal.pictures.find(({ body }) => body.of !== 'board') ?? state.journal.pictures[0];

  function enter(typed: z.output<typeof StepTyped>): string | undefined {
    const { what, of, frees, forTest, note } = typed;
    const isPlug = what === 'plug' || what === 'flex';
    const step = OpenUpStep.safeParse({
      what,
      of,
      name: what === 'lift' ? '' : typed.name,
      ...(what === 'fastener' && typed.length !== undefined ? { lengthMm: typed.length } : {}),
      count: what === 'fastener' ? typed.count : 1,
      way: isPlug ? typed.way : '',
      ...(place
        ? { place: { ...place, ...(picture ? { picture: picture.body.picture } : {}) } }
        : {}),
      frees,
      forTest,
      note,
    });
    if (!step.success) return step.error.issues.map(({ message }) => message).join('; ');
    const objection = state.append({ kind: 'step', step: step.data });
    if (objection) return objection;
    setPlace(undefined);
    if (isPlug) form.setValue('name', '');
    return undefined;
  }

  const entry = useEntryForm(
    StepTyped,
    {
      what: 'fastener',
      of: state.journal.steps.at(-1)?.of ?? 'lid',
      name: SCREW,
      length: '',
      count: '1',
      way: '',
      frees: '',
      forTest: false,
      note: '',
    },
    { enter, clears: ['frees', 'note'] },
  );
  const { field, choice, form } = entry;
  const what = form.watch('what');

  return (
    <EntryForm label="A step of opening up" entry={entry}>
      <OneOf
        name="what"
        legend="What came off"
        choices={WHAT}
        {...choice('what')}
        onChange={(next) => {
          form.setValue('what', next);
          form.setValue('name', next === 'fastener' ? SCREW : '');
        }}
      />{' '}
      <FormRow>
        <TextField id="step-of" label="Of" placeholder="lid, shield, board" {...field('of')} />
        {what !== 'lift' && (
          <TextField
            id="step-name"
            label={what === 'fastener' ? 'Kind' : 'Name'}
            {...field('name')}
          />
        )}
        {what === 'fastener' && (
          <>
            <Figure id="step-length" label="Length, mm" {...field('length')} />
            <Figure id="step-count" label="Count" whole {...field('count')} />
          </>
        )}
        {(what === 'plug' || what === 'flex') && (
          <TextField id="step-way" label="How it lets go" list="step-ways" {...field('way')} />
        )}
        <datalist id="step-ways">
          {WAYS.map((words) => (
            <option key={words} value={words} />
          ))}
        </datalist>
        {what !== 'empty-hole' && (
          <TextField
            id="step-frees"
            label="In reach now"
            placeholder="parts, nets, or “board”"
            {...field('frees')}
          />
        )}
        <TextField id="step-note" label="Note" maxLength={300} {...field('note')} />
      </FormRow>
      <Actions>
        <label className={choices.choice}>
          <input type="checkbox" {...form.register('forTest')} />
          has to be on for a test
        </label>
        <Button look="main" type="submit" disabled={locked}>
          Add the step
        </Button>
      </Actions>
      {picture && (
        <Fold>
          <summary>
            Where: tap on “{picture.body.title || 'the picture'}”{place ? ', marked' : ''}
          </summary>
          <PictureBoard
            picture={picture.body.picture}
            title={picture.body.title}
            marks={[
              ...state.journal.steps.flatMap((step) =>
                step.place ? [{ x: step.place.x, y: step.place.y }] : [],
              ),
              ...(place ? [{ ...place, fresh: true }] : []),
            ]}
            onPlace={setPlace}
          />
        </Fold>
      )}
    </EntryForm>
  );
}
