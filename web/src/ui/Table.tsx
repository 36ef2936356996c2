import type { TableHTMLAttributes } from 'react';
import style from './Table.module.css';

/**
 * A plain table. asCards: on a telephone each row is a card, its cells one after the other, those
 * with `data-label` under that name. className: the table's own look beside that.
 */
export function Table({
  asCards = false,
  className = '',
  ...rest
}: { asCards?: boolean } & TableHTMLAttributes<HTMLTableElement>) {
  const classes = [style.table, asCards ? style.cards : '', className];
  return <table className={classes.filter(Boolean).join(' ')} {...rest} />;
}
