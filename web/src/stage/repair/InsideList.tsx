import { z } from 'zod';
import type { CaseState } from '../../case/use-case';
import { EntryForm } from '../../form/EntryForm';
import { typedWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button } from '../../ui/Button';
import { FormRow } from '../../ui/FormRow';
import { Panel } from '../../ui/Panel';
import { Rows } from '../../ui/Rows';
import { TextField } from '../../ui/TextField';

const InsideTyped = z.object({ what: typedWords(80, 'what it is, for example swab under U3') });

/** Swabs, clip leads, tape: what was laid into the unit and has to come out before power. */
export function InsideList({ state }: { state: CaseState }) {
  const { inside, closed } = state.journal;
  const entry = useEntryForm(
    InsideTyped,
    { what: '' },
    { enter: ({ what }) => state.append({ kind: 'inside', what }), clears: ['what'] },
  );
  return (
    <Panel title="In the unit" aside="swabs, clips, tape: out before power">
      <Rows>
        {inside.map(({ id, body }) => (
          <li key={id}>
            <span>{body.what}</span>
            <Button
              look="quiet"
              aria-label={`${body.what} is out`}
              onClick={() => state.append({ kind: 'takenOut', entry: id })}
            >
              It is out
            </Button>
          </li>
        ))}
      </Rows>
      <EntryForm label="A thing laid in" entry={entry}>
        <FormRow>
          <TextField
            id="inside-what"
            label="Laid in"
            placeholder="swab under U3, two clip leads"
            {...entry.field('what')}
          />
          <Button type="submit" disabled={closed}>
            Write it down
          </Button>
        </FormRow>
      </EntryForm>
    </Panel>
  );
}
