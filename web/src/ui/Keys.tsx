import { useState, type ReactNode } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { Dialog } from './Dialog';
import style from './Keys.module.css';

/** The keys of this screen, shown by `?`. */
export function Keys({
  keys,
  children,
}: {
  keys: readonly (readonly [string, string])[];
  /** What else is shown with them. */
  children?: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  useHotkeys('?', () => setOpen(true), { useKey: true });
  return (
    <Dialog title="Keys of this screen" open={open} onClose={() => setOpen(false)}>
      <dl className={style.keys}>
        {keys.map(([key, words]) => (
          <div key={key}>
            <dt>
              <kbd>{key}</kbd>
            </dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
      {open && children}
      <p>
        <a href="/guide">The guide: a first repair in fifteen minutes</a>.{' '}
        <a href="/practice">Practice</a> has a tour of the reading line in five.
      </p>
    </Dialog>
  );
}
