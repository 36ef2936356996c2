import type { PartReport } from '@hanzai/core/board';
import { Button } from '../ui/Button';
import { Fold } from '../ui/Fold';
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
  report = [],
  notes = [],
}: {
  remarks: readonly Remark[];
  onGo: (line: number | undefined) => void;
  report?: readonly PartReport[] | undefined;
  notes?: readonly string[] | undefined;
}) {
  const unclear = report.filter(({ became }) => became !== 'understood');
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
                  <b className="mono">{ref}</b> became {as}
                  {why && <small>{why}</small>}
                </span>
              </li>
            ))}
          </Rows>
        </Fold>
      )}
    </section>
  );
}
