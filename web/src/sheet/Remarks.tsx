import { mendingsOf, type Board, type PartReport } from '@hanzai/core/board';
import { Button } from '../ui/Button';
import { Fold } from '../ui/Fold';
import { Actions } from '../ui/FormRow';
import { Rows } from '../ui/Rows';
import tone from '../ui/Words.module.css';

export interface Remark {
  readonly line: number | undefined;
  readonly what: string;
  readonly remedy: string;
  /** True where the sheet cannot be stored with it. */
  readonly stops: boolean;
}

/** What to mend, what a second pair of eyes would ask, and what became of a file of another program. */
export function Remarks({
  remarks,
  onGo,
  board,
  onMend,
  report = [],
  notes = [],
}: {
  remarks: readonly Remark[];
  onGo: (line: number | undefined) => void;
  board: Board;
  /** Takes another line for a part. */
  onMend: (ref: string, line: string) => void;
  report?: readonly PartReport[] | undefined;
  notes?: readonly string[] | undefined;
}) {
  const unclear = report.filter(({ became }) => became !== 'understood');
  const offers = new Map(board.parts.map((part) => [part.ref, mendingsOf(part)]));
  return (
    <section aria-label="Remarks">
      <h2>To look at</h2>
      {remarks.length === 0 && <p>Nothing: every line is understood.</p>}
      <Rows>
        {remarks.slice(0, 60).map((remark, i) => (
          <li key={i}>
            <span>
              {remark.stops && <b className={`${tone.mark} ${tone.attention}`}>to mend</b>}{' '}
              {remark.what}
              <small>{remark.remedy}</small>
            </span>
            {remark.line !== undefined && (
              <Button look="quiet" onClick={() => onGo(remark.line)}>
                line {remark.line}
              </Button>
            )}
          </li>
        ))}
      </Rows>
      {remarks.length > 60 && <p>and {remarks.length - 60} more</p>}
      {notes.length > 0 && (
        <Fold>
          <summary>What was understood of the file</summary>
          {notes.map((note) => (
            <p key={note}>{note}</p>
          ))}
          <Rows>
            {unclear.map(({ ref, as, why }) => (
              <li key={ref}>
                <span>
                  <b className="mono">{ref}</b>{' '}
                  {offers.get(ref)?.length === 0 &&
                  board.parts.some((part) => part.ref === ref && part.kind !== 'unspecified')
                    ? 'is said now'
                    : `became ${as}`}
                  {why && (offers.get(ref)?.length ?? 0) > 0 && <small>{why}</small>}
                </span>
                <Actions as="span">
                  {(offers.get(ref) ?? []).map(({ words, line }) => (
                    <Button
                      key={line}
                      look="quiet"
                      aria-label={`${ref}: ${words}`}
                      onClick={() => onMend(ref, line)}
                    >
                      {words}
                    </Button>
                  ))}
                </Actions>
              </li>
            ))}
          </Rows>
        </Fold>
      )}
    </section>
  );
}
