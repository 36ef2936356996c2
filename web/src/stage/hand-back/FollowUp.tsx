import { z } from 'zod';
import type { CaseState } from '../../case/use-case';
import { EntryForm } from '../../form/EntryForm';
import { maybeWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button } from '../../ui/Button';
import { FormRow } from '../../ui/FormRow';
import { Notice } from '../../ui/Notice';
import { Rows } from '../../ui/Rows';
import { TextField } from '../../ui/TextField';
import { dayText } from './technical';

const AskedTyped = z.object({ note: maybeWords(300) });

/** How it runs at the owner’s: when to ask, and what was answered. */
export function FollowUp({ state }: { state: CaseState }) {
  const { journal } = state;
  const { followUpOn, followUps } = journal;
  const said = (runs: boolean) => ({
    enter: ({ note }: { note: string }) => state.append({ kind: 'followedUp', runs, note }),
    clears: ['note' as const],
  });
  const entry = useEntryForm(AskedTyped, { note: '' }, said(true));
  if (!journal.closed) return null;
  return (
    <>
      {followUps.length > 0 && (
        <Rows>
          {followUps.map(({ id, madeAt, body }) => (
            <li key={id}>
              <span>
                {dayText(madeAt)}: {body.runs ? 'it runs' : 'it does not run'}
                {body.note && `, ${body.note}`}
              </span>
            </li>
          ))}
        </Rows>
      )}
      {followUpOn !== undefined && (
        <Notice title={`Ask how it runs on ${dayText(followUpOn)}.`}>
          <EntryForm label="How it runs" entry={entry}>
            <FormRow>
              <TextField id="asked-note" label="What the owner says" {...entry.field('note')} />
              <Button type="submit">It runs</Button>
              <Button
                onClick={() => {
                  state.append({
                    kind: 'followedUp',
                    runs: false,
                    note: entry.form.getValues('note').trim().slice(0, 300),
                  });
                }}
              >
                It does not
              </Button>
            </FormRow>
          </EntryForm>
        </Notice>
      )}
    </>
  );
}
