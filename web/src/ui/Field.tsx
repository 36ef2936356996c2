import { Children, cloneElement, isValidElement, type ReactElement, type ReactNode } from 'react';
import style from './Field.module.css';

/** What ties a control to the words beneath it, for those who hear the screen. */
interface Told {
  readonly id?: string;
  readonly 'aria-describedby'?: string;
  readonly 'aria-invalid'?: true | undefined;
}

/**
 * A labelled form control with room for a hint and for what is wrong. The control is the child with
 * this id.
 */
export function Field({
  label,
  hint,
  error,
  children,
  id,
}: {
  label: string;
  hint?: string | undefined;
  error?: string | undefined;
  id: string;
  children: ReactNode;
}) {
  const says = `${id}-says`;
  const told = (child: ReactNode): ReactNode =>
    (hint || error) &&
    isValidElement<Told>(child) &&
    typeof child.type === 'string' &&
    child.props.id === id
      ? cloneElement(child as ReactElement<Told>, {
          'aria-describedby': says,
          'aria-invalid': error ? true : undefined,
        })
      : child;
  return (
    <div className={style.field}>
      <label htmlFor={id}>{label}</label>
      {Children.map(children, told)}
      {hint && !error && (
        <p className={style.hint} id={says}>
          {hint}
        </p>
      )}
      {error && (
        <p className={style.error} id={says} role="alert">
          {error}
        </p>
      )}
    </div>
  );
}
