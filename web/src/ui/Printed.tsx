import { useEffect, type ReactNode } from 'react';
import { createPortal } from 'react-dom';
import style from './Printed.module.css';

/** A sheet of paper that is no part of the screen: it is printed as soon as it is shown. */
export function Printed({ children, onDone }: { children: ReactNode; onDone: () => void }) {
  useEffect(() => {
    window.print();
    onDone();
  }, [onDone]);
  return createPortal(<div className={style.sheet}>{children}</div>, document.body);
}
