import type { TableHTMLAttributes } from 'react';
import style from './Table.module.css';

/**
 * A plain table. asCards: on a telephone each row is a card, its cells one after the other, those
 * with `data-label` under that name.
 */
export function Table({
  asCards = false,
  ...rest
}: { asCards?: boolean } & TableHTMLAttributes<HTMLTableElement>) {
  return <table className={`${style.table} ${asCards ? style.cards : ''}`} {...rest} />;
}
