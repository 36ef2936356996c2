import { lazy, Suspense } from 'react';
import { z } from 'zod';
import type { CaseState } from '../../../case/use-case';
import { EntryForm } from '../../../form/EntryForm';
import { useEntryForm } from '../../../form/use-entry-form';
import { Button } from '../../../ui/Button';
import { Field } from '../../../ui/Field';
import { Notice } from '../../../ui/Notice';
import { Panel } from '../../../ui/Panel';
import { ExtentCards } from './ExtentCards';
import { SurveyTable } from './SurveyTable';
import type { useQuickSurvey } from './use-survey';

const EsrChart = lazy(() => import('./EsrChart'));
const Listed = z.object({ text: z.string().max(20_000, 'at most 20,000 characters') });

/** The capacitor survey of a unit without a sheet, from a list that was typed or pasted. */
export function QuickSurvey({
  state,
  survey,
  onPlace,
}: {
  readonly state: CaseState;
  readonly survey: ReturnType<typeof useQuickSurvey>;
  readonly onPlace: (text: string) => void;
}) {
  const { rows, unread, list, zero } = survey;
  const entry = useEntryForm(
    Listed,
    { text: state.journal.quickList },
    { enter: ({ text }) => state.append({ kind: 'quickList', text }) },
  );
  const read = rows.filter((row) => row.read !== undefined).length;
  return (
    <Panel
      title="Capacitors"
      aside={rows.length === 0 ? 'from a list' : `${read} of ${rows.length} read`}
    >
      {rows.length > 0 && (
        <>
          {zero !== undefined && (
            <Notice title="Leads:">
              {zero}.{' '}
              <Button look="quiet" onClick={() => onPlace('zero')}>
                Type what still shows
              </Button>
            </Notice>
          )}
          <p>
            {list[0]
              ? `Now ${list[0].at.replace('.1', '')}: its ESR and Enter below; a dash where the probes do not reach.`
              : 'All are read.'}{' '}
            Without a sheet nothing is known of what stands in parallel and may hide a bad one.
          </p>
          <SurveyTable rows={rows} next={list[0]?.at.replace('.1', '')} onPlace={onPlace} />
          {read > 1 && (
            <Suspense fallback={null}>
              <EsrChart rows={rows} zeroOhm={state.journal.zeros.at(-1)?.body.ohm} />
            </Suspense>
          )}
          {read > 0 && <ExtentCards state={state} survey={survey} />}
        </>
      )}
      <EntryForm label="List of capacitors" entry={entry}>
        <Field
          id="quick-list"
          label="One a line: its name, value, volts"
          hint={
            unread.length > 0
              ? `Not understood: ${unread
                  .slice(0, 3)
                  .map(({ line, text }) => `line ${line} "${text.slice(0, 30)}"`)
                  .join(', ')}${unread.length > 3 ? ` and ${unread.length - 3} more` : ''}`
              : 'such as C7 47u 16V; like ones are judged against each other'
          }
        >
          <textarea id="quick-list" rows={5} className="mono" {...entry.form.register('text')} />
        </Field>
        <Button type="submit">{rows.length > 0 ? 'Keep the list' : 'Begin the survey'}</Button>
      </EntryForm>
    </Panel>
  );
}
