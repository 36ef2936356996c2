import { renameInSheet, usesInSheet } from '@hanzai/core/board';
import { z } from 'zod';
import { EntryForm } from '../form/EntryForm';
import { typedWords } from '../form/typed';
import { useEntryForm } from '../form/use-entry-form';
import { Button } from '../ui/Button';
import { FormRow } from '../ui/FormRow';
import { Rows } from '../ui/Rows';
import { TextField } from '../ui/TextField';

const RenameTyped = z.object({
  name: typedWords(80, 'say which part or net'),
  as: typedWords(80, 'say what it is called then').refine(
    (text) => !/\s|=|"|#/.test(text),
    'a name without blanks, =, " and #',
  ),
});

/** Where a part or a net is used, and another name for it everywhere. */
export function RenameForm({
  text,
  onRename,
  onGo,
}: {
  text: string;
  onRename: (text: string) => void;
  onGo: (line: number) => void;
}) {
  const entry = useEntryForm(
    RenameTyped,
    { name: '', as: '' },
    {
      enter: ({ name, as }) => {
        if (usesInSheet(text, name).length === 0) return `${name} is on no line`;
        onRename(renameInSheet(text, name, as));
        return undefined;
      },
      clears: ['name', 'as'],
    },
  );
  const name = entry.form.watch('name');
  const uses = name.trim() === '' ? [] : usesInSheet(text, name.trim());
  return (
    <EntryForm label="Find and rename" entry={entry}>
      <h2>Find, rename</h2>
      <FormRow>
        <TextField id="sheet-name" label="Part or net" className="mono" {...entry.field('name')} />
        <TextField id="sheet-as" label="Call it" className="mono" {...entry.field('as')} />
        <Button type="submit">Rename everywhere</Button>
      </FormRow>
      {name.trim() !== '' && (
        <Rows>
          {uses.slice(0, 30).map(({ line, from, text: words }) => (
            <li key={`${line}.${from}`}>
              <span className="mono">{words}</span>
              <Button look="quiet" onClick={() => onGo(line)}>
                line {line}
              </Button>
            </li>
          ))}
          {uses.length === 0 && (
            <li>
              <span>on no line</span>
            </li>
          )}
        </Rows>
      )}
    </EntryForm>
  );
}
