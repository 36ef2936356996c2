import { useState, type ReactNode } from 'react';
import { Stack } from './Columns';
import tone from './Words.module.css';

/**
 * A small form that files one thing. onAdd: files it and says why not, where it cannot be; what was
 * typed stays then.
 */
export function EntryForm({
  label,
  onAdd,
  children,
}: {
  label: string;
  onAdd: () => string | undefined;
  children: ReactNode;
}) {
  const [refusal, setRefusal] = useState<string>();
  return (
    <Stack
      as="form"
      aria-label={label}
      onSubmit={(event) => {
        event.preventDefault();
        setRefusal(onAdd());
      }}
    >
      {children}
      {refusal && (
        <p role="alert" className={tone.attention}>
          {refusal}
        </p>
      )}
    </Stack>
  );
}
