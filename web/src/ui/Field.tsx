import type { ReactNode } from 'react';
import style from './Field.module.css';

/** A labelled form control with room for a hint and for what is wrong. */
export function Field({ label, hint, error, children, id }: { label: string; hint?: string; error?: string | undefined; id: string; children: ReactNode }) {
  return (
    <div className={style.field}>
      <label htmlFor={id}>{label}</label>
      {children}
      {hint && !error && <p className={style.hint}>{hint}</p>}
      {error && (
        <p className={style.error} role="alert">
          {error}
        </p>
      )}
    </div>
  );
}
