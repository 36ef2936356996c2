import { useEffect, useRef, type ReactNode } from 'react';
import style from './More.module.css';

/** Things that are pressed rarely, behind one button. Escape, a press on one or elsewhere shuts it. */
export function More({ label, children }: { label: string; children: ReactNode }) {
  const element = useRef<HTMLDetailsElement>(null);
  const shut = (): void => element.current?.removeAttribute('open');
  useEffect(() => {
    const outside = (event: PointerEvent): void => {
      if (!element.current?.contains(event.target as Node)) shut();
    };
    document.addEventListener('pointerdown', outside);
    return () => document.removeEventListener('pointerdown', outside);
  }, []);
  return (
    <details
      ref={element}
      className={style.more}
      onKeyDown={(event) => {
        if (event.key !== 'Escape' || !element.current?.open) return;
        shut();
        element.current.querySelector('summary')?.focus();
        event.stopPropagation();
      }}
    >
      <summary>{label}</summary>
      <div className={style.list} onClick={shut}>
        {children}
      </div>
    </details>
  );
}
