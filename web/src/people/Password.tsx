import type { ComponentProps } from 'react';
import { TextField } from '../ui/TextField';

/** A field for a password. isNew: one that is being chosen. */
export function Password({
  isNew = false,
  onType,
  ...field
}: Omit<ComponentProps<typeof TextField>, 'onChange'> & {
  isNew?: boolean;
  onType: (password: string) => void;
}) {
  return (
    <TextField
      {...field}
      type="password"
      autoComplete={isNew ? 'new-password' : 'current-password'}
      required
      onChange={({ target }) => onType(target.value)}
    />
  );
}
