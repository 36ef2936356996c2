import { useEffect, useRef, type ReactNode } from 'react';
import { Button } from './Button';
import style from './Dialog.module.css';

/** A dialog over the page. Escape and the button close it; focus returns where it was. */
export function Dialog({
  title,
  open,
  onClose,
  children,
  wide = false,
}: {
  title: string;
  open: boolean;
  onClose: () => void;
  children: ReactNode;
  wide?: boolean;
}) {
  const element = useRef<HTMLDialogElement>(null);
  useEffect(() => {
    const dialog = element.current;
    if (open && dialog && !dialog.open) {
      dialog.showModal();
      dialog.querySelector('input')?.focus();
    }
    if (!open && dialog?.open) dialog.close();
  }, [open]);
  return (
    <dialog
      ref={element}
      className={`${style.dialog} ${wide ? style.wide : ''}`}
      onClose={onClose}
      aria-label={title}
    >
      {open && (
        <>
          <header className={style.head}>
            <h2>{title}</h2>
            <Button look="quiet" onClick={onClose}>
              Close
            </Button>
          </header>
          {children}
        </>
      )}
    </dialog>
  );
}
