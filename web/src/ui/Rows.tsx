import type { HTMLAttributes } from 'react';
import style from './Rows.module.css';

/** A list of lines, each with what can be done about it at its end. */
export function Rows({
  as: Tag = 'ul',
  ...rest
}: { as?: 'ul' | 'ol' } & HTMLAttributes<HTMLElement>) {
  return <Tag className={style.rows} {...(rest as object)} />;
}
