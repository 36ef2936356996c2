import type { HTMLAttributes } from 'react';
import style from './FormRow.module.css';

/** Fields of a small form in a row, as many as there is room for. */
export function FormRow({
  as: Tag = 'div',
  ...rest
}: { as?: 'div' | 'form' } & HTMLAttributes<HTMLElement>) {
  return <Tag className={style.form} {...rest} />;
}

/** A field of a form row that needs little room: a number, a choice of two. */
export function Narrow(props: HTMLAttributes<HTMLDivElement>) {
  return <div className={style.narrow} {...props} />;
}

/** Things to press, side by side. */
export function Actions({
  as: Tag = 'div',
  ...rest
}: { as?: 'div' | 'span' | 'p' | 'form' } & HTMLAttributes<HTMLElement>) {
  return <Tag className={style.actions} {...rest} />;
}
