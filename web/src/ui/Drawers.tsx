import { useId, useState, type KeyboardEvent, type ReactNode } from 'react';
import style from './Drawers.module.css';
import tab from './Tab.module.css';

export interface Drawer {
  readonly key: string;
  readonly label: ReactNode;
  readonly content: ReactNode;
}

/**
 * A few panes of which one is open at a time, or none: the open one is shut by pressing its name
 * again. Arrow keys go from name to name.
 */
export function Drawers({
  label,
  drawers,
  first,
}: {
  label: string;
  drawers: readonly Drawer[];
  /** The one that is open at the start. */
  first?: string | undefined;
}) {
  const id = useId();
  const [open, setOpen] = useState(first);
  const shown = drawers.find(({ key }) => key === open);
  function turn(event: KeyboardEvent<HTMLDivElement>): void {
    const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (by === 0) return;
    const names = [...event.currentTarget.querySelectorAll<HTMLButtonElement>('button')];
    const at = names.indexOf(event.target as HTMLButtonElement);
    names[(at + by + names.length) % names.length]?.focus();
    event.preventDefault();
  }
  return (
    <div className={style.drawers}>
      <div className={style.names} role="group" aria-label={label} onKeyDown={turn}>
        {drawers.map(({ key, label: name }) => (
          <button
            key={key}
            type="button"
            className={tab.tab}
            aria-expanded={key === open}
            aria-controls={id}
            onClick={() => setOpen(key === open ? undefined : key)}
          >
            {name}
          </button>
        ))}
      </div>
      <div id={id} className={style.content} hidden={!shown}>
        {shown?.content}
      </div>
    </div>
  );
}
