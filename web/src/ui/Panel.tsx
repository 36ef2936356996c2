import type { ReactNode } from 'react';
import style from './Panel.module.css';

/**
 * A part of a working screen under a heading of its own. aside: words beside the heading. framed:
 * on a sheet of its own.
 */
export function Panel({
  title,
  aside,
  framed = false,
  children,
}: {
  title: string;
  aside?: ReactNode;
  framed?: boolean;
  children: ReactNode;
}) {
  return (
    <section className={`${style.panel} ${framed ? style.framed : ''}`} aria-label={title}>
      <header>
        <h2>{title}</h2>
        {aside && <span className={style.aside}>{aside}</span>}
      </header>
      <div className={style.body}>{children}</div>
    </section>
  );
}
