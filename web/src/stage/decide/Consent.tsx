import { format } from 'date-fns/format';
import { z } from 'zod';
import type { CaseState } from '../../case/use-case';
import { Figure } from '../../form/Figure';
import { EntryForm } from '../../form/EntryForm';
import { maybeNumber, typedWords, within } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { FormRow, Narrow } from '../../ui/FormRow';
import { Panel } from '../../ui/Panel';
import { Rows } from '../../ui/Rows';
import { TextField } from '../../ui/TextField';

const HOW = ['telephone', 'spoken', 'letter', 'message'] as const;

const ConsentTyped = z.object({
  to: typedWords(300, 'what was agreed to, for example: replace C3 and its like', 3),
  by: typedWords(80, 'who agreed'),
  how: z.enum(HOW),
  limit: maybeNumber({ fits: within(-1e-9, 1e7), words: 'no amount; expected something like 120' }),
});

/** What the owner agreed to. The newest amount is the limit that the quote is held against. */
export function Consent({ state }: { state: CaseState }) {
  const { journal, view } = state;
  const entry = useEntryForm(
    ConsentTyped,
    { to: '', by: view.owner.split(',')[0] ?? '', how: 'telephone', limit: '' },
    {
      enter: ({ to, by, how, limit }) =>
        state.append({ kind: 'consent', to, by, how, ...(limit === undefined ? {} : { limit }) }),
      clears: ['to', 'limit'],
    },
  );
  return (
    <Panel title="Consent" aside="the newest amount is the limit">
      {journal.consents.length > 0 && (
        <Rows>
          {journal.consents.map(({ id, madeAt, body }) => (
            <li key={id}>
              <span>
                {body.by}, {body.how}, {format(new Date(madeAt), 'd MMM')}: {body.to}
                {body.limit !== undefined && `, up to ${body.limit}`}
              </span>
              <Button
                look="quiet"
                aria-label={`Take back: ${body.to}`}
                onClick={() => state.append({ kind: 'retract', entry: id })}
              >
                Take back
              </Button>
            </li>
          ))}
        </Rows>
      )}
      <EntryForm label="A consent" entry={entry}>
        <FormRow>
          <TextField
            id="consent-to"
            label="Agreed to"
            placeholder="replace C3 and its like"
            {...entry.field('to')}
          />
          <Narrow>
            <TextField id="consent-by" label="By" {...entry.field('by')} />
          </Narrow>
          <Narrow>
            <Field id="consent-how" label="How">
              <select id="consent-how" {...entry.form.register('how')}>
                {HOW.map((how) => (
                  <option key={how}>{how}</option>
                ))}
              </select>
            </Field>
          </Narrow>
          <Figure id="consent-limit" label="Up to" {...entry.field('limit')} />
          <Button type="submit" disabled={journal.closed}>
            Enter
          </Button>
        </FormRow>
      </EntryForm>
    </Panel>
  );
}
