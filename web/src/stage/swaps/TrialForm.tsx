import { z } from 'zod';
import type { UnitModel } from '@hanzai/core/block';
import type { CaseState } from '../../case/use-case';
import { Figure } from '../../form/Figure';
import { Button } from '../../ui/Button';
import { AnyOf } from '../../ui/Choices';
import { EntryForm } from '../../form/EntryForm';
import { countWithin, maybeNumber, maybeWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Field } from '../../ui/Field';
import { TextField } from '../../ui/TextField';
import { FormRow } from '../../ui/FormRow';

const times = maybeNumber({
  fits: countWithin(0, 999),
  words: 'no count; expected a whole number from 0 to 999',
}).transform((count) => count ?? 0);

const TrialTyped = z.object({
  way: z.enum(['in', 'out']),
  blocks: z.array(z.string()).min(1, 'say which blocks were swapped'),
  passed: times,
  failed: times,
  note: maybeWords(300),
});

/**
 * A trial of one's own: which blocks of this unit were in use, the rest known good, and how it
 * went.
 */
export function TrialForm({ state, model }: { state: CaseState; model: UnitModel }) {
  function enter({ way, blocks, ...rest }: z.output<typeof TrialTyped>): string | undefined {
    const others = model.blocks.map(({ name }) => name).filter((name) => !blocks.includes(name));
    const exercised = way === 'in' ? blocks : others;
    if (exercised.length === 0) return 'then nothing of this unit was in use: it says nothing';
    const names = blocks
      .map((name) => model.blocks.find((block) => block.name === name)!.title.toLowerCase())
      .join(', ');
    const title =
      way === 'in'
        ? `this unit's ${names} in a known-good unit`
        : `known-good ${names} in this unit`;
    return state.append({ kind: 'trial', title: title.slice(0, 200), exercised, ...rest });
  }

  const entry = useEntryForm(
    TrialTyped,
    { way: 'out', blocks: [], passed: '', failed: '', note: '' },
    { enter, clears: ['blocks', 'passed', 'failed', 'note'], choices: ['blocks'] },
  );
  const { field, choice } = entry;

  return (
    <EntryForm label="A trial" entry={entry}>
      <FormRow>
        <Field id="trial-way" label="Swapped">
          <select id="trial-way" {...entry.form.register('way')}>
            <option value="out">known-good parts into this unit</option>
            <option value="in">parts of this unit into a known-good one</option>
          </select>
        </Field>
      </FormRow>
      <AnyOf
        legend="Which"
        {...choice('blocks')}
        choices={model.blocks.map(({ name, title }) => ({ value: name, words: title }))}
      />
      <FormRow>
        <Figure id="trial-passed" label="Times good" whole {...field('passed')} />
        <Figure id="trial-failed" label="Times bad" whole {...field('failed')} />
        <TextField id="trial-note" label="Condition, note" {...field('note')} />
        <Button type="submit">Add the trial</Button>
      </FormRow>
    </EntryForm>
  );
}
