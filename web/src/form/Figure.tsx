import type { ComponentProps } from 'react';
import { Narrow } from '../ui/FormRow';
import { TextField } from '../ui/TextField';

/** A narrow field of one figure, with the keys for it on a touch screen. whole: it has no decimals. */
export function Figure({
  whole = false,
  ...field
}: { whole?: boolean } & ComponentProps<typeof TextField>) {
  return (
    <Narrow>
      <TextField inputMode={whole ? 'numeric' : 'decimal'} {...field} />
    </Narrow>
  );
}
