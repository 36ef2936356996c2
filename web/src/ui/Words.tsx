import type { HTMLAttributes } from 'react';
import style from './Words.module.css';

/** Words beside others, smaller and softer. */
export function Small({
  as: Tag = 'p',
  ...rest
}: { as?: 'p' | 'span' } & HTMLAttributes<HTMLElement>) {
  return <Tag className={style.small} {...rest} />;
}
