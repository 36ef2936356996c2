import { partValue } from '@hanzai/core/board';
import { formatQuantity } from '@hanzai/core/quantity';
import { ohmText, type SurveyRow } from './use-survey';
import style from './Survey.module.css';

const VERDICT_WORDS = {
  good: 'good',
  doubtful: 'doubtful',
  bad: 'BAD',
  'cannot-judge': 'not judged here',
} as const;
/** Every capacitor with what was read, what that says, and what settles it. next: read now. */
export function SurveyTable({
  rows,
  next,
  onPlace,
}: {
  readonly rows: readonly SurveyRow[];
  readonly next: string | undefined;
  readonly onPlace: (text: string) => void;
}) {
  return (
    <table className={style.table} aria-label="Capacitors">
      <thead>
        <tr>
          <th scope="col">part</th>
          <th scope="col">value</th>
          <th scope="col">read</th>
          <th scope="col">sound</th>
          <th scope="col">verdict</th>
          <th scope="col">why, and what settles it</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <Row key={row.part.ref} row={row} isNext={row.part.ref === next} onPlace={onPlace} />
        ))}
      </tbody>
    </table>
  );
}

function Row({
  row: { part, read, isSkipped, alone, judged },
  isNext,
  onPlace,
}: {
  readonly row: SurveyRow;
  readonly isNext: boolean;
  readonly onPlace: (text: string) => void;
}) {
  const where = [part.side === 'bottom' ? 'below' : '', part.role ?? ''].filter(Boolean).join(', ');
  const settle = judged?.settle;
  return (
    <tr
      data-next={isNext}
      aria-current={isNext ? 'step' : undefined}
      ref={(element) => {
        if (isNext) element?.scrollIntoView({ block: 'nearest' });
      }}
    >
      <th scope="row">
        <button type="button" onClick={() => onPlace(part.ref.toLowerCase())}>
          {part.ref}
        </button>
      </th>
      <td>
        {partValue(part)}
        {part.ratedVolt !== undefined && ` ${part.ratedVolt} V`} <small>{where}</small>
      </td>
      <td className="mono">
        {read === undefined
          ? isSkipped
            ? 'out of reach'
            : isNext
              ? 'now'
              : ''
          : typeof read === 'number'
            ? formatQuantity(read, 'ohm', 2)
            : read}
      </td>
      <td className="mono">{ohmText(judged?.expectedOhm)}</td>
      <td className={style.verdict} data-verdict={read === undefined ? '' : judged?.verdict}>
        {read === undefined ? '' : judged ? VERDICT_WORDS[judged.verdict] : '…'}
      </td>
      <td>
        {read !== undefined && judged?.because}
        {alone && (
          <small>
            by itself <b>{VERDICT_WORDS[alone.verdict]}</b>: {alone.because.join('; ')}
          </small>
        )}
        {read !== undefined && settle?.kind === 'resistance' && (
          <>
            {' '}
            <button
              type="button"
              onClick={() => onPlace(`${settle.at} ${settle.to}`.toLowerCase())}
            >
              Type its ohms
            </button>
          </>
        )}
      </td>
    </tr>
  );
}
