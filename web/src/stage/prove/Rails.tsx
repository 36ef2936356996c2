import { z } from 'zod';
import type { CaseState } from '../../case/use-case';
import { Figure } from '../../form/Figure';
import { EntryForm } from '../../form/EntryForm';
import { typedNumber, typedWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button } from '../../ui/Button';
import { FormRow } from '../../ui/FormRow';
import { Panel } from '../../ui/Panel';
import { Rows } from '../../ui/Rows';
import { TextField } from '../../ui/TextField';

const RailTyped = z.object({
  net: typedWords(40, 'name the rail as the board does, for example P5').refine(
    (text) => !/\s/.test(text),
    'a name without blanks',
  ),
  volt: z
    .string()
    .transform((text) => text.replace(/\s*v\s*$/i, ''))
    .pipe(
      typedNumber({
        fits: (value) => Math.abs(value) <= 1000 && value !== 0,
        words: 'no voltage; expected something like 5 or -12',
      }),
    ),
});

/** What feeds the unit, named by a person where no sheet does: without it nothing can be proven. */
export function Rails({ state }: { state: CaseState }) {
  const { rails } = state.journal;
  const entry = useEntryForm(
    RailTyped,
    { net: '', volt: '' },
    {
      enter: ({ net, volt }) => state.append({ kind: 'rail', net: net.toUpperCase(), volt }),
      clears: ['net', 'volt'],
    },
  );
  return (
    <Panel title="Rails of this unit" aside="no sheet names them: you do">
      <Rows>
        {rails.map(({ id, body }) => (
          <li key={id}>
            <span>
              <b className="mono">{body.net}</b> has to have <b className="mono">{body.volt} V</b>
            </span>
            <Button
              look="quiet"
              aria-label={`Take back: ${body.net}`}
              onClick={() => state.append({ kind: 'retract', entry: id })}
            >
              Take back
            </Button>
          </li>
        ))}
      </Rows>
      <EntryForm label="A rail" entry={entry}>
        <FormRow>
          <TextField
            id="rail-net"
            label="Rail"
            className="mono"
            placeholder="P5"
            {...entry.field('net')}
          />
          <Figure id="rail-volt" label="Volts" placeholder="5" {...entry.field('volt')} />
          <Button type="submit">Name it</Button>
        </FormRow>
      </EntryForm>
    </Panel>
  );
}
