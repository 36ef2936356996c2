import type { ReactNode } from 'react';
import { Button } from '../../ui/Button';
import style from './Pane.module.css';

/** What opens in the place of the map or below it: a heading with its tools, and a way out. */
export function Pane({
  title,
  tools,
  fills = false,
  keepsHead = false,
  onClose,
  children,
}: {
  title: string;
  tools?: ReactNode;
  /** Whether it takes the room of the map. */
  fills?: boolean;
  /** Whether the heading stays in sight while the rest is scrolled. */
  keepsHead?: boolean;
  onClose: () => void;
  children: ReactNode;
}) {
  return (
    <section
      className={`${style.pane} ${fills ? style.fills : ''} ${keepsHead ? style.keepsHead : ''}`}
      aria-label={title}
    >
      <header>
        <h2>{title}</h2>
        {tools}
        <Button look="quiet" onClick={onClose}>
          Close
        </Button>
      </header>
      {children}
    </section>
  );
}
