import Printer from 'lucide-react/icons/printer';
import { useState } from 'react';
import { z } from 'zod';
import { CaseFrame } from '../../case/CaseFrame';
import type { CaseState } from '../../case/use-case';
import { Refused } from '../../form/EntryForm';
import { maybeWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button } from '../../ui/Button';
import { TextField } from '../../ui/TextField';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { Report } from './Report';
import { useReportFigures } from './use-report-figures';
import style from './HandBackStage.module.css';

const AdviceTyped = z.object({ note: maybeWords(1000) });

/** Hand back: close the case when nothing stands against it, and the report for the owner. */
export function HandBackStage({ state }: { state: CaseState }) {
  const { view } = state;
  const { journal } = state;
  const { obstacles } = state.progress;
  const { figures, failure, pending } = useReportFigures(state);
  const { field, onSubmit, ...entry } = useEntryForm(
    AdviceTyped,
    { note: '' },
    { enter: ({ note }) => state.append({ kind: 'close', note }) },
  );
  const [refusal, setRefusal] = useState<string>();
  const closing = state.entries.findLast(({ body }) => body.kind === 'close');
  return (
    <CaseFrame state={state} stage="hand-back">
      <div className={style.tools}>
        {journal.closed ? (
          <Notice look="good">
            Closed
            {closing?.body.kind === 'close' && closing.body.note ? `: ${closing.body.note}` : '.'}
          </Notice>
        ) : obstacles.length > 0 ? (
          <Notice look="attention" title="Not ready to close:">
            {obstacles.join('; ')}.
          </Notice>
        ) : (
          <form className={style.close} noValidate onSubmit={onSubmit}>
            <TextField
              id="closing"
              label="Advice to the owner, what remains at risk"
              placeholder="the motor capacitors are of the same age"
              {...field('note')}
            />
            <Refused words={entry.refusal} />
            <Button look="main" type="submit">
              Close the case
            </Button>
          </form>
        )}
        <div className={style.buttons}>
          <Button disabled={pending} onClick={() => window.print()}>
            <Printer size={18} aria-hidden="true" /> Print the report
          </Button>
          {journal.closed && (
            <Button onClick={() => setRefusal(state.append({ kind: 'reopen' }))}>
              Reopen the case
            </Button>
          )}
          <a href={`/api/cases/${view.id}/readings.csv`}>Readings as CSV</a>{' '}
          <a href={`/api/cases/${view.id}/evidence.json`}>Evidence as JSON</a>
          {view.board && (
            <>
              <a href={`/api/boards/${view.board.id}/file.cir`}>Sheet as deck</a>
              <a href={`/api/boards/${view.board.id}/file.json`}>Sheet as JSON</a>
            </>
          )}
        </div>
      </div>
      <Refused words={refusal} />
      {failure && <Notice look="attention">{failure}</Notice>}
      <Report
        state={state}
        figures={figures}
        pending={pending}
        advice={closing?.body.kind === 'close' && journal.closed ? closing.body.note : ''}
      />
      <Keys
        keys={[
          ['Ctrl+P', 'print the report'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}
