import type { ReactNode } from 'react';
import sheet from './Sheet.module.css';

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
    <section className={`${sheet.panel} ${framed ? sheet.framed : ''}`} aria-label={title}>
      <header>
        <h2>{title}</h2>
        {aside && <span className={sheet.aside}>{aside}</span>}
      </header>
      <div className={sheet.body}>{children}</div>
    </section>
  );
}
