import type { ButtonHTMLAttributes, ReactNode } from 'react';
import style from './Button.module.css';

/**
 * A thing to press. main: the one action a screen is for. plain: everything else. quiet: beside
 * text. attention: what somebody has to see.
 */
export function Button({
  look = 'plain',
  children,
  ...rest
}: {
  look?: 'main' | 'plain' | 'quiet' | 'attention';
  children: ReactNode;
} & ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button type="button" className={`${style.button} ${style[look]}`} {...rest}>
      {children}
    </button>
  );
}

/** A link that looks like a button. */
export function ButtonLink({
  look = 'plain',
  href,
  label,
  children,
}: {
  look?: 'main' | 'plain' | 'quiet';
  href: string;
  /** What it is called where its words alone do not say it. */
  label?: string;
  children: ReactNode;
}) {
  return (
    <a aria-label={label} className={`${style.button} ${style[look]}`} href={href}>
      {children}
    </a>
  );
}
