import { isValid } from 'date-fns/isValid';
import { parseISO } from 'date-fns/parseISO';
import { z } from 'zod';
import type { CaseState } from '../../case/use-case';
import { Figure } from '../../form/Figure';
import { EntryForm } from '../../form/EntryForm';
import { countWithin, maybeNumber, maybeWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button } from '../../ui/Button';
import { FormRow } from '../../ui/FormRow';
import { TextField } from '../../ui/TextField';

const price = maybeNumber({
  fits: (value) => value >= 0 && value <= 9_999_999,
  words: 'no price; expected a number such as 45.50',
});
const days = maybeNumber({
  fits: countWithin(0, 3660),
  words: 'no count of days; expected a whole number such as 180',
});
const day = z
  .string()
  .trim()
  .refine(
    (text) => text === '' || (/^\d{4}-\d{2}-\d{2}$/.test(text) && isValid(parseISO(text))),
    'no day; expected one such as 2027-01-31',
  );

const ClosingTyped = z.object({
  note: maybeWords(1000),
  price,
  guaranteeDays: days,
  followUpOn: day,
  returned: maybeWords(200),
});

/** What is said when a unit goes back. */
export function ClosingForm({ state }: { state: CaseState }) {
  const entry = useEntryForm(
    ClosingTyped,
    { note: '', price: '', guaranteeDays: '', followUpOn: '', returned: '' },
    {
      enter: ({ note, price: asked, guaranteeDays, followUpOn, returned }) =>
        state.append({
          kind: 'close',
          note,
          ...(asked === undefined ? {} : { price: asked }),
          ...(guaranteeDays === undefined ? {} : { guaranteeDays }),
          ...(followUpOn === '' ? {} : { followUpOn }),
          ...(returned === '' ? {} : { returned }),
        }),
    },
  );
  return (
    <EntryForm label="Hand back" entry={entry}>
      <TextField
        id="closing"
        label="Advice to the owner, what remains at risk"
        placeholder="the motor capacitors are of the same age"
        {...entry.field('note')}
      />
      <FormRow>
        <Figure id="closing-price" label="Price" {...entry.field('price')} />
        <Figure id="closing-days" label="Guarantee, days" whole {...entry.field('guaranteeDays')} />
        <TextField
          id="closing-follow"
          label="Ask how it runs on"
          type="date"
          {...entry.field('followUpOn')}
        />
        <TextField
          id="closing-returned"
          label="Goes back with it"
          placeholder="old parts in a bag"
          {...entry.field('returned')}
        />
      </FormRow>
      <Button look="main" type="submit">
        Close the case
      </Button>
    </EntryForm>
  );
}
