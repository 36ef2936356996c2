import { FormRow, Narrow } from '../ui/FormRow';
import { TextField } from '../ui/TextField';
import type { Typed } from './numbers';

/**
 * Fields of figures in one row, for a sum that is worked out as one types and files nothing: each
 * by its name, with its label and unit. `numbersOf` reads what was typed.
 */
export function NumberFields<Name extends string>({
  id,
  fields,
  typed,
  onType,
}: {
  /** Stands before the names in the ids of the fields. */
  id: string;
  fields: readonly (readonly [name: Name, label: string])[];
  typed: Typed<Name>;
  onType: (typed: Typed<Name>) => void;
}) {
  return (
    <FormRow>
      {fields.map(([name, label]) => (
        <Narrow key={name}>
          <TextField
            id={`${id}-${name}`}
            label={label}
            className="mono"
            inputMode="decimal"
            value={typed[name] ?? ''}
            onChange={(event) => onType({ ...typed, [name]: event.target.value })}
          />
        </Narrow>
      ))}
    </FormRow>
  );
}
