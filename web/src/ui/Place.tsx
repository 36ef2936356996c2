import type { ReactNode } from 'react';
import style from './Place.module.css';

/** A place of its own beside the cases: its sections one under the other. */
export function Place({ children }: { children: ReactNode }) {
  return <main className={style.place}>{children}</main>;
}
