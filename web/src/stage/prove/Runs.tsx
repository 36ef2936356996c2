import { z } from 'zod';
import { cleanStartsAtRate, RunMedium } from '@hanzai/core/block';
import {
  boundText,
  proofStatement,
  RUN_STATES,
  runTable,
  statementWords,
  type Run,
} from '@hanzai/core/prove';
import { runOf } from '../../case/kind/proving';
import { soakHours } from '../../case/shown';
import type { CaseState } from '../../case/use-case';
import { Figure } from '../../form/Figure';
import { EntryForm } from '../../form/EntryForm';
import { countWithin, maybeNumber, maybeWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button } from '../../ui/Button';
import { AnyOf } from '../../ui/Choices';
import { Field } from '../../ui/Field';
import { FormRow } from '../../ui/FormRow';
import { Notice } from '../../ui/Notice';
import { Table } from '../../ui/Table';
import { TextField } from '../../ui/TextField';
import { Small } from '../../ui/Words';

const count = maybeNumber({
  fits: countWithin(0, 99_999),
  words: 'no count; expected a whole number from 0 to 99999',
}).transform((value) => value ?? 0);

const RunTyped = z.object({
  medium: maybeWords(80),
  of: RunMedium,
  where: maybeWords(60),
  states: z.array(z.enum(RUN_STATES)),
  passes: count,
  errors: count,
  note: maybeWords(300),
});

const MEDIUM_WORDS: Readonly<Record<RunMedium, string>> = {
  pressed: 'pressed',
  'written here': 'written here',
  'written elsewhere': 'written elsewhere',
  foreign: 'foreign: must be refused',
  none: 'it takes none',
};

/** Runs of the unit over media, what they show, and what was not tried. */
export function Runs({ state, locked }: { state: CaseState; locked: boolean }) {
  const { journal, model } = state;
  const wants = model?.proof;
  const since = journal.runsSince.map(({ body }) => runOf(body));
  const inThe = new Set(journal.runsSince.map(({ id }) => id));
  const before = journal.runs.filter(({ id }) => !inThe.has(id)).map(({ body }) => runOf(body));
  const statement = proofStatement(since, wants, soakHours(journal));
  const more = statement.errors === 0 ? cleanStartsAtRate(0.01) - statement.passes : 0;
  const entry = useEntryForm(
    RunTyped,
    {
      medium: '',
      of: wants?.media[0]?.kind ?? 'none',
      where: '',
      states: [],
      passes: '',
      errors: '',
      note: '',
    },
    {
      enter: (typed) => state.append({ kind: 'run', ...typed }),
      clears: ['passes', 'errors', 'note'],
      choices: ['states'],
    },
  );
  return (
    <>
      <Notice look={statement.errors > 0 ? 'attention' : 'plain'} title="Shown so far:" live>
        {statementWords(statement)}
        {statement.notTried.length > 0 && <> Not tried: {statement.notTried.join('; ')}.</>}
        {statement.passes > 0 && more > 0 && (
          <>
            {' '}
            {more} more passes without an error bring it below {boundText(0.01)}.
          </>
        )}
      </Notice>
      <RunsTable runs={since} caption="Since the repair" />
      {before.length > 0 && <RunsTable runs={before} caption="Before" />}
      <EntryForm label="A run" entry={entry}>
        <FormRow>
          <Field id="run-of" label="Medium">
            <select id="run-of" {...entry.form.register('of')}>
              {RunMedium.options.map((one) => (
                <option key={one} value={one}>
                  {MEDIUM_WORDS[one]}
                </option>
              ))}
            </select>
          </Field>
          <TextField
            id="run-medium"
            label="Which"
            placeholder="pattern card 14"
            {...entry.field('medium')}
          />
          <TextField
            id="run-where"
            label="Where on it"
            placeholder="all of it"
            list="run-places"
            {...entry.field('where')}
          />
          <datalist id="run-places">
            {(wants?.places ?? []).map((place) => (
              <option key={place} value={place} />
            ))}
          </datalist>
        </FormRow>
        <AnyOf
          legend="The unit is"
          {...entry.choice('states')}
          choices={RUN_STATES.map((one) => ({ value: one, words: one }))}
        />
        <FormRow>
          <Figure id="run-passes" label="Passes right" whole {...entry.field('passes')} />
          <Figure id="run-errors" label="With an error" whole {...entry.field('errors')} />
          <TextField id="run-note" label="Note" {...entry.field('note')} />
          <Button type="submit" disabled={locked}>
            Enter the run
          </Button>
        </FormRow>
        <Small>
          A pass is the whole medium, or the whole of what the unit does. Tracks side by side fail
          together: a hundred of them are one pass, not a hundred.
        </Small>
      </EntryForm>
    </>
  );
}

/** Passes by medium, and by the states that the unit was in. */
export function RunsTable({ runs, caption }: { runs: readonly Run[]; caption: string }) {
  const rows = runTable(runs);
  if (rows.length === 0) return null;
  const states = RUN_STATES.filter((one) => rows.some(({ byState }) => byState[one]));
  const cell = (of: { passes: number; errors: number } | undefined): string =>
    of === undefined ? '' : `${of.passes} of ${of.passes + of.errors}`;
  return (
    <Table asCards>
      <caption>{caption}</caption>
      <thead>
        <tr>
          <th scope="col">medium</th>
          <th scope="col">where</th>
          <th scope="col">right</th>
          {states.map((one) => (
            <th key={one} scope="col">
              {one}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={`${row.medium} ${row.kind} ${row.where}`}>
            <th scope="row">
              {[row.medium, row.kind === 'none' ? 'what it does' : MEDIUM_WORDS[row.kind]]
                .filter(Boolean)
                .join(', ')}
            </th>
            <td data-label="where">{row.where || 'all of it'}</td>
            <td data-label="right" className="mono">
              {cell(row)}
            </td>
            {states.map((one) => (
              <td key={one} data-label={one} className="mono">
                {cell(row.byState[one])}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
