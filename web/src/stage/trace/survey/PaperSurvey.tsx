import { partValue } from '@hanzai/core/board';
import { ohmText, type SurveyRow } from './use-survey';

/** A sheet to be filled by hand: what was not read has an empty line, to be typed as one column. */
export function PaperSurvey({ rows, title }: { rows: readonly SurveyRow[]; title: string }) {
  return (
    <>
      <h1>{title}</h1>
      <p>
        Capacitor survey. Power off, the stores empty. Leads held together: ______ Ω. Fill the
        column from above, a dash for what is out of reach; then start the list{' '}
        <i>every capacitor, ESR</i> in Trace and type the column, with blanks between, into the
        reading line.
      </p>
      <table>
        <thead>
          <tr>
            <th scope="col">part</th>
            <th scope="col">value</th>
            <th scope="col">where</th>
            <th scope="col">sound, Ω</th>
            <th scope="col">ESR read, Ω</th>
            <th scope="col">seen</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ part, read, judged }) => (
            <tr key={part.ref}>
              <th scope="row">{part.ref}</th>
              <td>
                {partValue(part)}
                {part.ratedVolt !== undefined && ` ${part.ratedVolt} V`}
              </td>
              <td>
                {part.positionMm ? `${part.positionMm.join(', ')} mm` : ''}{' '}
                {part.side === 'bottom' ? 'below' : ''} {part.role ?? ''}
              </td>
              <td>{ohmText(judged?.expectedOhm)}</td>
              <td>{read === undefined ? '________' : String(read)}</td>
              <td>________</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
