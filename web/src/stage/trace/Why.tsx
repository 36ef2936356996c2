import type { BoardIndex } from '@hanzai/core/board';
import type { OddsSource } from '../../case/engine-request';
import type { JudgedExpectation } from '../../case/expectation';
import type { Journal } from '../../case/journal';
import { decibanText, pointsText, valueText } from '../../case/wording';
import { Button } from '../../ui/Button';
import type { LineUp, WhyAnswer } from '../../workers/engine-messages';
import { sideWords, sourcesWords, waterfall, weighsWords } from './argument-words';
import type { Sides } from './use-why';
import { Pane } from './Pane';
import { PredictedAgainstRead, Waterfall } from './WhyCharts';
import style from './Why.module.css';

interface Props {
  readonly index: BoardIndex;
  readonly journal: Journal;
  readonly lineUp: LineUp | undefined;
  readonly sides: Sides;
  readonly answer: WhyAnswer | undefined;
  readonly failure: string | undefined;
  /** What moved the odds before any reading. */
  readonly sources: readonly OddsSource[];
  readonly onSides: (sides: Sides | undefined) => void;
  /** Puts a point into the reading line, to repeat it. */
  readonly onRepeat: (text: string) => void;
}

/** How many suspects one can choose a side from. */
const CHOICES = 14;

/**
 * Why one suspect is believed more than another: the readings by weight, what either would show
 * beside what was read, and the reading on which the order turns.
 */
export default function Why({
  index,
  journal,
  lineUp,
  sides,
  answer,
  failure,
  sources,
  onSides,
  onRepeat,
}: Props) {
  const refs = lineUp?.entries.slice(0, CHOICES).map(({ ref }) => ref) ?? [];
  return (
    <Pane
      title="Why"
      onClose={() => onSides(undefined)}
      tools={
        <>
          <SideChoice
            label="this one"
            value={sides.one}
            refs={refs}
            onChange={(one) => onSides({ ...sides, one })}
          />
          <span>rather than</span>
          <SideChoice
            label="that one"
            value={sides.other}
            refs={refs}
            onChange={(other) => onSides({ ...sides, other })}
          />
          <Button look="quiet" onClick={() => onSides({ one: sides.other, other: sides.one })}>
            Turn round
          </Button>
        </>
      }
    >
      {failure ? (
        <p role="status">It could not be worked out: {failure}</p>
      ) : !answer ? (
        <p role="status">Being worked out …</p>
      ) : (
        <>
          <Told {...{ index, journal, sides, answer, onRepeat }} />
          <p className={style.told}>{sourcesWords(sources, sides)}</p>
        </>
      )}
    </Pane>
  );
}

function SideChoice({
  label,
  value,
  refs,
  onChange,
}: {
  label: string;
  value: string;
  refs: readonly string[];
  onChange: (ref: string) => void;
}) {
  const all = refs.includes(value) || value === '' ? refs : [value, ...refs];
  return (
    <select
      aria-label={label}
      className="mono"
      value={value}
      onChange={(event) => onChange(event.target.value)}
    >
      {all.map((ref) => (
        <option key={ref} value={ref}>
          {ref}
        </option>
      ))}
      <option value="">nothing wrong</option>
    </select>
  );
}

function Told({
  index,
  journal,
  sides,
  answer,
  onRepeat,
}: Pick<Props, 'index' | 'journal' | 'sides' | 'onRepeat'> & { answer: WhyAnswer }) {
  const typed = new Map(journal.readings.map(({ entry }) => [entry.id, entry.body]));
  const name = (id: string): string => typed.get(id)?.typed ?? '';
  const rows = [...answer.rows].sort((a, b) => Math.abs(b.moved) - Math.abs(a.moved));
  const turning = answer.turnsOn === undefined ? undefined : typed.get(answer.turnsOn);
  return (
    <>
      <p role="status" className={style.told}>
        <b>{weighsWords(answer, sides)}</b>{' '}
        {turning ? (
          <>
            It rests on one reading: without <b className="mono">{turning.typed}</b> it would be the
            other way round.{' '}
            <Button
              look="quiet"
              onClick={() => onRepeat(`${turning.at} ${turning.to || ''}`.trim())}
            >
              Repeat it first
            </Button>
          </>
        ) : (
          answer.rows.length > 0 && 'No single reading turns it round.'
        )}
      </p>
      <div className={style.halves}>
        <Waterfall steps={waterfall(answer, name)} sides={sides} />
        <PredictedAgainstRead journal={journal} answer={answer} />
      </div>
      <div className={style.table} tabIndex={0} role="region" aria-label="Readings by weight">
        <table>
          <thead>
            <tr>
              <th scope="col">Reading</th>
              <th scope="col">read</th>
              <th scope="col">{sideWords(sides.one, answer.one)}</th>
              <th scope="col">{sideWords(sides.other, answer.other)}</th>
              <th scope="col">speaks</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ id, moved, one, other }) => {
              const body = typed.get(id);
              return (
                body && (
                  <tr key={id}>
                    <th scope="row">{pointsText(index, body.at, body.to)}</th>
                    <td>{valueText(body.quantity, body.value)}</td>
                    <Shown said={one} />
                    <Shown said={other} />
                    <td title={decibanText(moved)}>
                      {Math.abs(moved) < 1
                        ? 'says nothing between them'
                        : `for ${moved > 0 ? sides.one || 'nothing wrong' : sides.other || 'nothing wrong'}`}
                    </td>
                  </tr>
                )
              );
            })}
          </tbody>
        </table>
      </div>
    </>
  );
}

function Shown({ said }: { said: JudgedExpectation | undefined }) {
  return (
    <td className={said && !said.within ? style.out : undefined}>
      {said?.display ?? 'no answer'}{' '}
      <small>{said ? (said.within ? 'as read' : 'not so') : ''}</small>
    </td>
  );
}
