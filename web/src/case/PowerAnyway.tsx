import { z } from 'zod';
import { Button } from '../ui/Button';
import { TextField } from '../ui/TextField';
import { Notice } from '../ui/Notice';
import { Refused } from '../form/EntryForm';
import { typedWords } from '../form/typed';
import { useEntryForm } from '../form/use-entry-form';
import { Caution } from './Caution';
import { powerObjection } from './rules';
import type { CaseState } from './use-case';

const ReasonTyped = z.object({
  reason: typedWords(
    300,
    'a few words, for example: the motor is off, only logic is to be read',
    3,
  ),
});

/**
 * Power on a board that is not whole, or not read through: only with a reason, which the report
 * keeps.
 */
export function PowerAnyway({ state }: { state: CaseState }) {
  const { journal } = state;
  const { field, onSubmit, refusal } = useEntryForm(
    ReasonTyped,
    { reason: '' },
    {
      enter: ({ reason }) =>
        state.append({ kind: 'powerAnyway', refs: [...journal.missing], reason }),
      clears: ['reason'],
    },
  );
  if (journal.powerAnyway) {
    const { id, body } = journal.powerAnyway;
    return (
      <Notice look="attention" title="Power is meant, as the board is:">
        {body.refs.length > 0 && `without ${body.refs.join(', ')}. `}“{body.reason}”{' '}
        <Button look="quiet" onClick={() => state.append({ kind: 'retract', entry: id })}>
          Take back
        </Button>
      </Notice>
    );
  }
  const why = powerObjection(journal, state.solved);
  if (!why || journal.closed) return null;
  return (
    <details>
      <summary>Power is locked: {why}</summary>
      <Caution of="first-power" again />
      <form noValidate onSubmit={onSubmit}>
        <TextField
          id="power-anyway"
          label="Why it gets power all the same"
          hint="Kept in the report. It holds until the next part comes off or goes on."
          maxLength={300}
          {...field('reason')}
        />
        <Refused words={refusal} />
        <Button type="submit">It is meant</Button>
      </form>
    </details>
  );
}
