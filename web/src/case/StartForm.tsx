import { useState } from 'react';
import type { UnitModel } from '@hanzai/core/block';
import { Button } from '../ui/Button';
import { AnyOf, OneOf } from '../ui/Choices';
import { EntryForm } from '../ui/EntryForm';
import { TextField } from '../ui/TextField';
import { FormRow, Narrow } from '../ui/FormRow';
import type { CaseState } from './use-case';
import { wholeCharacters } from './wording';

/** Every stage worked. */
const THROUGH = '';

/**
 * One start of the unit, written down: where it stopped, how long it took, what was heard, and
 * under which conditions.
 */
export function StartForm({ state, model }: { state: CaseState; model: UnitModel }) {
  const [failedAt, setFailedAt] = useState<string>();
  const [known, setKnown] = useState<readonly string[]>(() => lastConditions(state, model).known);
  const [words, setWords] = useState(() => lastConditions(state, model).words);
  const [seconds, setSeconds] = useState('');
  const [tries, setTries] = useState('1');
  const [sounds, setSounds] = useState('');

  function add(): string | undefined {
    if (failedAt === undefined) return 'say first which stage it does not reach';
    const time = seconds.trim() === '' ? undefined : Number(seconds);
    if (time !== undefined && !(time >= 0 && time <= 86_400))
      return `“${seconds}” is no time; expected seconds such as 4 or 12.5`;
    const count = Number(tries);
    if (!Number.isInteger(count) || count < 1 || count > 99)
      return `“${tries}” is no number of tries; expected 1 to 99`;
    const free = words
      .split(',')
      .map((word) => word.trim().toLowerCase())
      .filter(Boolean);
    if (free.some((word) => word.length > 60) || known.length + free.length > 12)
      return 'at most 12 conditions of at most 60 characters';
    const objection = state.append({
      kind: 'start',
      failedAt: failedAt === THROUGH ? null : failedAt,
      ...(time === undefined ? {} : { seconds: time }),
      tries: count,
      sounds: wholeCharacters(sounds.trim(), 200),
      conditions: [...known, ...free],
    });
    if (objection) return objection;
    setFailedAt(undefined);
    setSeconds('');
    setTries('1');
    setSounds('');
    return undefined;
  }

  return (
    <EntryForm label="A start of the unit" onAdd={add}>
      <OneOf
        name="failed-at"
        legend="Which of these is the first that it does not do?"
        value={failedAt}
        onChange={setFailedAt}
        choices={[
          ...model.stages.map(({ name, title }) => ({ value: name, words: title })),
          { value: THROUGH, words: 'it does them all' },
        ]}
      />
      {(model.conditions ?? []).length > 0 && (
        <AnyOf
          legend="As it stood"
          values={known}
          onChange={setKnown}
          choices={model.conditions!.map(({ name, title }) => ({ value: name, words: title }))}
        />
      )}
      <FormRow>
        <TextField
          id="start-words"
          label="Other conditions, by commas"
          value={words}
          onChange={(event) => setWords(event.target.value)}
          placeholder="cold, lid off"
        />
        <Narrow>
          <TextField
            id="start-seconds"
            label="Seconds"
            inputMode="decimal"
            value={seconds}
            onChange={(event) => setSeconds(event.target.value)}
          />
        </Narrow>
        <Narrow>
          <TextField
            id="start-tries"
            label="Tries"
            inputMode="numeric"
            value={tries}
            onChange={(event) => setTries(event.target.value)}
          />
        </Narrow>
        <TextField
          id="start-sounds"
          label="Sounds"
          value={sounds}
          onChange={(event) => setSounds(event.target.value)}
          placeholder="hum, whine, silence"
        />
        <Button type="submit">Add the start</Button>
      </FormRow>
    </EntryForm>
  );
}

/** Conditions of the last start, to begin the next from: mostly they are the same. */
function lastConditions(
  { journal }: CaseState,
  model: UnitModel,
): { known: readonly string[]; words: string } {
  const conditions = journal.starts.at(-1)?.body.conditions ?? [];
  const isKnown = (name: string): boolean =>
    model.conditions?.some((condition) => condition.name === name) === true;
  return {
    known: conditions.filter(isKnown),
    words: conditions.filter((name) => !isKnown(name)).join(', '),
  };
}
