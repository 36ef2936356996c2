import type { DetailsHTMLAttributes } from 'react';
import style from './Fold.module.css';

/** Something that is opened when it is wanted; its first child is its `summary`. */
export function Fold(props: DetailsHTMLAttributes<HTMLDetailsElement>) {
  return <details className={style.fold} {...props} />;
}
