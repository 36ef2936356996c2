import { v7 } from 'uuid';
import { z } from 'zod';
import { ARCHETYPES } from '@hanzai/data';
import { UnitTypeOptions } from '../case/UnitTypeOptions';
import { EntryForm } from '../form/EntryForm';
import { maybeWords, typedWords } from '../form/typed';
import { useEntryForm } from '../form/use-entry-form';
import { Button } from '../ui/Button';
import { Field } from '../ui/Field';
import { FormRow } from '../ui/FormRow';
import { Panel } from '../ui/Panel';
import { Rows } from '../ui/Rows';
import { TextField } from '../ui/TextField';
import { Small } from '../ui/Words';
import { wordsSaid } from './find';
import type { PatternsState } from './use-patterns';

const OwnTyped = z.object({
  unitType: z.string(),
  seen: typedWords(200, 'say what is seen'),
  suspects: typedWords(300, 'say what it was'),
  because: maybeWords(300),
  firstTests: maybeWords(300),
});

/** Patterns that the workshop writes down itself. */
export function OwnPatterns({ state, said }: { state: PatternsState; said: string }) {
  const entry = useEntryForm(
    OwnTyped,
    { unitType: '', seen: '', suspects: '', because: '', firstTests: '' },
    {
      enter: (typed) => state.add({ id: v7(), ...typed }),
      clears: ['seen', 'suspects', 'because', 'firstTests'],
    },
  );
  const words = wordsSaid(said);
  const own = state.known.own.filter(
    ({ seen, suspects }) =>
      words.length === 0 ||
      words.some((word) => `${seen} ${suspects}`.toLowerCase().includes(word)),
  );
  return (
    <Panel title="Our own" aside="written by hand: no odds follow from them" framed>
      {own.length === 0 && <Small>None yet{words.length === 0 ? '' : ' with these words'}.</Small>}
      <Rows>
        {own.map(({ id, unitType, seen, suspects, because, firstTests }) => (
          <li key={id}>
            <span>
              <b>{seen}</b>: {suspects}
              <Small as="span">
                {' '}
                {[
                  ARCHETYPES.find(({ name }) => name === unitType)?.title,
                  because,
                  firstTests && `first: ${firstTests}`,
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </Small>
            </span>
            <Button
              look="quiet"
              aria-label={`Set aside: ${seen}`}
              onClick={() => void state.setAside(id)}
            >
              Set aside
            </Button>
          </li>
        ))}
      </Rows>
      <EntryForm label="A pattern of our own" entry={entry}>
        <FormRow>
          <Field id="own-unit" label="Unit">
            <select id="own-unit" {...entry.form.register('unitType')}>
              <option value="">any</option>
              <UnitTypeOptions />
            </select>
          </Field>
          <TextField id="own-seen" label="Seen" {...entry.field('seen')} />
          <TextField
            id="own-suspects"
            label="It was, in usual order"
            {...entry.field('suspects')}
          />
          <TextField id="own-because" label="Because" {...entry.field('because')} />
          <TextField id="own-tests" label="First tests" {...entry.field('firstTests')} />
          <Button type="submit">Write it down</Button>
        </FormRow>
      </EntryForm>
    </Panel>
  );
}
