import Moon from 'lucide-react/icons/moon';
import { useState, type ReactNode } from 'react';
import style from './Masthead.module.css';

function switchTheme(): void {
  const root = document.documentElement;
  const next = root.dataset.theme === 'night' ? 'day' : 'night';
  root.dataset.theme = next;
  localStorage.setItem('theme', next);
}

/**
 * The band across the top of every screen: where one is, and the way to the docket and the boards.
 */
export function Masthead({ here, children }: { here: string; children?: ReactNode }) {
  const [, redraw] = useState(0);
  return (
    <header className={style.band}>
      <a className={style.name} href="/" aria-label="Hanzai">
        <img src="/pad.svg" alt="" width="26" height="26" /> <span>Hanzai</span>
      </a>
      <nav className={`${style.ways} ${here === 'case' ? style.inCase : ''}`} aria-label="Workshop">
        <a href="/" aria-current={here === 'docket' ? 'page' : undefined}>
          Docket
        </a>
        <a href="/boards" aria-current={here === 'boards' ? 'page' : undefined}>
          Boards
        </a>
        <a href="/stock" aria-current={here === 'stock' ? 'page' : undefined}>
          Stock
        </a>
        <a href="/patterns" aria-current={here === 'patterns' ? 'page' : undefined}>
          Patterns
        </a>
        <a href="/instruments" aria-current={here === 'instruments' ? 'page' : undefined}>
          Instruments
        </a>
        <a href="/reckoner" aria-current={here === 'reckoner' ? 'page' : undefined}>
          Reckoner
        </a>
        <a href="/practice" aria-current={here === 'practice' ? 'page' : undefined}>
          Practice
        </a>
      </nav>
      <div className={style.middle}>{children}</div>
      <button
        type="button"
        className={style.theme}
        onClick={() => {
          switchTheme();
          redraw((n) => n + 1);
        }}
        title="Day paper or night bench"
      >
        <Moon size={18} aria-hidden="true" /> <span>Day / night</span>
      </button>
    </header>
  );
}
