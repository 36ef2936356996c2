import { z } from 'zod';
import { neverMoved } from '@hanzai/core/adjust';
import { nameKey } from '@hanzai/core/board';
import { parseQuantity } from '@hanzai/core/quantity';
import type { CaseState } from '../../case/use-case';
import { EntryForm } from '../../form/EntryForm';
import { maybeWords, typedWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button } from '../../ui/Button';
import { FormRow, Narrow } from '../../ui/FormRow';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import { TextField } from '../../ui/TextField';

const UNITS = ['', 'ohm', 'V', 'A', 'Hz'] as const;
type Unit = (typeof UNITS)[number];

/** What a setting was read at: `183R`, `1k52`, `0.48V`; may be left out. */
const maybeReading = z.string().transform((text, context) => {
  if (text.trim() === '') return undefined;
  const read = parseQuantity(text);
  const unit = read.ok ? UNITS.find((one) => one === read.unit) : undefined;
  if (read.ok && read.value !== 'OL' && unit !== undefined)
    // Trimmers are read in ohms where nothing else is said.
    return { value: read.value, unit: unit === '' ? ('ohm' as Unit) : unit };
  context.addIssue(`“${text}” is no reading; expected 183R, 1k52 or 0.48V`);
  return z.NEVER;
});

const FoundTyped = z.object({
  ref: typedWords(40, 'name what can be set, for example RV1 or spindle phase'),
  reading: maybeReading,
  mark: maybeWords(200),
  reason: maybeWords(300),
});

/** How something that can be set was found, before anybody touches it. */
export function AsFoundForm({ state }: { state: CaseState }) {
  const { journal, index } = state;
  const entry = useEntryForm(
    FoundTyped,
    { ref: '', reading: '', mark: '', reason: '' },
    {
      enter: ({ ref, reading, mark, reason }) =>
        state.append({
          kind: 'asFound',
          ref: index?.partByKey.get(nameKey(ref))?.ref ?? ref,
          ...(reading ? { reading: reading.value } : {}),
          unit: reading?.unit ?? '',
          mark,
          reason,
        }),
      clears: ['ref', 'reading', 'mark', 'reason'],
    },
  );
  const ref = entry.form.watch('ref');
  const never = ref.trim() === '' ? undefined : neverMoved(index, ref.trim());
  const settable = (index?.board.parts ?? []).filter(
    (part) =>
      /^(RV|VR|VC|TR|P)\d/i.test(part.ref) || /trim|adjust|set ?point/i.test(part.role ?? ''),
  );
  return (
    <Panel title="As found" aside="its reading or a mark, before the first touch">
      <EntryForm label="A setting as found" entry={entry}>
        <FormRow>
          <Narrow>
            <TextField
              id="found-ref"
              label="What"
              className="mono"
              placeholder="RV1"
              list="settable"
              {...entry.field('ref')}
            />
          </Narrow>
          <Narrow>
            <TextField
              id="found-reading"
              label="Reading"
              className="mono"
              placeholder="183R"
              {...entry.field('reading')}
            />
          </Narrow>
          <TextField
            id="found-mark"
            label="Mark made"
            placeholder="pencil line, slot at four o’clock"
            {...entry.field('mark')}
          />
          <TextField
            id="found-reason"
            label="Or why neither"
            placeholder="under the shield"
            {...entry.field('reason')}
          />
          <Button type="submit" disabled={journal.closed}>
            Write it down
          </Button>
        </FormRow>
        <datalist id="settable">
          {settable.map((part) => (
            <option key={part.ref} value={part.ref}>
              {part.role ?? ''}
            </option>
          ))}
        </datalist>
        {never !== undefined && (
          <Notice look="attention" title="Never moved:">
            {never}.
          </Notice>
        )}
      </EntryForm>
    </Panel>
  );
}
