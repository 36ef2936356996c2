import type { ComponentProps } from 'react';
import { Field } from './Field';

/** A field of one line of text or one number. Everything but label, hint and error is the input's. */
export function TextField({
  id,
  label,
  hint,
  error,
  ...input
}: {
  id: string;
  label: string;
  hint?: string | undefined;
  error?: string | undefined;
} & ComponentProps<'input'>) {
  return (
    <Field id={id} label={label} hint={hint} error={error}>
      <input id={id} {...input} />
    </Field>
  );
}
