import type { ReactNode } from 'react';
import style from './Notice.module.css';

/**
 * A message in its place. attention: look here. harm: can hurt somebody or lose something. good:
 * proven. plain: the rest.
 */
export function Notice({
  look = 'plain',
  title,
  children,
  live = false,
}: {
  look?: 'plain' | 'attention' | 'harm' | 'good';
  title?: string;
  children: ReactNode;
  live?: boolean;
}) {
  return (
    <div className={`${style.notice} ${style[look]}`} role={live ? 'status' : undefined}>
      {title && <strong>{title} </strong>}
      {children}
    </div>
  );
}
