import type { TableHTMLAttributes } from 'react';
import style from './Table.module.css';

/** A plain table. */
export function Table(props: TableHTMLAttributes<HTMLTableElement>) {
  return <table className={style.table} {...props} />;
}
