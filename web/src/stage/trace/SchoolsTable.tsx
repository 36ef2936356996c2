import { minutesText, oddsWords } from '../../case/wording';
import type { NextStep } from '../../workers/engine-messages';
import style from './NextCard.module.css';

/** The two ways to go on, with the price of each. */
export function SchoolsTable({ schools }: { schools: NonNullable<NextStep['schools']> }) {
  const rows = [
    ['measure first', schools.measureFirst],
    ['replace the usual first', schools.replaceFirst],
  ] as const;
  return (
    <table className={style.schools}>
      <caption>Two schools, for this case</caption>
      <thead>
        <tr>
          <th scope="col">way</th>
          <th scope="col">to a proven repair</th>
          <th scope="col">parts</th>
          <th scope="col">a pad harmed</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(([title, { minutes, parts, harm }]) => (
          <tr key={title}>
            <th scope="row">{title}</th>
            <td>{minutesText(Math.round(minutes))}</td>
            <td>{parts.toFixed(1)}</td>
            <td>{oddsWords(harm)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
