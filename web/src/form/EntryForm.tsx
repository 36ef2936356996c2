import type { FormEvent, ReactNode } from 'react';
import { Stack } from '../ui/Columns';
import tone from '../ui/Words.module.css';

/** Why a form was not taken, where none of its fields says it. */
export function Refused({ words }: { words: string | undefined }) {
  if (words === undefined) return null;
  return (
    <p role="alert" className={tone.attention}>
      {words}
    </p>
  );
}

/** A small form that files one thing, with what stands against it at its foot. */
export function EntryForm({
  label,
  entry,
  children,
}: {
  label: string;
  entry: { readonly refusal: string | undefined; readonly onSubmit: (event: FormEvent) => void };
  children: ReactNode;
}) {
  return (
    <Stack as="form" aria-label={label} noValidate onSubmit={entry.onSubmit}>
      {children}
      <Refused words={entry.refusal} />
    </Stack>
  );
}
