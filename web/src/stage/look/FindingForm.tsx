import { boardFrame } from '../../board-face/face';
import { z } from 'zod';
import { DownEdge, FINDING_RULES, FindingKind } from '@hanzai/core/bench';
import type { CaseState } from '../../case/use-case';
import { Figure } from '../../form/Figure';
import { Button } from '../../ui/Button';
import { OneOf } from '../../ui/Choices';
import { EntryForm } from '../../form/EntryForm';
import { chosen, maybeWords, typedNumber, within } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Field } from '../../ui/Field';
import { TextField } from '../../ui/TextField';
import { FormRow, Narrow } from '../../ui/FormRow';
import { Small } from '../../ui/Words';

const SURE = [
  ['1', 'sure'],
  ['0.7', 'likely'],
  ['0.4', 'perhaps'],
] as const;

const FindingTyped = z.object({
  what: chosen(FindingKind.options, 'say what it is'),
  size: typedNumber({
    fits: within(0, 500),
    words: 'no size; expected millimetres such as 4',
  }),
  sure: z.enum(['1', '0.7', '0.4']).transform(Number),
  down: DownEdge,
  text: maybeWords(300),
});

interface Props {
  readonly state: CaseState;
  /** The place on the outline, or the one on a picture. */
  readonly place: { readonly xMm: number; readonly yMm: number } | undefined;
  readonly on: { readonly picture: string; readonly x: number; readonly y: number } | undefined;
  readonly onDone: () => void;
}

/** One finding: what, how large, how sure, and where it was tapped. */
export function FindingForm({ state, place, on, onDone }: Props) {
  const hasOutline = state.index !== undefined && boardFrame(state.index.board) !== undefined;
  const entry = useEntryForm(
    FindingTyped,
    {
      size: '4',
      sure: '1',
      down: state.journal.seen.findLast(({ body }) => body.down)?.body.down ?? 'bottom',
      text: '',
    },
    {
      enter: ({ what, size, sure, down, text }) => {
        if (hasOutline && !place) return 'tap the place on the board first';
        const objection = state.append({
          kind: 'seen',
          what,
          text,
          sizeMm: size,
          certainty: sure,
          ...(place ? { at: place } : {}),
          ...(FINDING_RULES[what].runsDown ? { down } : {}),
          ...(on ? { on } : {}),
        });
        if (!objection) onDone();
        return objection;
      },
      clears: ['text'],
      choices: ['what'],
    },
  );
  const { field, choice, form } = entry;
  const what = form.watch('what');

  return (
    <EntryForm label="A finding" entry={entry}>
      <OneOf
        name="finding"
        legend="Kind"
        {...choice('what')}
        choices={FindingKind.options.map((value) => ({ value, words: FINDING_RULES[value].title }))}
      />
      <FormRow>
        <Figure id="finding-size" label="Across, mm" {...field('size')} />
        {what && FINDING_RULES[what].runsDown && (
          <Narrow>
            <Field id="finding-down" label="Edge down">
              <select id="finding-down" {...form.register('down')}>
                {DownEdge.options.map((edge) => (
                  <option key={edge}>{edge}</option>
                ))}
              </select>
            </Field>
          </Narrow>
        )}
        <TextField id="finding-text" label="In your words" {...field('text')} />
        <Narrow>
          <Field id="finding-sure" label="How sure">
            <select id="finding-sure" {...form.register('sure')}>
              {SURE.map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </select>
          </Field>
        </Narrow>
        <Button look="main" type="submit">
          Add the finding
        </Button>
      </FormRow>
      <Small>
        {place
          ? `At ${place.xMm.toFixed(0)} mm from the left, ${place.yMm.toFixed(0)} mm from the top.`
          : hasOutline
            ? 'No place marked yet.'
            : ''}
      </Small>
    </EntryForm>
  );
}
