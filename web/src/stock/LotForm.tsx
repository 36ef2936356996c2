import { v7 } from 'uuid';
import { z } from 'zod';
import { readSpec } from '@hanzai/core/part';
import { LIBRARY } from '@hanzai/data';
import { Figure } from '../form/Figure';
import { EntryForm } from '../form/EntryForm';
import {
  countWithin,
  maybeNumber,
  maybeWords,
  typedNumber,
  typedWords,
  within,
} from '../form/typed';
import { useEntryForm } from '../form/use-entry-form';
import { Button } from '../ui/Button';
import { FormRow, Narrow } from '../ui/FormRow';
import { Panel } from '../ui/Panel';
import { TextField } from '../ui/TextField';
import { Small } from '../ui/Words';
import type { StockState } from './use-stock';

const LotTyped = z.object({
  text: typedWords(160, 'what it is, for example 100u 16V electrolytic 105C'),
  quantity: typedNumber({
    fits: countWithin(0, 100_000),
    words: 'no count; expected a whole number',
  }),
  bin: maybeWords(40),
  supplier: maybeWords(80),
  price: maybeNumber({ fits: within(-1e-9, 1e6), words: 'no price; expected something like 0.45' }),
  boughtOn: z
    .string()
    .trim()
    .refine((text) => text === '' || /^\d{4}-\d\d-\d\d$/.test(text), 'a date such as 2026-11-28'),
  minimum: maybeNumber({
    fits: countWithin(0, 100_000),
    words: 'no count; expected a whole number',
  }),
  donor: maybeWords(120),
  note: maybeWords(300),
});

/** One more lot. What it was understood as stands under it while one types. */
export function LotForm({ stock }: { stock: StockState }) {
  const entry = useEntryForm(
    LotTyped,
    {
      text: '',
      quantity: '1',
      bin: '',
      supplier: '',
      price: '',
      boughtOn: '',
      minimum: '',
      donor: '',
      note: '',
    },
    {
      enter: ({ price, boughtOn, minimum, ...rest }) =>
        stock.add([
          {
            id: v7(),
            ...rest,
            price: price ?? null,
            boughtOn: boughtOn || null,
            minimum: minimum ?? 0,
          },
        ]),
      clears: ['text', 'note'],
    },
  );
  const text = entry.form.watch('text');
  const spec = text.trim() === '' ? undefined : readSpec(text, LIBRARY);
  return (
    <Panel title="One more lot" framed>
      <EntryForm label="A lot" entry={entry}>
        <TextField
          id="lot-text"
          label="What it is"
          className="mono"
          placeholder="100u 16V electrolytic 105C esr=0.3 h=11 d=6.3 pitch=2.5"
          {...entry.field('text')}
        />
        {spec && (
          <Small>
            {spec.kind === 'unknown'
              ? 'Not understood: it can be found by its words, and fits nothing by itself.'
              : `Understood as ${spec.kind}.`}
          </Small>
        )}
        <FormRow>
          <Figure id="lot-quantity" label="How many" whole {...entry.field('quantity')} />
          <Narrow>
            <TextField id="lot-bin" label="Bin" {...entry.field('bin')} />
          </Narrow>
          <Figure id="lot-price" label="Price" {...entry.field('price')} />
          <Figure id="lot-minimum" label="At least" whole {...entry.field('minimum')} />
          <TextField
            id="lot-bought"
            label="Bought on"
            placeholder="2026-11-28"
            {...entry.field('boughtOn')}
          />
          <TextField id="lot-supplier" label="Supplier" {...entry.field('supplier')} />
          <TextField
            id="lot-donor"
            label="Left in (a donor)"
            placeholder="CR-40 0231"
            {...entry.field('donor')}
          />
          <TextField
            id="lot-note"
            label="Note"
            placeholder="tested on its own board"
            {...entry.field('note')}
          />
        </FormRow>
        <Button look="main" type="submit">
          Write it down
        </Button>
      </EntryForm>
    </Panel>
  );
}
