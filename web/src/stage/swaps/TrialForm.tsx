import { useState } from 'react';
import type { UnitModel } from '@hanzai/core/block';
import type { CaseState } from '../../case/use-case';
import { Button } from '../../ui/Button';
import { AnyOf } from '../../ui/Choices';
import { EntryForm } from '../../ui/EntryForm';
import { Field } from '../../ui/Field';
import { TextField } from '../../ui/TextField';
import { FormRow, Narrow } from '../../ui/FormRow';
import { wholeCharacters } from '../../case/wording';

/**
 * A trial of one's own: which blocks of this unit were in use, the rest known good, and how it
 * went.
 */
export function TrialForm({ state, model }: { state: CaseState; model: UnitModel }) {
  const [way, setWay] = useState<'in' | 'out'>('out');
  const [blocks, setBlocks] = useState<readonly string[]>([]);
  const [passed, setPassed] = useState('');
  const [failed, setFailed] = useState('');
  const [note, setNote] = useState('');

  function add(): string | undefined {
    const counts = [passed, failed].map((text) => (text.trim() === '' ? 0 : Number(text)));
    if (counts.some((count) => !Number.isInteger(count) || count < 0 || count > 999))
      return 'counts are whole numbers from 0 to 999';
    if (blocks.length === 0) return 'say which blocks were swapped';
    const exercised =
      way === 'in'
        ? [...blocks]
        : model.blocks.map(({ name }) => name).filter((name) => !blocks.includes(name));
    if (exercised.length === 0) return 'then nothing of this unit was in use: it says nothing';
    const names = blocks
      .map((name) => model.blocks.find((block) => block.name === name)!.title.toLowerCase())
      .join(', ');
    const objection = state.append({
      kind: 'trial',
      title: (way === 'in'
        ? `this unit's ${names} in a known-good unit`
        : `known-good ${names} in this unit`
      ).slice(0, 200),
      exercised,
      passed: counts[0]!,
      failed: counts[1]!,
      note: wholeCharacters(note.trim(), 300),
    });
    if (objection) return objection;
    setBlocks([]);
    setPassed('');
    setFailed('');
    setNote('');
    return undefined;
  }

  return (
    <EntryForm label="A trial" onAdd={add}>
      <FormRow>
        <Field id="trial-way" label="Swapped">
          <select
            id="trial-way"
            value={way}
            onChange={(event) => setWay(event.target.value as 'in' | 'out')}
          >
            <option value="out">known-good parts into this unit</option>
            <option value="in">parts of this unit into a known-good one</option>
          </select>
        </Field>
      </FormRow>
      <AnyOf
        legend="Which"
        values={blocks}
        onChange={setBlocks}
        choices={model.blocks.map(({ name, title }) => ({ value: name, words: title }))}
      />
      <FormRow>
        <Narrow>
          <TextField
            id="trial-passed"
            label="Times good"
            inputMode="numeric"
            value={passed}
            onChange={(event) => setPassed(event.target.value)}
          />
        </Narrow>
        <Narrow>
          <TextField
            id="trial-failed"
            label="Times bad"
            inputMode="numeric"
            value={failed}
            onChange={(event) => setFailed(event.target.value)}
          />
        </Narrow>
        <TextField
          id="trial-note"
          label="Condition, note"
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
        <Button type="submit">Add the trial</Button>
      </FormRow>
    </EntryForm>
  );
}
