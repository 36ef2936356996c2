import { useState } from 'react';
import { Button } from '../ui/Button';
import { TextField } from '../ui/TextField';
import { Notice } from '../ui/Notice';
import { Caution } from './Caution';
import { powerObjection } from './rules';
import type { CaseState } from './use-case';

/**
 * Power on a board that is not whole, or not read through: only with a reason, which the report
 * keeps.
 */
export function PowerAnyway({ state }: { state: CaseState }) {
  const { journal, index } = state;
  const [reason, setReason] = useState('');
  const [refusal, setRefusal] = useState<string>();
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
  const why = powerObjection(index, journal, state.solved);
  if (!why || journal.closed) return null;
  return (
    <details>
      <summary>Power is locked: {why}</summary>
      <Caution of="first-power" again />
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (reason.trim().length < 3)
            return setRefusal(
              'a few words, for example: the motor is off, only logic is to be read',
            );
          setRefusal(
            state.append({
              kind: 'powerAnyway',
              refs: [...journal.missing],
              reason: reason.trim(),
            }),
          );
        }}
      >
        <TextField
          id="power-anyway"
          label="Why it gets power all the same"
          error={refusal}
          hint="Kept in the report. It holds until the next part comes off or goes on."
          value={reason}
          maxLength={300}
          onChange={(event) => setReason(event.target.value)}
        />
        <Button type="submit">It is meant</Button>
      </form>
    </details>
  );
}
