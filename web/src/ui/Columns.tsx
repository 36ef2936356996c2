import type { FormHTMLAttributes, HTMLAttributes } from 'react';
import style from './Columns.module.css';

/** Two columns of a working screen. */
export function Columns(props: HTMLAttributes<HTMLDivElement>) {
  return <div className={style.columns} {...props} />;
}

/** One of them: panels below each other. */
export function Column(props: HTMLAttributes<HTMLDivElement>) {
  return <div className={style.column} {...props} />;
}

/** Things close below each other. */
export function Stack({
  as: Tag = 'div',
  ...rest
}: { as?: 'div' | 'form' } & FormHTMLAttributes<HTMLElement>) {
  return <Tag className={style.stack} {...(rest as object)} />;
}
